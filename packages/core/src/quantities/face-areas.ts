import { profileToPolygon } from '../geometry/profile.ts';
import { measureSweptSolid, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { cross, dot, lengthOf, normalize, transformDirection, type Vector3 } from '../geometry/vector.ts';

/** Faces of a body by the way they look, m2. `ends` and `sides` are told apart by the direction across (walls) or along (beams). */
export interface FaceAreas {
  readonly topM2: number;
  readonly bottomM2: number;
  readonly sidesM2: number;
  readonly endsM2: number;
}

/** A face looks a way if its normal is within 45° of it. */
const TOWARDS = Math.SQRT1_2;

/** How faces are told apart: which way is up, and which pair of faces are the sides or the ends. */
export interface FaceDirections {
  /** Upward in the body's frame, unit length. */
  readonly up: Vector3;
  /** Across a wall: faces that look this way are sides, the other upright ones ends. */
  readonly across?: Vector3;
  /** Along a beam or column: faces that look this way are ends, whatever their slope. */
  readonly along?: Vector3;
}

type FaceName = keyof FaceAreas;

/** The way a face looks, by its outward normal. */
export function nameFace(normal: Vector3, { up, across, along }: FaceDirections): FaceName {
  if (along && Math.abs(dot(normal, along)) > TOWARDS) return 'endsM2';
  const rise = dot(normal, up);
  if (rise > TOWARDS) return 'topM2';
  if (rise < -TOWARDS) return 'bottomM2';
  return across && Math.abs(dot(normal, across)) <= TOWARDS ? 'endsM2' : 'sidesM2';
}

/**
 * Faces of a straight solid, without its openings. Curved faces are followed by chords and brought to their exact sum.
 * @example a beam 0.2 x 0.4 m, 5 m long, lying: top 1, bottom 1, sides 4, ends 0.16
 */
export function measureSweptFaces(solid: SweptSolid, directions: FaceDirections): FaceAreas {
  const sums: Record<FaceName, number> = { topM2: 0, bottomM2: 0, sidesM2: 0, endsM2: 0 };
  const { areaM2, lateralAreaM2 } = measureSweptSolid(solid);
  const toFrame = (v: Vector3) => normalize(transformDirection(solid.placement, v));
  const cap = toFrame([0, 0, Math.sign(solid.direction[2]) || 1]);
  sums[nameFace(cap, directions)] += areaM2;
  sums[nameFace([-cap[0], -cap[1], -cap[2]], directions)] += areaM2;
  const along = sweptDirection(solid);
  const faces = listLateralFaces(solid, toFrame, along);
  const chorded = faces.reduce((sum, f) => sum + f.area, 0);
  const scale = chorded > 0 ? lateralAreaM2 / chorded : 0;
  for (const { normal, area } of faces) sums[nameFace(normal, directions)] += area * scale;
  return sums;
}

function listLateralFaces(
  { profile, depth }: SweptSolid,
  toFrame: (v: Vector3) => Vector3,
  along: Vector3,
): { normal: Vector3; area: number }[] {
  const ring = profileToPolygon(profile);
  let turn = 0;
  for (let i = 0; i < ring.length; i++) {
    const [p, q] = [ring[i]!, ring[(i + 1) % ring.length]!];
    turn += p[0] * q[1] - q[0] * p[1];
  }
  const sign = Math.sign(turn) * (dot(toFrame([0, 0, 1]), along) < 0 ? -1 : 1) || 1;
  return ring.map((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    const edge: Vector3 = [q[0] - p[0], q[1] - p[1], 0];
    const length = lengthOf(edge);
    if (length === 0) return { normal: along, area: 0 };
    const outward = cross(toFrame(edge), along);
    return {
      normal: normalize([outward[0] * sign, outward[1] * sign, outward[2] * sign]),
      area: length * depth * lengthOf(outward),
    };
  });
}

/** Faces of a mesh; reveals of openings count with the faces that look the same way. */
export function measureMeshFaces({ positions, indices }: TriangleMesh, directions: FaceDirections): FaceAreas {
  const sums: Record<FaceName, number> = { topM2: 0, bottomM2: 0, sidesM2: 0, endsM2: 0 };
  const at = (i: number): Vector3 => {
    const p = indices[i]! * 3;
    return [positions[p]!, positions[p + 1]!, positions[p + 2]!];
  };
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [at(i), at(i + 1), at(i + 2)];
    const n = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
    const area = lengthOf(n) / 2;
    if (area > 0) sums[nameFace(normalize(n), directions)] += area;
  }
  return sums;
}
