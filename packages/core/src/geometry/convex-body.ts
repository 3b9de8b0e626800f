import { keepInside } from './clip-mesh.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { cross, dot, lengthOf, subtract, type Vector3 } from './vector.ts';
import { weldPoints } from './weld-points.ts';

/** A plane by a place on it and the way it looks out. */
interface Plane {
  readonly normal: Vector3;
  readonly place: Vector3;
}

/** A closed body without dents: its triangles, each with the plane it lies in. */
export interface ConvexBody {
  readonly planes: readonly Plane[];
  readonly triangles: readonly { readonly points: readonly Vector3[]; readonly plane: number }[];
}

/** Faces of one plane differ by no more than this, in metres and of directions. */
const SAME_PLANE = 1e-6;
/** Bodies of more triangles are cut at levels instead: every triangle would be held against every plane. */
const MOST_TRIANGLES = 256;
const known = new WeakMap<TriangleMesh, ConvexBody | null>();

/** A mesh as a convex body; null if it has a dent, is not closed, is drawn twice, or has too many triangles. */
export function toConvexBody(mesh: TriangleMesh): ConvexBody | null {
  const before = known.get(mesh);
  if (before !== undefined) return before;
  const made = readConvexBody(mesh);
  known.set(mesh, made);
  return made;
}

function readConvexBody(mesh: TriangleMesh): ConvexBody | null {
  const { positions, indices } = mesh;
  const count = indices.length / 3;
  if (count < 4 || count > MOST_TRIANGLES) return null;
  const welded = weldPoints(mesh);
  const corners = new Map<number, Vector3>();
  for (let i = 0; i < indices.length; i++) {
    const at = indices[i]! * 3;
    if (!corners.has(welded[i]!)) corners.set(welded[i]!, [positions[at]!, positions[at + 1]!, positions[at + 2]!]);
  }
  // A closed surface without holes through it has so many triangles (Euler); drawn twice it has twice as many.
  if (count !== 2 * corners.size - 4) return null;
  const all = [...corners.values()];
  const sum = all.reduce<Vector3>((s, p) => [s[0] + p[0], s[1] + p[1], s[2] + p[2]], [0, 0, 0]);
  const middle: Vector3 = [sum[0] / all.length, sum[1] / all.length, sum[2] / all.length];
  const planes: Plane[] = [];
  const triangles: { points: readonly Vector3[]; plane: number }[] = [];
  for (let i = 0; i < welded.length; i += 3) {
    const points = [corners.get(welded[i]!)!, corners.get(welded[i + 1]!)!, corners.get(welded[i + 2]!)!] as const;
    const across = cross(subtract(points[1], points[0]), subtract(points[2], points[0]));
    const size = lengthOf(across);
    if (size < 1e-12) return null;
    const isInward = dot(across, subtract(points[0], middle)) < 0;
    const scale = (isInward ? -1 : 1) / size;
    const normal: Vector3 = [across[0] * scale, across[1] * scale, across[2] * scale];
    const own: Plane = { normal, place: points[0] };
    let plane = planes.findIndex((p) => isSameWay(p, own) && Math.abs(measureBeyondM(p, points[0])) < SAME_PLANE);
    if (plane < 0) {
      if (all.some((p) => measureBeyondM(own, p) > SAME_PLANE)) return null;
      plane = planes.push(own) - 1;
    }
    triangles.push({ points: isInward ? [points[0], points[2], points[1]] : points, plane });
  }
  return { planes, triangles };
}

/**
 * Volume that two convex bodies have in common, m3: exact but for rounding. What bounds it are the faces of each as far as they lie in the
 * other; each is the base of a pyramid over one point (divergence theorem).
 * @example two boxes of 2 x 2 x 2 m, one moved by 1 m along x: 4
 */
export function measureConvexCommon(a: ConvexBody, b: ConvexBody): number {
  /** Planes that a face of each lies in, looking the same way. */
  const [sharedOfA, sharedOfB] = [new Set<number>(), new Set<number>()];
  for (const [i, p] of a.planes.entries())
    for (const [k, q] of b.planes.entries()) {
      const gap = measureBeyondM(p, q.place);
      if (isSameWay(p, q)) {
        if (Math.abs(gap) >= SAME_PLANE) continue;
        sharedOfA.add(i);
        sharedOfB.add(k);
        // Faces that look at each other: the bodies touch there, or lie apart.
      } else if (isOppositeWay(p, q) && gap > -SAME_PLANE) return 0;
    }
  const top = a.triangles[0]!.points[0]!;
  // A face that both have is counted with the first one.
  const own = sumPyramids(a, b.planes, sharedOfB, new Set(), top);
  return Math.max(0, own + sumPyramids(b, a.planes, sharedOfA, sharedOfB, top));
}

/** Volumes of the pyramids from a point to what of a body's faces lies within planes; some planes are not held against, some faces left out. */
function sumPyramids(
  { planes, triangles }: ConvexBody,
  within: readonly Plane[],
  passed: ReadonlySet<number>,
  leftOut: ReadonlySet<number>,
  top: Vector3,
): number {
  let volume = 0;
  for (const { points, plane } of triangles) {
    if (leftOut.has(plane)) continue;
    const { normal } = planes[plane]!;
    const height = -measureBeyondM(planes[plane]!, top);
    if (Math.abs(height) < 1e-15) continue;
    let piece = points;
    for (let i = 0; i < within.length && piece.length > 0; i++) {
      if (passed.has(i)) continue;
      const offs = piece.map((p) => measureBeyondM(within[i]!, p));
      if (offs.some((d) => d > 0)) piece = keepInside(piece, offs);
    }
    for (let k = 2; k < piece.length; k++) {
      const across = cross(subtract(piece[k - 1]!, piece[0]!), subtract(piece[k]!, piece[0]!));
      volume += (dot(across, normal) * height) / 6;
    }
  }
  return volume;
}

/** How far a place lies beyond a plane, m; negative within. */
const measureBeyondM = ({ normal, place }: Plane, p: Vector3): number =>
  normal[0] * (p[0] - place[0]) + normal[1] * (p[1] - place[1]) + normal[2] * (p[2] - place[2]);

const isSameWay = (a: Plane, b: Plane): boolean => lengthOf(subtract(a.normal, b.normal)) < SAME_PLANE;
const isOppositeWay = (a: Plane, b: Plane): boolean =>
  lengthOf([a.normal[0] + b.normal[0], a.normal[1] + b.normal[1], a.normal[2] + b.normal[2]]) < SAME_PLANE;
