import { isPointInPolygon } from './outline.ts';
import { TOLERANCE } from './tolerances.ts';
import { traceRings } from './trace-rings.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { areaVector, cross, dot, lengthOf, normalize, type Vector2, type Vector3 } from './vector.ts';

/** A flat part of a mesh: its outer outline, counter-clockwise seen from outside. */
export interface PlaneOutline {
  readonly outline: readonly Vector3[];
  readonly normal: Vector3;
  /** Holes in it, clockwise; only where they were asked for. */
  readonly holes?: readonly (readonly Vector3[])[];
}

/** Triangles belong to one plane if they look the same way within this cosine and lie in it within `TOLERANCE.touch`. */
const FLAT = 1 - 1e-6;

interface Plane {
  readonly normal: Vector3;
  readonly offset: number;
  readonly triangles: (readonly [number, number, number])[];
}

/** Flat parts of a mesh whose outward normal is wanted, each piece that hangs together for itself. */
export function listPlaneOutlines(
  { positions, indices }: TriangleMesh,
  isWanted: (normal: Vector3) => boolean,
  wantsHoles = false,
): PlaneOutline[] {
  const points: Vector3[] = [];
  const numbers = new Map<string, number>();
  const weld = (vertex: number): number => {
    const p: Vector3 = [positions[vertex * 3]!, positions[vertex * 3 + 1]!, positions[vertex * 3 + 2]!];
    const key = p.map((c) => Math.round(c / TOLERANCE.point)).join();
    const known = numbers.get(key);
    if (known !== undefined) return known;
    numbers.set(key, points.length);
    return points.push(p) - 1;
  };
  const planes: Plane[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const corners = [weld(indices[i]!), weld(indices[i + 1]!), weld(indices[i + 2]!)] as const;
    const [a, b, c] = corners.map((n) => points[n]!) as [Vector3, Vector3, Vector3];
    const n = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
    if (lengthOf(n) < TOLERANCE.point ** 2) continue;
    const normal = normalize(n);
    if (!isWanted(normal)) continue;
    const offset = dot(normal, a);
    const plane = planes.find((p) => dot(p.normal, normal) > FLAT && Math.abs(p.offset - offset) < TOLERANCE.touch);
    if (plane) plane.triangles.push(corners);
    else planes.push({ normal, offset, triangles: [corners] });
  }
  return planes.flatMap(({ normal, triangles }) => {
    const loops = traceOutlines(points, triangles)
      .map((loop) => straighten(loop.map((n) => points[n]!)))
      .filter((outline) => outline.length > 2);
    const isOuter = (outline: readonly Vector3[]) => dot(areaVector(outline), normal) > 0;
    const outer = loops.filter(isOuter).map((outline) => ({ outline, normal, holes: [] as Vector3[][] }));
    // What runs the other way round is a hole of the outline around it.
    if (wantsHoles)
      for (const hole of loops.filter((l) => !isOuter(l))) findAround(outer, hole, normal)?.holes.push(hole);
    return wantsHoles ? outer : outer.map(({ outline }) => ({ outline, normal }));
  });
}

function findAround<T extends { readonly outline: readonly Vector3[] }>(
  outer: readonly T[],
  hole: readonly Vector3[],
  normal: Vector3,
): T | undefined {
  if (outer.length < 2) return outer[0];
  const u = normalize(cross(normal, Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const v = cross(normal, u);
  const flat = (p: Vector3): Vector2 => [dot(p, u), dot(p, v)];
  return outer.find((o) => isPointInPolygon(flat(hole[0]!), o.outline.map(flat)));
}

/** Closed runs of the edges that only one triangle has. */
function traceOutlines(points: readonly Vector3[], triangles: Plane['triangles']): number[][] {
  const used = new Set(triangles.flat());
  const edges = triangles.flatMap((t) => [0, 1, 2].flatMap((k) => splitEdge(points, t[k]!, t[(k + 1) % 3]!, used)));
  return traceRings(edges).map((ring) => ring.points);
}

/** An edge in the pieces that other corners lying on it make of it. */
function splitEdge(points: readonly Vector3[], a: number, b: number, others: ReadonlySet<number>): [number, number][] {
  const [p, q] = [points[a]!, points[b]!];
  const along: Vector3 = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
  const length = lengthOf(along);
  const between: { n: number; t: number }[] = [];
  for (const n of others) {
    if (n === a || n === b) continue;
    const r: Vector3 = [points[n]![0] - p[0], points[n]![1] - p[1], points[n]![2] - p[2]];
    const t = dot(r, along) / length;
    if (t <= 0 || t >= length || lengthOf(cross(r, along)) / length > TOLERANCE.point) continue;
    between.push({ n, t });
  }
  between.sort((x, y) => x.t - y.t);
  const run = [a, ...between.map((o) => o.n), b];
  return run.slice(1).map((n, i): [number, number] => [run[i]!, n]);
}

/** An outline without corners on straight runs. */
function straighten(outline: readonly Vector3[]): Vector3[] {
  return outline.filter((p, i) => {
    const [before, after] = [outline.at(i - 1)!, outline[(i + 1) % outline.length]!];
    const u: Vector3 = [p[0] - before[0], p[1] - before[1], p[2] - before[2]];
    const v: Vector3 = [after[0] - p[0], after[1] - p[1], after[2] - p[2]];
    return lengthOf(cross(u, v)) > TOLERANCE.point * lengthOf(v);
  });
}
