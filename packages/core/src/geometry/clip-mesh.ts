import { meshPolygons, type SpacePolygon } from './mesh-solid.ts';
import { isPointInPolygon } from './outline.ts';
import { traceRings } from './trace-rings.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { areaVector, cross, dot, normalize, type Vector2, type Vector3 } from './vector.ts';

/** Half of space: where n·p is not more than the offset. The normal is of unit length; metres. */
export interface HalfSpace {
  readonly normal: Vector3;
  readonly offsetM: number;
}

/** Points this near to a plane lie in it, m. */
const IN_PLANE_M = 1e-8;
/** Ends of cut edges that are one point, m. */
const ONE_POINT_M = 1e-6;

/**
 * The part of a closed, oriented mesh that lies in a half-space, closed by a face in its plane.
 * @example a cube of 2 m cut at half its height: volume 4, surface 16
 */
export function clipMesh(mesh: TriangleMesh, { normal, offsetM }: HalfSpace): TriangleMesh {
  const faces: SpacePolygon[] = [];
  const edges: [Vector3, Vector3][] = [];
  const at = (i: number): Vector3 => {
    const p = mesh.indices[i]! * 3;
    return [mesh.positions[p]!, mesh.positions[p + 1]!, mesh.positions[p + 2]!];
  };
  /** Distance from the plane, beyond it positive; a hair is nothing. */
  const off = (p: Vector3) => {
    const d = dot(p, normal) - offsetM;
    return Math.abs(d) < IN_PLANE_M ? 0 : d;
  };
  for (let i = 0; i < mesh.indices.length; i += 3) {
    const corners = [at(i), at(i + 1), at(i + 2)];
    const offs = corners.map(off);
    if (offs.every((d) => d >= 0)) continue;
    const kept = offs.some((d) => d > 0) ? keepInside(corners, offs) : corners;
    if (kept.length < 3) continue;
    for (const [k, p] of kept.entries()) {
      const q = kept[(k + 1) % kept.length]!;
      if (Math.abs(off(p)) < 2 * IN_PLANE_M && Math.abs(off(q)) < 2 * IN_PLANE_M) edges.push([q, p]);
    }
    for (let k = 1; k + 1 < kept.length; k++) faces.push([[kept[0]!, kept[k]!, kept[k + 1]!]]);
  }
  return meshPolygons([...faces, ...closeCut(edges, normal)]);
}

/** The part of a flat polygon that is not beyond a plane. @param offs distance of each corner from it, beyond it positive */
export function keepInside(corners: readonly Vector3[], offs: readonly number[]): Vector3[] {
  return corners.flatMap((a, k): Vector3[] => {
    const next = (k + 1) % corners.length;
    const [b, da, db] = [corners[next]!, offs[k]!, offs[next]!];
    const out: Vector3[] = da <= 0 ? [a] : [];
    if (da * db < 0) {
      // From the same end each time, so that both triangles of an edge get the same point.
      const [p, q, dp, dq] = isBefore(a, b) ? [a, b, da, db] : [b, a, db, da];
      const t = dp / (dp - dq);
      out.push([p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t]);
    }
    return out;
  });
}

const isBefore = (a: Vector3, b: Vector3) => a[0] - b[0] < 0 || (a[0] === b[0] && (a[1] - b[1] < 0 || (a[1] === b[1] && a[2] < b[2]))); // biome-ignore format: one order

/** The faces that close a cut, from its edges; those that run both ways cancel. */
function closeCut(edges: readonly (readonly [Vector3, Vector3])[], normal: Vector3): SpacePolygon[] {
  const numbers = new Map<string, number>();
  const points: Vector3[] = [];
  const numberOf = (p: Vector3): number => {
    const key = p.map((c) => Math.round(c / ONE_POINT_M)).join();
    const known = numbers.get(key);
    if (known !== undefined) return known;
    numbers.set(key, points.length);
    return points.push(p) - 1;
  };
  const loops = traceRings(edges.map(([p, q]): [number, number] => [numberOf(p), numberOf(q)]))
    .filter((ring) => ring.isClosed && ring.points.length > 2)
    .map((ring) => ring.points.map((n) => points[n]!));
  const isOuter = (loop: readonly Vector3[]) => dot(areaVector(loop), normal) > 0;
  const u = normalize(cross(normal, Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const v = cross(normal, u);
  const flat = (p: Vector3): Vector2 => [dot(p, u), dot(p, v)];
  const outer = loops.filter(isOuter).map((loop) => ({ rings: [loop], plan: loop.map(flat) }));
  for (const hole of loops.filter((l) => !isOuter(l)))
    (outer.find((o) => isPointInPolygon(flat(hole[0]!), o.plan)) ?? outer[0])?.rings.push(hole);
  return outer.map((o) => o.rings);
}
