import { appendToList } from '../result/append-to-list.ts';
import { DisjointSets } from './disjoint-sets.ts';
import { TOLERANCE } from './tolerances.ts';
import { cross, dot, lengthOf, normalize, type Vector3 } from './vector.ts';
import { weldPoints } from './weld-points.ts';

/** Triangles: three coordinates a vertex, three vertex numbers a triangle. Metres, in whatever frame the caller says. */
export interface TriangleMesh {
  readonly positions: ArrayLike<number>;
  readonly indices: ArrayLike<number>;
}

export interface MeshMeasures {
  /** Enclosed volume, m3; only meaningful if `isClosed`. Negative if the faces look inward. */
  readonly volumeM3: number;
  readonly areaM2: number;
  /** Nothing can flow out: every stretch of an edge has as many triangles one way as the other. */
  readonly isClosed: boolean;
  readonly min: Vector3;
  readonly max: Vector3;
}

/**
 * Volume by signed tetrahedra from the first vertex, area by triangles, and the check that the body is closed.
 * Returns null for a mesh without triangles.
 */
export function measureMesh({ positions, indices }: TriangleMesh): MeshMeasures | null {
  if (indices.length < 3) return null;
  const first = indices[0]! * 3;
  const [ox, oy, oz] = [positions[first]!, positions[first + 1]!, positions[first + 2]!];
  let volume = 0;
  let area = 0;
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < indices.length; i += 3) {
    const at = (k: number, c: number) => positions[indices[i + k]! * 3 + c]!;
    const ax = at(0, 0) - ox, ay = at(0, 1) - oy, az = at(0, 2) - oz; // biome-ignore format: one vertex a line
    const bx = at(1, 0) - ox, by = at(1, 1) - oy, bz = at(1, 2) - oz; // biome-ignore format: one vertex a line
    const cx = at(2, 0) - ox, cy = at(2, 1) - oy, cz = at(2, 2) - oz; // biome-ignore format: one vertex a line
    volume += (ax * (by * cz - bz * cy) - ay * (bx * cz - bz * cx) + az * (bx * cy - by * cx)) / 6;
    const ux = bx - ax, uy = by - ay, uz = bz - az; // biome-ignore format: one edge a line
    const vx = cx - ax, vy = cy - ay, vz = cz - az; // biome-ignore format: one edge a line
    area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
    for (let k = 0; k < 3; k++) {
      for (let c = 0; c < 3; c++) {
        const v = at(k, c);
        if (v < min[c]!) min[c] = v;
        if (v > max[c]!) max[c] = v;
      }
    }
  }
  return { volumeM3: volume, areaM2: area, isClosed: isClosedMesh({ positions, indices }), min, max };
}

/** Edges that have not as many triangles one way as the other, by welded point numbers, with what is too many. */
function listLooseEdges(welded: Int32Array): { a: number; b: number; excess: number }[] {
  const balance = new Map<number, number>();
  const size = welded.reduce((m, n) => Math.max(m, n), 0) + 1;
  for (let i = 0; i < welded.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const a = welded[i + k]!;
      const b = welded[i + ((k + 1) % 3)]!;
      if (a === b) continue;
      const key = Math.min(a, b) * size + Math.max(a, b);
      balance.set(key, (balance.get(key) ?? 0) + (a < b ? 1 : -1));
    }
  }
  const out: { a: number; b: number; excess: number }[] = [];
  for (const [key, excess] of balance) if (excess !== 0) out.push({ a: Math.floor(key / size), b: key % size, excess });
  return out;
}

/**
 * True if no edge is loose. Where a corner lies on another face's edge, the edge's pieces are balanced against the whole, line by
 * line.
 */
function isClosedMesh(mesh: TriangleMesh): boolean {
  const welded = weldPoints(mesh);
  const loose = listLooseEdges(welded);
  if (loose.length === 0) return true;
  const places = new Map<number, Vector3>();
  for (let i = 0; i < welded.length; i++) {
    const at = mesh.indices[i]! * 3;
    if (!places.has(welded[i]!))
      places.set(welded[i]!, [mesh.positions[at]!, mesh.positions[at + 1]!, mesh.positions[at + 2]!]);
  }
  const lines: { at: Vector3; along: Vector3; stretches: { from: number; to: number; excess: number }[] }[] = [];
  const edges = loose
    .map(({ a, b, excess }) => ({ p: places.get(a)!, q: places.get(b)!, excess }))
    .map((e) => ({ ...e, length: lengthOf([e.q[0] - e.p[0], e.q[1] - e.p[1], e.q[2] - e.p[2]]) }))
    .sort((x, y) => y.length - x.length);
  // An open sheet has loose edges in every direction: more lines than a body with split edges ever has need no search.
  if (edges.length > MOST_LOOSE) return false;
  for (const { p, q, excess, length } of edges) {
    const along = normalize([q[0] - p[0], q[1] - p[1], q[2] - p[2]]);
    const offset = (l: { at: Vector3; along: Vector3 }, r: Vector3): Vector3 => [r[0] - l.at[0], r[1] - l.at[1], r[2] - l.at[2]]; // biome-ignore format: one difference
    const isOn = (l: { at: Vector3; along: Vector3 }, r: Vector3) => lengthOf(cross(offset(l, r), l.along)) < 2 * TOLERANCE.point; // biome-ignore format: one test
    const line = lines.find((l) => isOn(l, p) && isOn(l, q));
    if (!line) {
      lines.push({ at: p, along, stretches: [{ from: 0, to: length, excess }] });
      continue;
    }
    const [s, e] = [dot(offset(line, p), line.along), dot(offset(line, q), line.along)];
    line.stretches.push(s < e ? { from: s, to: e, excess } : { from: e, to: s, excess: -excess });
  }
  return lines.every(({ stretches }) => isBalanced(stretches));
}
const MOST_LOOSE = 3000;

