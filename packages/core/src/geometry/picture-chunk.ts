import { failure, type Result, success } from '../result/result.ts';
import { decodeUtf8 } from '../units/utf8.ts';
import type { TriangleMesh } from './triangle-mesh.ts';

/** Vertices and triangles of one element inside a chunk. */
export interface ChunkElement {
  /** Row of the element in its revision's table. */
  readonly row: number;
  readonly firstVertex: number;
  readonly vertexCount: number;
  readonly firstIndex: number;
  readonly indexCount: number;
}

/** A piece of a model's picture: many elements in shared arrays, drawn at once. Metres, Z up, relative to `origin`. */
export interface PictureChunk {
  readonly origin: readonly [number, number, number];
  readonly elements: readonly ChunkElement[];
  /** x, y, z per vertex. */
  readonly positions: Float32Array;
  /** Red, green, blue, opacity per vertex, 0 to 255. */
  readonly colours: Uint8Array;
  readonly indices: Uint32Array;
}

const MAGIC = 0x43594c54; // "TLYC"

/** Packs a chunk: magic, length of the JSON header, header, then the arrays, 4-byte aligned. */
export function encodePictureChunk(chunk: PictureChunk): Uint8Array {
  const { origin, elements, positions, colours, indices } = chunk;
  const header = JSON.stringify({
    origin,
    elements: elements.map((e) => [e.row, e.firstVertex, e.vertexCount, e.firstIndex, e.indexCount]),
    vertices: positions.length / 3,
    indices: indices.length,
  });
  const text = Uint8Array.from(header.padEnd(Math.ceil(header.length / 4) * 4), (c) => c.charCodeAt(0));
  const arrays = [positions, colours, indices].map((a) => new Uint8Array(a.buffer, a.byteOffset, a.byteLength));
  const out = new Uint8Array(8 + text.length + arrays.reduce((n, a) => n + a.length, 0));
  const view = new DataView(out.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, text.length, true);
  out.set(text, 8);
  let at = 8 + text.length;
  for (const a of arrays) {
    out.set(a, at);
    at += a.length;
  }
  return out;
}

/** Unpacks a chunk. Errors: `picture-format`. */
export function decodePictureChunk(bytes: Uint8Array): Result<PictureChunk> {
  const aligned = bytes.byteOffset % 4 === 0 ? bytes : bytes.slice();
  const view = new DataView(aligned.buffer, aligned.byteOffset, aligned.byteLength);
  if (aligned.length < 8 || view.getUint32(0, true) !== MAGIC)
    return failure('picture-format', 'The stored picture has an unknown format.', {
      remedy: 'Import the model again.',
    });
  const length = view.getUint32(4, true);
  const header = JSON.parse(decodeUtf8(aligned.subarray(8, 8 + length))) as {
    origin: [number, number, number];
    elements: number[][];
    vertices: number;
    indices: number;
  };
  const buffer = aligned.buffer as ArrayBuffer;
  let at = aligned.byteOffset + 8 + length;
  const take = (size: number) => {
    const from = at;
    at += size;
    return from;
  };
  const n = header.vertices;
  return success({
    origin: header.origin,
    elements: header.elements.map(([row, firstVertex, vertexCount, firstIndex, indexCount]) => ({
      row: row!,
      firstVertex: firstVertex!,
      vertexCount: vertexCount!,
      firstIndex: firstIndex!,
      indexCount: indexCount!,
    })),
    positions: new Float32Array(buffer, take(n * 12), n * 3),
    colours: new Uint8Array(buffer, take(n * 4), n * 4),
    indices: new Uint32Array(buffer, take(header.indices * 4), header.indices),
  });
}

/** The shape of one element from the places where it stands in chunks, in the model's world; null if it stands in none. */
export function joinShape(
  places: readonly { readonly chunk: PictureChunk; readonly element: ChunkElement }[],
): TriangleMesh | null {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const { chunk, element: e } of places) {
    const first = positions.length / 3 - e.firstVertex;
    for (let v = e.firstVertex * 3; v < (e.firstVertex + e.vertexCount) * 3; v++)
      positions.push(chunk.positions[v]! + chunk.origin[v % 3]!);
    for (let i = e.firstIndex; i < e.firstIndex + e.indexCount; i++) indices.push(chunk.indices[i]! + first);
  }
  return indices.length > 0 ? { positions, indices } : null;
}
