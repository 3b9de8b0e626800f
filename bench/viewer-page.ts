import { decodePictureChunk, listPictureEdges } from '@tally/core';
import type { MeshPiece } from '@tally/ifc';
import * as THREE from 'three';
import { PicturePacker } from '../packages/server/src/importers/picture-packer.ts';
import { SceneViewer, type ViewBox } from '../packages/web/src/viewer/index.ts';

/** What is counted of one way of drawing. */
export interface DrawnFigures {
  readonly drawCalls: number;
  readonly bufferBytes: number;
}

/** A way of drawing: turns by one frame at a time, and says what it drew with. */
interface Drawing {
  turn(frame: number): Promise<void>;
  figures(): DrawnFigures;
}

const ROW = 200;

/** Walls in rows, each a box of 24 corners so that its edges stay sharp. */
function makeWall(row: number): MeshPiece {
  const box = new THREE.BoxGeometry(4, 0.2, 3);
  box.translate((row % ROW) * 5, Math.floor(row / ROW) * 5, 1.5);
  return {
    item: 0,
    positions: new Float64Array(box.getAttribute('position').array),
    indices: new Uint32Array(box.getIndex()!.array),
    colour: [0.7, 0.6, 0.5, 1],
  };
}

const nextFrame = () => new Promise<number>(requestAnimationFrame);

/** Box around all walls, somewhat wider from frame to frame so that each one is drawn anew. */
function boxAt(count: number, frame: number): ViewBox {
  const wider = frame % 20;
  return [-wider, -wider, 0, ROW * 5 + wider, (count / ROW) * 5 + wider, 3];
}

/** The product's viewer with its chunks, states and picking. */
function drawWithViewer(host: HTMLElement, count: number): Drawing {
  const viewer = new SceneViewer(host, async (chunk) => listPictureEdges(chunk));
  viewer.reset(count);
  const packer = new PicturePacker((bytes) => {
    const chunk = decodePictureChunk(bytes);
    if (chunk.ok) viewer.addChunk(chunk.value, 0);
  });
  for (let row = 0; row < count; row++) packer.add(row, [makeWall(row)]);
  packer.flush();
  return {
    turn: async (frame) => {
      viewer.fit([boxAt(count, frame)]);
      await nextFrame();
    },
    figures: () => ({ drawCalls: viewer.counters.drawCalls, bufferBytes: viewer.counters.bufferBytes }),
  };
}

/** The baseline: everything in one mesh with positions, normals and colours, nothing to tell elements apart. */
function drawOneMesh(host: HTMLElement, count: number): Drawing {
  const renderer = new THREE.WebGLRenderer();
  renderer.setSize(host.clientWidth, host.clientHeight);
  host.append(renderer.domElement);
  const positions = new Float32Array(count * 24 * 3);
  const indices = new Uint32Array(count * 36);
  for (let row = 0; row < count; row++) {
    const wall = makeWall(row);
    positions.set(wall.positions, row * 72);
    indices.set(
      wall.indices.map((i) => i + row * 24),
      row * 36,
    );
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
  geometry.setAttribute('color', new THREE.BufferAttribute(new Uint8Array(count * 96).fill(180), 4, true));
  geometry.setIndex(new THREE.BufferAttribute(indices, 1));
  geometry.computeVertexNormals();
  const scene = new THREE.Scene();
  scene.add(
    new THREE.Mesh(geometry, new THREE.MeshLambertMaterial({ vertexColors: true })),
    new THREE.HemisphereLight(),
  );
  const camera = new THREE.PerspectiveCamera(40, host.clientWidth / host.clientHeight, 1, 5000);
  camera.up.set(0, 0, 1);
  const buffers = [...Object.values(geometry.attributes), geometry.getIndex()!];
  return {
    turn: async (frame) => {
      const [x0, y0, , x1, y1] = boxAt(count, frame);
      camera.position.set((x0 + x1) / 2 - 400, (y0 + y1) / 2 - 600 - (frame % 20), 400);
      camera.lookAt((x0 + x1) / 2, (y0 + y1) / 2, 0);
      await nextFrame();
      renderer.render(scene, camera);
    },
    figures: () => ({
      drawCalls: renderer.info.render.calls,
      bufferBytes: buffers.reduce((n, b) => n + b.array.byteLength, 0),
    }),
  };
}

let drawing: Drawing;

Object.assign(window, {
  startDrawing(kind: 'viewer' | 'mesh', count: number) {
    document.body.style.cssText = 'margin:0;width:800px;height:600px';
    drawing = (kind === 'viewer' ? drawWithViewer : drawOneMesh)(document.body, count);
  },
  async turnFrames(frames: number): Promise<DrawnFigures> {
    for (let n = 0; n < frames; n++) await drawing.turn(n);
    await nextFrame();
    return drawing.figures();
  },
});
