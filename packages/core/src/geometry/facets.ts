import { appendToList } from '../result/append-to-list.ts';
import { DisjointSets } from './disjoint-sets.ts';
import { traceRings } from './trace-rings.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { areaVector, dot, lengthOf, type Vector3 } from './vector.ts';
import { weldPoints } from './weld-points.ts';

/** A flat part of a mesh that hangs together: all its triangles lie in one plane. */
export interface Facet {
  /** Outward, unit length. */
  readonly normal: Vector3;
  readonly areaM2: number;
  /** Distance of its plane from the origin along the normal, m. */
  readonly offsetM: number;
  /** Middle of its area. */
  readonly centre: Vector3;
  /** Positions in `indices` at which its triangles begin. */
  readonly triangles: readonly number[];
}

/** Neighbouring triangles are one facet if they look the same way within this cosine: 0.3°. */
const FLAT = Math.cos((0.3 * Math.PI) / 180);
/** Smaller triangles have no direction worth reading, m2. */
const LEAST_M2 = 1e-9;

const cornerOf = (positions: ArrayLike<number>, vertex: number): Vector3 => [
  positions[vertex * 3]!,
  positions[vertex * 3 + 1]!,
  positions[vertex * 3 + 2]!,
];

/** Corners of the triangle that begins at a position of `indices`. */
export function triangleAt({ positions, indices }: TriangleMesh, at: number): [Vector3, Vector3, Vector3] {
  return [cornerOf(positions, indices[at]!), cornerOf(positions, indices[at + 1]!), cornerOf(positions, indices[at + 2]!)]; // biome-ignore format: one triangle
}

/**
 * Flat parts of a mesh. Triangles that share an edge and look the same way are one facet; its area is the length of the sum of their
 * area vectors.
 * @example a box of 2 x 1 x 3 m has six
 */
export function listFacets(mesh: TriangleMesh): Facet[] {
  const points = weldPoints(mesh);
  const count = mesh.indices.length / 3;
  const vectors: (Vector3 | null)[] = [];
  const edges = new Map<number, number>();
  const sets = new DisjointSets(count);
  const most = points.reduce((a, b) => Math.max(a, b), 0) + 1;
  for (let t = 0; t < count; t++) {
    const v = areaVector(triangleAt(mesh, t * 3));
    const isFlat = lengthOf(v) > LEAST_M2;
    vectors.push(isFlat ? v : null);
    if (!isFlat) continue;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [points[t * 3 + k]!, points[t * 3 + ((k + 1) % 3)]!];
      const key = Math.min(a, b) * most + Math.max(a, b);
      const other = edges.get(key);
      if (other === undefined) {
        edges.set(key, t);
        continue;
      }
      const w = vectors[other]!;
      if (dot(v, w) > FLAT * lengthOf(v) * lengthOf(w)) sets.join(other, t);
    }
  }
  const groups = new Map<number, number[]>();
  for (let t = 0; t < count; t++) {
    if (!vectors[t]) continue;
    appendToList(groups, sets.root(t), t * 3);
  }
  return [...groups.values()].map((triangles) => toFacet(mesh, triangles, vectors));
}

function toFacet(mesh: TriangleMesh, triangles: readonly number[], vectors: readonly (Vector3 | null)[]): Facet {
  const sum: [number, number, number] = [0, 0, 0];
  const centre: [number, number, number] = [0, 0, 0];
  let weight = 0;
  for (const at of triangles) {
    const v = vectors[at / 3]!;
    const area = lengthOf(v);
    const [a, b, c] = triangleAt(mesh, at);
    for (let k = 0; k < 3; k++) {
      sum[k]! += v[k]!;
      centre[k]! += ((a[k]! + b[k]! + c[k]!) / 3) * area;
    }
    weight += area;
  }
  const areaM2 = lengthOf(sum);
  const normal: Vector3 = [sum[0] / areaM2, sum[1] / areaM2, sum[2] / areaM2];
  const middle: Vector3 = [centre[0] / weight, centre[1] / weight, centre[2] / weight];
  return { normal, areaM2, offsetM: dot(normal, middle), centre: middle, triangles };
}

/** A direction that faces look along, either way, and how much of them does. */
export interface FaceDirection {
  readonly direction: Vector3;
  readonly areaM2: number;
}

/** Directions are one if they differ by less than this: 0.5°. */
const ONE_DIRECTION = Math.cos((0.5 * Math.PI) / 180);

/** Directions that faces look along, opposite ones together, the largest first. */
export function listFaceDirections(
  faces: readonly { readonly normal: Vector3; readonly areaM2: number }[],
): FaceDirection[] {
  const found: { direction: Vector3; areaM2: number }[] = [];
  for (const { normal, areaM2 } of [...faces].sort((a, b) => b.areaM2 - a.areaM2)) {
    const known = found.find((f) => Math.abs(dot(f.direction, normal)) > ONE_DIRECTION);
    if (known) known.areaM2 += areaM2;
    else found.push({ direction: normal, areaM2 });
  }
  return found.sort((a, b) => b.areaM2 - a.areaM2);
}

/** Closed runs of the edges that only one triangle of a facet has, each as the triangles run: outlines one way, holes the other. */
export function listFacetRings(mesh: TriangleMesh, { triangles }: Facet): Vector3[][] {
  const own = { positions: mesh.positions, indices: triangles.flatMap((at) => [mesh.indices[at]!, mesh.indices[at + 1]!, mesh.indices[at + 2]!]) }; // biome-ignore format: one mesh
  const welded = weldPoints(own);
  const places = new Map<number, Vector3>();
  const edges = Array.from(welded, (a, i): [number, number] => {
    places.set(a, cornerOf(mesh.positions, own.indices[i]!));
    return [a, welded[i % 3 === 2 ? i - 2 : i + 1]!];
  });
  return traceRings(edges).map(({ points }) => points.map((n) => places.get(n)!));
}
