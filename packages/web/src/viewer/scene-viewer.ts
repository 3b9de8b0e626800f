import { joinShape, type PictureChunk, type PictureEdges, type TriangleMesh } from '@tally/core';
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { type CameraPlace, dropFarBoxes, fitCamera, type ViewBox } from './camera-fit.ts';
import type { ElementLook } from './element-shader.ts';
import { FaceMarks, findNearestTriangle, type MarkedFace } from './face-marks.ts';
import { FramePacer } from './frame-pacer.ts';
import { ScenePicture, UNCUT } from './scene-picture.ts';

/** A plane square to an axis of the model's world (0 east, 1 north, 2 up) at a place along it, m; what lies beyond is left out. */
export interface CutPlane {
  readonly axis: 0 | 1 | 2;
  readonly atM: number;
  readonly direction: 1 | -1;
}

export interface SceneColours {
  readonly background: string;
  readonly edge: string;
}

/**
 * Looks at a building of any size: camera, frames, what is under the pointer. Draws only when something has changed and it can be seen.
 */
export class SceneViewer {
  /** Draw calls and frames so far, for measuring. */
  readonly counters = { frames: 0, drawCalls: 0, bufferBytes: 0 };
  private readonly renderer: THREE.WebGLRenderer;
  private readonly picture = new ScenePicture();
  private readonly camera = new THREE.PerspectiveCamera(40, 1, 0.1, 5000);
  private readonly controls: OrbitControls;
  private readonly pickTarget = new THREE.WebGLRenderTarget(1, 1);
  private readonly placeTarget = new THREE.WebGLRenderTarget(1, 1, { type: THREE.FloatType });
  private readonly listeners = new Set<() => void>();
  private readonly resizer: ResizeObserver;
  private readonly watcher: IntersectionObserver;
  private isLookingDown = false;
  private cutPlane: CutPlane | null = null;
  private readonly marks = new FaceMarks();
  private frame = 0;
  private readonly pacer = new FramePacer();
  /** Calls back when the page can do something again. */
  private readonly after = new MessageChannel();
  private pause: ReturnType<typeof setTimeout> | undefined;
  /** While the camera moves a slow picture is drawn without its edges. */
  private stillness: ReturnType<typeof setTimeout> | undefined;
  /** What fills the view, until somebody moves it: when its room changes it is fitted anew. */
  private fitted: { readonly boxes: readonly ViewBox[]; readonly margin: number } | null = null;
  private isSeen = true;

  constructor(
    private readonly host: HTMLElement,
    /** Finds the edges of a chunk; without it none are drawn. */
    private readonly findEdges?: (chunk: PictureChunk) => Promise<PictureEdges | null>,
  ) {
    this.renderer = new THREE.WebGLRenderer({
      antialias: window.devicePixelRatio < 2 && !navigator.webdriver,
      powerPreference: 'low-power',
    });
    this.renderer.setPixelRatio(navigator.webdriver ? 1 : Math.min(window.devicePixelRatio, 2));
    host.append(this.renderer.domElement);
    this.renderer.domElement.style.display = 'block';
    this.camera.up.set(0, 0, 1);
    this.camera.position.set(-20, -30, 20);
    this.controls = new OrbitControls(this.camera, this.renderer.domElement);
    this.controls.addEventListener('change', () => {
      this.noteMove();
      this.wake();
    });
    this.controls.addEventListener('start', () => {
      this.fitted = null;
    });
    this.controls.maxPolarAngle = Math.PI * 0.95;
    this.resizer = new ResizeObserver(() => this.resize());
    this.resizer.observe(host);
    this.watcher = new IntersectionObserver(([entry]) => {
      this.isSeen = entry?.isIntersecting ?? true;
      this.wake();
    });
    this.watcher.observe(host);
    this.resize();
  }

  setColours({ background, edge }: SceneColours): void {
    this.picture.setColours(background, edge);
    this.wake();
  }

