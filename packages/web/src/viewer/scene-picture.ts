import type { PictureChunk, PictureEdges } from '@tally/core';
import * as THREE from 'three';
import { createElementMaterials, createStateTexture, type ElementLook, writeElementLook } from './element-shader.ts';
import { findBall } from './find-ball.ts';

/** Further than any building reaches, m. */
export const UNCUT = 1e9;
/** How far a hairline covers what is under it. */
const EDGE_COVER = 0.45;

/** A chunk that is drawn; its rows are counted from `offset` on. */
export interface DrawnChunk {
  readonly chunk: PictureChunk;
  readonly offset: number;
  /** Ball around it, counted from its own origin. */
  readonly ball: THREE.Sphere;
}

/**
 * What of a building is drawn: faces and edges, two calls per chunk, and one state per element in a texture, so that a change of colours
 * touches no geometry. Everything counts from the place of the first chunk: far from the world's own origin 32 bits are too few.
 */
export class ScenePicture {
  readonly scene = new THREE.Scene();
  /** Ball around everything; its radius is negative while there is nothing. */
  readonly bounds = new THREE.Sphere(new THREE.Vector3(), -1);
  /** Normal and distance of the plane beyond which nothing is drawn. */
  readonly cut = { value: new THREE.Vector4(0, 0, 1, UNCUT) };
  bufferBytes = 0;
  private readonly edges = new THREE.Group();
  private readonly edgeLook = { value: new THREE.Vector4() };
  /** Pixels of a metre that is one metre away. */
  readonly scale = { value: 1000 };
  private states = createStateTexture(1);
  private drawn: DrawnChunk[] = [];
  private at: THREE.Vector3 | null = null;
  materials = createElementMaterials(this.states, this.cut, this.edgeLook, this.scale);

  constructor() {
    this.scene.add(this.edges);
  }

  /** Place of the model's world that the scene counts from; its own origin while nothing is drawn. */
  get origin(): THREE.Vector3 {
    return this.at ?? new THREE.Vector3();
  }

  get chunks(): readonly DrawnChunk[] {
    return this.drawn;
  }

  setColours(background: string, edge: string): void {
    this.scene.background = new THREE.Color(background);
    const { r, g, b } = new THREE.Color(edge);
    this.edgeLook.value.set(r, g, b, EDGE_COVER);
  }

  /** Makes room for so many elements and forgets what was drawn. */
  reset(elementCount: number): void {
    for (const parent of [this.scene, this.edges])
      for (const child of parent.children.filter((c) => c !== this.edges) as (THREE.Mesh | THREE.LineSegments)[]) {
        parent.remove(child);
        child.geometry.dispose();
      }
    this.states.dispose();
    this.states = createStateTexture(elementCount);
    this.materials = createElementMaterials(this.states, this.cut, this.edgeLook, this.scale);
    this.bounds.radius = -1;
    this.at = null;
    this.drawn = [];
    this.bufferBytes = 0;
  }

  addChunk(chunk: PictureChunk, offset: number): void {
    const { centre, radius } = findBall(chunk.positions);
    const ball = new THREE.Sphere(new THREE.Vector3(...centre), radius);
    this.drawn.push({ chunk, offset, ball });
    const element = new Float32Array(chunk.positions.length / 3);
    for (const e of chunk.elements) element.fill(offset + e.row, e.firstVertex, e.firstVertex + e.vertexCount);
    const geometry = new THREE.BufferGeometry();
    geometry.boundingSphere = ball;
    geometry.setAttribute('position', new THREE.BufferAttribute(chunk.positions, 3));
    geometry.setAttribute('tint', new THREE.BufferAttribute(chunk.colours, 4, true));
    geometry.setAttribute('element', new THREE.BufferAttribute(element, 1));
    geometry.setIndex(new THREE.BufferAttribute(chunk.indices, 1));
    this.bufferBytes +=
      chunk.positions.byteLength + chunk.colours.byteLength + element.byteLength + chunk.indices.byteLength;
    this.at ??= new THREE.Vector3(...chunk.origin);
    const mesh = new THREE.Mesh(geometry, this.materials.draw);
    this.place(mesh, chunk);
    this.scene.add(mesh);
    const sphere = ball.clone().translate(mesh.position);
    if (this.bounds.radius < 0) this.bounds.copy(sphere);
    else this.bounds.union(sphere);
  }

  /** Hairlines of a chunk; nothing if the chunk is not drawn any more. */
  addEdges({ positions, rows }: PictureEdges, of: PictureChunk): void {
    const bodies = this.drawn.find((d) => d.chunk === of);
    if (!bodies) return;
    const { offset, ball } = bodies;
    const geometry = new THREE.BufferGeometry();
    geometry.boundingSphere = ball;
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
    geometry.setAttribute('element', new THREE.BufferAttribute(rows.map((row) => row + offset), 1)); // biome-ignore format: one line
    this.bufferBytes += positions.byteLength + rows.byteLength;
    const lines = new THREE.LineSegments(geometry, this.materials.edges);
    this.place(lines, of);
    this.edges.add(lines);
  }

  /** Sets how elements are drawn. */
  setLooks(looks: Iterable<readonly [element: number, look: ElementLook]>): void {
    for (const [element, look] of looks) writeElementLook(this.states, element, look);
    this.states.needsUpdate = true;
  }

  /** Draws bodies with another material; edges only with their own. */
  swapMaterial(material: THREE.ShaderMaterial): void {
    for (const child of this.scene.children) if (child !== this.edges) (child as THREE.Mesh).material = material;
    this.edges.visible = material === this.materials.draw;
  }

  /** Leaves the hairlines out of what is drawn, or draws them again. */
  hideEdges(areHidden: boolean): void {
    this.edges.visible = !areHidden;
  }

  private place(object: THREE.Object3D, { origin }: PictureChunk): void {
    object.position.set(...origin).sub(this.origin);
    object.frustumCulled = false;
  }
}