function isBalanced(stretches: readonly { from: number; to: number; excess: number }[]): boolean {
  const steps = stretches
    .flatMap(({ from, to, excess }) => [[from, excess] as const, [to, -excess] as const])
    .sort((a, b) => a[0] - b[0]);
  let sum = 0;
  let since = 0;
  for (const [at, step] of steps) {
    if (sum !== 0 && at - since > 4 * TOLERANCE.point) return false;
    sum += step;
    since = at;
  }
  return sum === 0;
}

/**
 * The mesh with all faces of each connected piece looking the same way, outward. Files are careless about it; the shape is clear all
 * the same. A piece that is closed as it stands keeps its sense unless all pieces look inward. Returns what was given where nothing
 * is to be turned.
 */
export function orientMesh(mesh: TriangleMesh): TriangleMesh {
  const measures = measureMesh(mesh);
  if (!measures) return mesh;
  if (measures.isClosed) return measures.volumeM3 < 0 ? turnTriangles(mesh, () => true) : mesh;
  const welded = weldPoints(mesh);
  const count = welded.length / 3;
  const size = welded.reduce((m, n) => Math.max(m, n), 0) + 1;
  const sharing = new Map<number, { triangle: number; isForward: boolean }[]>();
  for (let t = 0; t < count; t++) {
    for (let k = 0; k < 3; k++) {
      const [a, b] = [welded[t * 3 + k]!, welded[t * 3 + ((k + 1) % 3)]!];
      const key = Math.min(a, b) * size + Math.max(a, b);
      const list = sharing.get(key) ?? [];
      list.push({ triangle: t, isForward: a < b });
      sharing.set(key, list);
    }
  }
  const turned = new Int8Array(count).fill(-1);
  for (let seed = 0; seed < count; seed++) {
    if (turned[seed] !== -1) continue;
    turned[seed] = 0;
    const queue = [seed];
    for (let t = queue.pop(); t !== undefined; t = queue.pop()) {
      for (let k = 0; k < 3; k++) {
        const [a, b] = [welded[t * 3 + k]!, welded[t * 3 + ((k + 1) % 3)]!];
        const list = sharing.get(Math.min(a, b) * size + Math.max(a, b))!;
        // Edges of more than two faces do not tell which of them go on into each other.
        if (list.length !== 2) continue;
        const own = list.find((s) => s.triangle === t)!;
        const other = list.find((s) => s.triangle !== t);
        if (!other || turned[other.triangle] !== -1) continue;
        turned[other.triangle] = own.isForward === other.isForward ? 1 - turned[t]! : turned[t]!;
        queue.push(other.triangle);
      }
    }
  }
  if (turned.every((v) => v <= 0)) return mesh;
  const oriented = turnTriangles(mesh, (t) => turned[t] === 1);
  const after = measureMesh(oriented)!;
  if (!after.isClosed) return mesh;
  return after.volumeM3 < 0 ? turnTriangles(oriented, () => true) : oriented;
}

function turnTriangles({ positions, indices }: TriangleMesh, isTurned: (triangle: number) => boolean): TriangleMesh {
  const out = Uint32Array.from(indices);
  for (let i = 0; i < out.length; i += 3)
    if (isTurned(i / 3)) [out[i + 1], out[i + 2]] = [indices[i + 2]!, indices[i + 1]!];
  return { positions, indices: out };
}

/** Pieces of a mesh that do not share a point. */
export function listPieces(mesh: TriangleMesh): TriangleMesh[] {
  const welded = weldPoints(mesh);
  const size = welded.reduce((m, n) => Math.max(m, n), 0) + 1;
  const sets = new DisjointSets(size);
  for (let i = 0; i < welded.length; i += 3) {
    sets.join(welded[i]!, welded[i + 1]!);
    sets.join(welded[i]!, welded[i + 2]!);
  }
  const groups = new Map<number, number[]>();
  for (let i = 0; i < welded.length; i++) appendToList(groups, sets.root(welded[i]!), mesh.indices[i]!);
  return groups.size === 1
    ? [mesh]
    : [...groups.values()].map((indices) => ({ positions: mesh.positions, indices: Uint32Array.from(indices) }));
}