  /** Makes room for so many elements and forgets what was drawn. */
  reset(elementCount: number): void {
    this.moveWorld(() => this.picture.reset(elementCount));
    this.counters.bufferBytes = 0;
    this.wake();
  }

  /** Adds a chunk; its rows are counted from `offset` on. Its edges come a little later. */
  addChunk(chunk: PictureChunk, offset: number): void {
    this.moveWorld(() => this.picture.addChunk(chunk, offset));
    this.counters.bufferBytes = this.picture.bufferBytes;
    void this.findEdges?.(chunk).then((edges) => {
      if (!edges) return;
      this.picture.addEdges(edges, chunk);
      this.counters.bufferBytes = this.picture.bufferBytes;
      this.wakeSoon();
    });
    this.wakeSoon();
  }

  /** Does what may change the place that the scene counts from: the camera stays where it is in the world, and so does the cut. */
  private moveWorld(act: () => void): void {
    const before = this.picture.origin;
    act();
    const by = before.clone().sub(this.picture.origin);
    if (by.lengthSq() === 0) return;
    this.camera.position.add(by);
    this.controls.target.add(by);
    this.controls.update();
    this.setCut(this.cutPlane);
  }

  /** Sets how elements are drawn. */
  setLooks(looks: Iterable<readonly [element: number, look: ElementLook]>): void {
    this.picture.setLooks(looks);
    this.wake();
  }

  /** Moves the camera so that boxes fill the view, without the few that lie far off; keeps the direction of sight. */
  fit(boxes: readonly ViewBox[], margin = 1.06): void {
    this.fitted = { boxes, margin };
    const direction = this.camera.position.clone().sub(this.controls.target).normalize();
    const { fov, aspect, up } = this.camera;
    const opening = { fov, aspect, up: up.toArray() };
    const place = fitCamera(dropFarBoxes(boxes), direction.toArray(), opening, margin);
    if (place) this.moveTo(place);
  }

  /** Where the camera stands, in the model's world. */
  get cameraPlace(): CameraPlace {
    const { origin } = this.picture;
    return {
      position: this.camera.position.clone().add(origin).toArray(),
      target: this.controls.target.clone().add(origin).toArray(),
    };
  }

  standAt(place: CameraPlace): void {
    this.fitted = null;
    this.moveTo(place);
  }

  private moveTo({ position, target }: CameraPlace): void {
    const { origin } = this.picture;
    this.controls.target.set(...target).sub(origin);
    this.camera.position.set(...position).sub(origin);
    this.controls.update();
    this.wake();
  }

  /** Nothing in front of the eye or behind the building is drawn: so depth is told as finely as it can be. */
  private limitDepth(): void {
    const { radius, center } = this.picture.bounds;
    const distance = this.camera.position.distanceTo(center);
    const reach = radius > 0 ? radius : distance;
    this.camera.far = Math.max(10, (distance + reach) * 1.1);
    this.camera.near = Math.max(0.05, this.camera.far / 20_000, (distance - reach) * 0.9);
    this.picture.scale.value = this.host.clientHeight / (2 * Math.tan((this.camera.fov * Math.PI) / 360));
    this.camera.updateProjectionMatrix();
  }

  /** Looks straight down on what lies below a height. */
  lookDown(box: ViewBox, cutM: number): void {
    this.setCut({ axis: 2, atM: cutM, direction: 1 });
    this.controls.enableRotate = false;
    this.isLookingDown = true;
    this.camera.up.set(0, 1, 0);
    this.controls.target.set(0, 0, 0);
    this.camera.position.set(0, 0, 100);
    this.fit([[box[0], box[1], cutM - 1, box[3], box[4], cutM]], 1.05);
  }

  /** Back to the view in space, uncut; does nothing if that is the view already. */
  lookIntoSpace(listBoxes: () => readonly ViewBox[]): void {
    if (!this.isLookingDown) return;
    this.isLookingDown = false;
    this.setCut(null);
    this.controls.enableRotate = true;
    this.camera.up.set(0, 0, 1);
    this.controls.target.set(0, 0, 0);
    this.camera.position.set(-20, -30, 20);
    this.fit(listBoxes());
  }

