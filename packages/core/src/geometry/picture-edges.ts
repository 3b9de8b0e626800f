import type { ChunkElement, PictureChunk } from './picture-chunk.ts';

/** Places closer than this are one, m: what is drawn is rounded to 32 bits. */
const WELD_M = 0.0005;
/** Faces that meet at less than this are one curved surface, and show no edge: cosine of 25°. */
const SMOOTH = Math.cos((25 * Math.PI) / 180);

/** Lines by which a shape is read, in the frame of its chunk: two ends each, and the row of the element they belong to. */
export interface PictureEdges {
  /** x, y, z of both ends, line by line. */
  readonly positions: Float32Array;
  /** Row of the element, end by end. */
  readonly rows: Float32Array;
}

/**
 * Edges of the elements of a chunk: where faces end, or meet at an angle. Where the triangles of a flat face meet there is none.
 * @example a box of twelve triangles has twelve edges
 */
export function listPictureEdges({ positions, indices, elements }: PictureChunk): PictureEdges {
  const ends: number[] = [];
  const rows: number[] = [];
  for (const element of elements) {
    const before = ends.length;
    gatherEdges(positions, indices, element, ends);
    for (let n = (ends.length - before) / 3; n > 0; n--) rows.push(element.row);
  }
  return { positions: Float32Array.from(ends), rows: Float32Array.from(rows) };
}

/** What lies at an edge: the normal of the first face at it, and whether it is drawn. */
interface Edge {
  readonly from: number;
  readonly to: number;
  readonly normal: readonly [number, number, number];
  faces: number;
  isSharp: boolean;
}

function gatherEdges(
  positions: Float32Array,
  indices: Uint32Array,
  { firstVertex, vertexCount, firstIndex, indexCount }: ChunkElement,
  ends: number[],
): void {
  // Corners in the same place are one, however often they are listed.
  const places = new Map<string, number>();
  const place = new Int32Array(vertexCount);
  for (let v = 0; v < vertexCount; v++) {
    const at = (firstVertex + v) * 3;
    const key = `${Math.round(positions[at]! / WELD_M)},${Math.round(positions[at + 1]! / WELD_M)},${Math.round(positions[at + 2]! / WELD_M)}`;
    const known = places.get(key);
    place[v] = known ?? v;
    if (known === undefined) places.set(key, v);
  }
  const edges = new Map<number, Edge>();
  for (let i = firstIndex; i < firstIndex + indexCount; i += 3) {
    const corners = [0, 1, 2].map((k) => place[indices[i + k]! - firstVertex]!) as [number, number, number];
    const normal = normalOf(positions, firstVertex, corners);
    if (!normal) continue;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [corners[k]!, corners[(k + 1) % 3]!];
      const [from, to] = a < b ? [a, b] : [b, a];
      const key = from * vertexCount + to;
      const known = edges.get(key);
      if (!known) edges.set(key, { from, to, normal, faces: 1, isSharp: false });
      else {
        known.faces++;
        const [x, y, z] = known.normal;
        // Faces may be turned round: one plane is one face from either side.
        if (Math.abs(x * normal[0] + y * normal[1] + z * normal[2]) < SMOOTH) known.isSharp = true;
      }
    }
  }
  for (const { from, to, faces, isSharp } of edges.values()) {
    if (faces > 1 && !isSharp) continue;
    for (const v of [from, to]) {
      const at = (firstVertex + v) * 3;
      ends.push(positions[at]!, positions[at + 1]!, positions[at + 2]!);
    }
  }
}

/** Unit normal of a triangle; null if it has no area. */
function normalOf(
  positions: Float32Array,
  firstVertex: number,
  [a, b, c]: readonly [number, number, number],
): [number, number, number] | null {
  const [p, q, r] = [(firstVertex + a) * 3, (firstVertex + b) * 3, (firstVertex + c) * 3];
  const side = (from: number, to: number, k: number) => positions[to + k]! - positions[from + k]!;
  const [ux, uy, uz] = [side(p, q, 0), side(p, q, 1), side(p, q, 2)];
  const [vx, vy, vz] = [side(p, r, 0), side(p, r, 1), side(p, r, 2)];
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const length = Math.hypot(x, y, z);
  return length > 1e-12 ? [x / length, y / length, z / length] : null;
}