  /** Leaves out what lies beyond a place along an axis of the model's world, m; `direction` -1 keeps the far side instead. */
  setCut(cut: CutPlane | null): void {
    const { axis, atM, direction } = cut ?? { axis: 2, atM: UNCUT, direction: 1 };
    const normal = [0, 0, 0].map((_, k) => (k === axis ? direction : 0)) as [number, number, number];
    const origin = this.picture.origin.getComponent(axis);
    this.cutPlane = cut;
    this.picture.cut.value.set(...normal, cut === null ? UNCUT : (atM - origin) * direction);
    this.wake();
  }

  /** Element under a point of the canvas, in CSS px; null if there is none. */
  pick(x: number, y: number): number | null {
    return this.pickWithin(x, y, 1, 1)[0] ?? null;
  }

  /** Elements seen within a rectangle of the canvas, in CSS px. */
  pickWithin(x: number, y: number, width: number, height: number): number[] {
    // A large rectangle is looked at in a coarser picture: nothing of a usual size is missed.
    const scale = Math.min(1, 512 / Math.max(width, height));
    const [w, h] = [Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale))];
    this.pickTarget.setSize(w, h);
    this.renderApart(this.picture.materials.pick, this.pickTarget, x, y, width, height);
    const pixels = new Uint8Array(w * h * 4);
    this.renderer.readRenderTargetPixels(this.pickTarget, 0, 0, w, h, pixels);
    const found = new Set<number>();
    for (let i = 0; i < pixels.length; i += 4) {
      const id = pixels[i]! + pixels[i + 1]! * 256 + pixels[i + 2]! * 65536;
      if (id > 0) found.add(id - 1);
    }
    return [...found];
  }

  /** Place in the model's world under a point of the canvas, metres; null if there is nothing. */
  placeAt(x: number, y: number): [number, number, number] | null {
    this.renderApart(this.picture.materials.place, this.placeTarget, x, y, 1, 1);
    const pixel = new Float32Array(4);
    this.renderer.readRenderTargetPixels(this.placeTarget, 0, 0, 1, 1, pixel);
    const o = this.picture.origin;
    return pixel[3]! > 0 ? [pixel[0]! + o.x, pixel[1]! + o.y, pixel[2]! + o.z] : null;
  }

  /** The triangle under a point of the canvas, with the shape of its element in the model's world; null if there is nothing. */
  triangleAt(x: number, y: number): { element: number; mesh: TriangleMesh; triangle: number } | null {
    const [element, place] = [this.pick(x, y), this.placeAt(x, y)];
    const mesh = element === null ? null : this.shapeOf(element);
    return element === null || !place || !mesh ? null : { element, mesh, triangle: findNearestTriangle(mesh, place) };
  }

  /** The shape of an element in the model's world; null while it has none. */
  shapeOf(element: number): TriangleMesh | null {
    const places = this.picture.chunks.flatMap(({ chunk, offset }) =>
      chunk.elements.filter((e) => offset + e.row === element).map((own) => ({ chunk, element: own })),
    );
    return joinShape(places);
  }

  /** Marks triangles of shapes in a colour over the building; an empty list takes the marks away. */
  mark(faces: readonly MarkedFace[], colour: string): void {
    this.marks.show(faces, colour, this.picture.origin);
    this.wake();
  }

  /** Where a place of the model's world is seen on the canvas, CSS px; null if it is behind the eye. */
  seenAt(place: readonly [number, number, number]): [number, number] | null {
    const at = new THREE.Vector3(...place).sub(this.picture.origin).project(this.camera);
    const { clientWidth: w, clientHeight: h } = this.renderer.domElement;
    return at.z > 1 ? null : [((at.x + 1) / 2) * w, ((1 - at.y) / 2) * h];
  }

  /** Calls back after each drawn frame; returns the way to stop it. */
  onFrame(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  /** Calls back when the camera has been moved by hand and stands still; returns the way to stop it. */
  onMoved(listener: () => void): () => void {
    this.controls.addEventListener('end', listener);
    return () => this.controls.removeEventListener('end', listener);
  }

  /** Tells whenever the camera goes elsewhere, by whoever moves it. */
  onTurned(listener: () => void): () => void {
    this.controls.addEventListener('change', listener);
    return () => this.controls.removeEventListener('change', listener);
  }

  /** Whether dragging turns the view; off while a rectangle is drawn. */
  setTurning(isOn: boolean): void {
    this.controls.enabled = isOn;
  }

  private renderApart(
    material: THREE.ShaderMaterial,
    target: THREE.WebGLRenderTarget,
    x: number,
    y: number,
    width: number,
    height: number,
  ): void {
    const { clientWidth: w, clientHeight: h } = this.renderer.domElement;
    this.camera.setViewOffset(w, h, x, y, width, height);
    this.picture.swapMaterial(material);
    const background = this.picture.scene.background;
    this.picture.scene.background = null;
    this.limitDepth();
    this.renderer.setRenderTarget(target);
    this.renderer.setClearColor(0x000000, 0);
    this.renderer.clear();
    this.renderer.render(this.picture.scene, this.camera);
    this.renderer.setRenderTarget(null);
    this.camera.clearViewOffset();
    this.picture.swapMaterial(this.picture.materials.draw);
    this.picture.scene.background = background;
  }

  get canvas(): HTMLCanvasElement {
    return this.renderer.domElement;
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    clearTimeout(this.pause);
    clearTimeout(this.stillness);
    this.after.port1.close();
    this.resizer.disconnect();
    this.watcher.disconnect();
    this.controls.dispose();
    this.reset(1);
    this.marks.show([], '', new THREE.Vector3());
    this.pickTarget.dispose();
    this.placeTarget.dispose();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }

  private resize(): void {
    const { clientWidth: w, clientHeight: h } = this.host;
    if (w === 0 || h === 0) return;
    this.renderer.setSize(w, h);
    this.camera.aspect = w / h;
    this.camera.updateProjectionMatrix();
    if (this.fitted) this.fit(this.fitted.boxes, this.fitted.margin);
    this.wake();
  }

  /** Asks for one frame; none is drawn while nothing moves or the view is hidden. */
  private wake(): void {
    if (this.frame !== 0 || !this.isSeen) return;
    clearTimeout(this.pause);
    this.pause = undefined;
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      this.draw();
    });
  }

  /** Asks for a frame for what has come by itself: when frames are slow, not for each part of it. */
  private wakeSoon(): void {
    const pauseMs = this.pacer.pauseAt(performance.now());
    if (pauseMs === 0) return this.wake();
    this.pause ??= setTimeout(() => {
      this.pause = undefined;
      this.wake();
    }, pauseMs);
  }

  private draw(): void {
    const began = performance.now();
    this.limitDepth();
    this.picture.hideEdges(this.stillness !== undefined && this.pacer.isSlow);
    this.renderer.render(this.picture.scene, this.camera);
    this.counters.frames++;
    this.counters.drawCalls = this.renderer.info.render.calls;
    this.marks.draw(this.renderer, this.camera);
    for (const listener of this.listeners) listener();
    // What the graphics card is given to do holds up the page only after this.
    this.after.port1.onmessage = () => {
      this.pacer.note(began, performance.now());
      // What one did meanwhile is only heard of now.
      if (this.stillness !== undefined) this.noteMove();
    };
    this.after.port2.postMessage(null);
  }

  /** The camera moves: once it has stood still for a moment everything is drawn. */
  private noteMove(): void {
    clearTimeout(this.stillness);
    this.stillness = setTimeout(() => {
      this.stillness = undefined;
      if (this.pacer.isSlow) this.wake();
    }, STILL_MS);
  }
}

/** A camera that has not moved for so long stands still, ms. */
const STILL_MS = 400;
