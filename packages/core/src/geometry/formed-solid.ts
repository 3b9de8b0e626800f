import { measurePerimeterM, measureSignedAreaM2, type Outline, outlineToPolygon } from './outline.ts';
import { measureProfile, type Profile, profileToOutlines } from './profile.ts';
import {
  cross,
  dot,
  lengthOf,
  type Matrix,
  normalize,
  transformDirection,
  transformPoint,
  type Vector2,
  type Vector3,
} from './vector.ts';

/**
 * A solid that is no straight sweep but has figures by formula: along a curve, turned about an axis, a ball, a cone. All in metres;
 * points in the element's own frame.
 */
export interface FormedSolid {
  /** Along its middle line; null where it has none (a ball, a cone). */
  readonly lengthM: number | null;
  /** Section square to the middle line, m2. */
  readonly sectionM2: number | null;
  readonly volumeM3: number;
  /** Drawn faces without the two ends, m2. */
  readonly lateralM2: number;
  /** The two ends together, m2; 0 where there are none. */
  readonly endsM2: number;
  /** Places on its surface, close enough to tell its extents. */
  readonly points: readonly Vector3[];
}

/** A stretch of a curve in space: straight or an arc. */
export interface PathSegment {
  readonly from: Vector3;
  readonly to: Vector3;
  readonly lengthM: number;
  /** Unit directions along it at both ends. */
  readonly start: Vector3;
  readonly end: Vector3;
  /** Radius of an arc, m; null for a straight stretch. */
  readonly radiusM: number | null;
  /** Places along it, its two ends among them. */
  readonly points: readonly Vector3[];
}

/** Chords per full turn of the places that tell extents: they fall short by 0.01 % at most. */
const CHORDS = 256;

/**
 * A disk, or a ring, drawn along a curve. Volume = section x length and outer face = 2πR x length hold on bends and mitred corners, as
 * the middle of the disk stays on the curve (theorems of Pappus). Null where a bend is tighter than the disk.
 * Source: IfcSweptDiskSolid.
 * @example a bar of 16 mm bent as 1 m + quarter circle of 0.1 m + 0.5 m: length 1.657 m
 */
export function formSweptDisk(path: readonly PathSegment[], radiusM: number, innerRadiusM: number): FormedSolid | null {
  if (path.length === 0 || !(radiusM > 0) || !(innerRadiusM >= 0 && innerRadiusM < radiusM)) return null;
  if (path.some((s) => s.radiusM !== null && s.radiusM < radiusM * (1 - 1e-9))) return null;
  const lengthM = path.reduce((sum, s) => sum + s.lengthM, 0);
  const sectionM2 = Math.PI * (radiusM ** 2 - innerRadiusM ** 2);
  const [first, last] = [path[0]!, path.at(-1)!];
  const isClosed = distance(first.from, last.to) < 1e-6;
  return {
    lengthM,
    sectionM2,
    volumeM3: sectionM2 * lengthM,
    lateralM2: 2 * Math.PI * radiusM * lengthM,
    endsM2: isClosed ? 0 : 2 * sectionM2,
    points: path.flatMap((s) => tubePoints(s, radiusM)),
  };
}

function distance(a: Vector3, b: Vector3): number {
  return lengthOf([a[0] - b[0], a[1] - b[1], a[2] - b[2]]);
}

/** Places around a stretch of tube. */
function tubePoints({ points, start, end }: PathSegment, radiusM: number): Vector3[] {
  return points.flatMap((p, i): Vector3[] => {
    const along = i === 0 ? start : i === points.length - 1 ? end : tangentAt(points, i);
    const u = normalize(cross(along, Math.abs(along[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
    const v = cross(along, u);
    // The places that reach furthest along each axis, so that extents are exact there.
    return [0, 1, 2].flatMap((k): Vector3[] => {
      const reach = Math.sqrt(Math.max(0, 1 - along[k]! ** 2));
      if (reach < 1e-9) return [];
      const [a, b] = [u[k]! / reach, v[k]! / reach];
      const at = (sign: number): Vector3 =>
        [0, 1, 2].map((c) => p[c]! + sign * radiusM * (u[c]! * a + v[c]! * b)) as unknown as Vector3;
      return [at(1), at(-1)];
    });
  });
}

function tangentAt(points: readonly Vector3[], i: number): Vector3 {
  const [a, b] = [points[i - 1]!, points[i + 1]!];
  return normalize([b[0] - a[0], b[1] - a[1], b[2] - a[2]]);
}

/**
 * A profile turned about an axis in its plane: volume = area x way of its middle, faces = length of each edge x way of its middle
 * (theorems of Pappus). Null where the axis runs through the profile.
 * Source: IfcRevolvedAreaSolid. Spheres, rings, cones and bent members are drawn so.
 * @param axis a point on the axis and its direction, in the profile's coordinates (z = 0)
 * @param angle radians, up to a full turn
 * @example a circle of 0.1 m turned once about an axis 1 m away: volume 2π²·0.01 m3
 */
export function formRevolved(
  profile: Profile,
  placement: Matrix,
  axis: { readonly at: Vector2; readonly direction: Vector2 },
  angle: number,
): FormedSolid | null {
  const size = Math.hypot(axis.direction[0], axis.direction[1]);
  if (!(size > 0) || !(Math.abs(angle) > 1e-9)) return null;
  const [dx, dy] = [axis.direction[0] / size, axis.direction[1] / size];
  const { outer, holes } = profileToOutlines(profile);
  /** Distance from the axis, to its right positive. */
  const off = (p: Vector2) => (p[0] - axis.at[0]) * dy - (p[1] - axis.at[1]) * dx;
  const around = outlineToPolygon(outer, CHORDS).map(off);
  const [least, most] = [Math.min(...around), Math.max(...around)];
  if (least < -1e-6 && most > 1e-6) return null;
  const turn = Math.min(Math.abs(angle), 2 * Math.PI);
  const isFull = turn > 2 * Math.PI - 1e-6;
  const rings = [outer, ...holes];
  const moments = rings.map((ring) => measureMoment(ring, off));
  const sign = (i: number) => (i === 0 ? 1 : -1);
  const moment = Math.abs(moments.reduce((sum, m, i) => sum + sign(i) * m.areaMomentM3, 0));
  const edges = Math.abs(moments.reduce((sum, m) => sum + m.edgeMomentM2, 0));
  const { areaM2 } = measureProfile(profile);
  return {
    lengthM: (moment / areaM2) * turn,
    sectionM2: areaM2,
    volumeM3: moment * turn,
    lateralM2: edges * turn,
    endsM2: isFull ? 0 : 2 * areaM2,
    points: listTurnedPoints(outer, placement, axis, [dx, dy], Math.sign(angle) * turn),
  };
}

/** First moments of an outline's area and of its edges about a line on its plane, arcs exact. */
function measureMoment(outline: Outline, off: (p: Vector2) => number): { areaMomentM3: number; edgeMomentM2: number } {
  let areaMoment = 0;
  let edgeMoment = 0;
  let area = 0;
  for (let i = 0; i < outline.length; i++) {
    const [a, b] = [outline[i]!, outline[(i + 1) % outline.length]!];
    const [oa, ob] = [off([a.x, a.y]), off([b.x, b.y])];
    const origin = off([0, 0]);
    const twice = a.x * b.y - b.x * a.y;
    area += twice / 2;
    areaMoment += (twice / 6) * (origin + oa + ob);
    const chord = Math.hypot(b.x - a.x, b.y - a.y);
    if (a.sweep === 0 || chord === 0) {
      edgeMoment += (chord * (oa + ob)) / 2;
      continue;
    }
    // A circle segment: area r²/2·(θ - sin θ), its middle 2r·sin³(θ/2) / (3·area) x r from the centre along the bisector.
    const angle = Math.abs(a.sweep);
    const r = chord / (2 * Math.sin(angle / 2));
    const segment = ((angle - Math.sin(angle)) * r * r) / 2;
    const side = Math.sign(a.sweep);
    const [nx, ny] = [((b.y - a.y) / chord) * side, (-(b.x - a.x) / chord) * side];
    const rise = r * Math.cos(angle / 2);
    const [cx, cy] = [(a.x + b.x) / 2 - nx * rise, (a.y + b.y) / 2 - ny * rise];
    const middle = segment > 0 ? (2 * r ** 3 * Math.sin(angle / 2) ** 3) / (3 * segment) : r;
    areaMoment += side * segment * off([cx + nx * middle, cy + ny * middle]);
    area += side * segment;
    const centre = (r * Math.sin(angle / 2)) / (angle / 2);
    edgeMoment += r * angle * off([cx + nx * centre, cy + ny * centre]);
  }
  return { areaMomentM3: Math.sign(area) * areaMoment, edgeMomentM2: edgeMoment };
}

/** Middle of a profile's area, in its own coordinates. */
export function findCentroid(profile: Profile): Vector2 {
  const { outer, holes } = profileToOutlines(profile);
  const { areaM2 } = measureProfile(profile);
  const moment = (off: (p: Vector2) => number) =>
    [outer, ...holes].reduce((sum, ring, i) => sum + (i === 0 ? 1 : -1) * measureMoment(ring, off).areaMomentM3, 0);
  return [moment((p) => p[0]) / areaM2, moment((p) => p[1]) / areaM2];
}

/**
 * A profile drawn along a curve, square to it. By formula only if its middle lies on the curve (within 0.1 mm), or the curve is one
 * straight stretch; null else. Source: IfcFixedReferenceSweptAreaSolid, IfcSurfaceCurveSweptAreaSolid.
 * @param position of the profile in its plane, whose origin runs along the curve
 */
export function formSweptProfile(path: readonly PathSegment[], profile: Profile, position: Matrix): FormedSolid | null {
  if (path.length === 0) return null;
  const [cx, cy] = findCentroid(profile);
  const [x, y] = transformPoint(position, [cx, cy, 0]);
  const isStraight = path.length === 1 && path[0]!.radiusM === null;
  if (!isStraight && Math.hypot(x, y) > 1e-4) return null;
  const lengthM = path.reduce((sum, s) => sum + s.lengthM, 0);
  const { areaM2, perimeterM } = measureProfile(profile);
  const reach = Math.max(
    ...outlineToPolygon(profileToOutlines(profile).outer).map(([px, py]) => {
      const [qx, qy] = transformPoint(position, [px, py, 0]);
      return Math.hypot(qx, qy);
    }),
  );
  if (path.some((s) => s.radiusM !== null && s.radiusM < reach)) return null;
  return {
    lengthM,
    sectionM2: areaM2,
    volumeM3: areaM2 * lengthM,
    lateralM2: perimeterM * lengthM,
    endsM2: distance(path[0]!.from, path.at(-1)!.to) < 1e-6 ? 0 : 2 * areaM2,
    points: path.flatMap((s) => tubePoints(s, reach)),
  };
}

function listTurnedPoints(
  outer: Outline,
  placement: Matrix,
  { at }: { readonly at: Vector2 },
  [dx, dy]: Vector2,
  angle: number,
): Vector3[] {
  const steps = Math.max(2, Math.ceil((Math.abs(angle) / (2 * Math.PI)) * CHORDS));
  const toFrame = (v: Vector3) => transformDirection(placement, v);
  const axis = normalize(toFrame([dx, dy, 0]));
  const out: Vector3[] = [];
  for (const [x, y] of outlineToPolygon(outer, 64)) {
    const along = (x - at[0]) * dx + (y - at[1]) * dy;
    const foot: Vector2 = [at[0] + dx * along, at[1] + dy * along];
    const base = transformPoint(placement, [foot[0], foot[1], 0]);
    const arm = toFrame([x - foot[0], y - foot[1], 0]);
    const side = cross(axis, arm);
    for (let k = 0; k <= steps; k++) {
      const [cos, sin] = [Math.cos((angle * k) / steps), Math.sin((angle * k) / steps)];
      out.push([base[0] + arm[0] * cos + side[0] * sin, base[1] + arm[1] * cos + side[1] * sin, base[2] + arm[2] * cos + side[2] * sin]); // biome-ignore format: one point
    }
  }
  return out;
}

/** A ball. Source: IfcSphere. */
export function formSphere(placement: Matrix, radiusM: number): FormedSolid | null {
  if (!(radiusM > 0)) return null;
  const centre = transformPoint(placement, [0, 0, 0]);
  const points = [0, 1, 2].flatMap((k) =>
    [1, -1].map((sign) => centre.map((v, c) => v + (c === k ? sign * radiusM : 0)) as unknown as Vector3),
  );
  return {
    lengthM: null,
    sectionM2: null,
    volumeM3: (4 / 3) * Math.PI * radiusM ** 3,
    lateralM2: 4 * Math.PI * radiusM ** 2,
    endsM2: 0,
    points,
  };
}

/** A cone that stands on a circle. Source: IfcRightCircularCone. */
export function formCone(placement: Matrix, heightM: number, radiusM: number): FormedSolid | null {
  if (!(heightM > 0) || !(radiusM > 0)) return null;
  const rim = Array.from({ length: CHORDS }, (_, i): Vector3 => {
    const a = (i / CHORDS) * 2 * Math.PI;
    return [radiusM * Math.cos(a), radiusM * Math.sin(a), 0];
  });
  return {
    lengthM: null,
    sectionM2: null,
    volumeM3: (Math.PI * radiusM ** 2 * heightM) / 3,
    lateralM2: Math.PI * radiusM * Math.hypot(radiusM, heightM),
    endsM2: Math.PI * radiusM ** 2,
    points: [[0, 0, heightM] as Vector3, ...rim].map((p) => transformPoint(placement, p)),
  };
}

/** A straight stretch. */
export function straightSegment(from: Vector3, to: Vector3): PathSegment | null {
  const lengthM = distance(from, to);
  if (lengthM < 1e-9) return null;
  const along = normalize([to[0] - from[0], to[1] - from[1], to[2] - from[2]]);
  return { from, to, lengthM, start: along, end: along, radiusM: null, points: [from, to] };
}

/** An arc about a centre: from one place through an angle (radians) about a unit axis. */
export function arcSegment(centre: Vector3, from: Vector3, axis: Vector3, angle: number): PathSegment | null {
  const arm: Vector3 = [from[0] - centre[0], from[1] - centre[1], from[2] - centre[2]];
  const radiusM = lengthOf(arm);
  if (!(radiusM > 1e-9) || !(Math.abs(angle) > 1e-9)) return null;
  const side = cross(axis, arm);
  const at = (a: number): Vector3 =>
    [0, 1, 2].map((k) => centre[k]! + arm[k]! * Math.cos(a) + side[k]! * Math.sin(a)) as unknown as Vector3;
  const tangent = (a: number): Vector3 =>
    normalize(
      [0, 1, 2].map((k) => (side[k]! * Math.cos(a) - arm[k]! * Math.sin(a)) * Math.sign(angle)) as unknown as Vector3,
    );
  const steps = Math.max(2, Math.ceil((Math.abs(angle) / (2 * Math.PI)) * CHORDS));
  return {
    from,
    to: at(angle),
    lengthM: radiusM * Math.abs(angle),
    start: tangent(0),
    end: tangent(angle),
    radiusM,
    points: Array.from({ length: steps + 1 }, (_, i) => at((angle * i) / steps)),
  };
}

/** A path of straight stretches with its corners rounded by arcs of a radius, as bent bars are. Null where there is no room for one. */
export function roundPath(points: readonly Vector3[], radiusM: number): PathSegment[] | null {
  const out: PathSegment[] = [];
  let from = points[0]!;
  for (let i = 1; i < points.length; i++) {
    const [corner, next] = [points[i]!, points[i + 1]];
    const u = normalize([corner[0] - from[0], corner[1] - from[1], corner[2] - from[2]]);
    const v = next && normalize([next[0] - corner[0], next[1] - corner[1], next[2] - corner[2]]);
    const turn = v ? Math.acos(Math.max(-1, Math.min(1, dot(u, v)))) : 0;
    if (!v || !next || turn < 1e-6 || !(radiusM > 0)) {
      const straight = straightSegment(from, corner);
      if (straight) out.push(straight);
      from = corner;
      continue;
    }
    const reach = radiusM * Math.tan(turn / 2);
    if (reach > distance(from, corner) + 1e-9 || reach > distance(corner, next) + 1e-9) return null;
    const start: Vector3 = [corner[0] - u[0] * reach, corner[1] - u[1] * reach, corner[2] - u[2] * reach];
    const straight = straightSegment(from, start);
    if (straight) out.push(straight);
    const axis = normalize(cross(u, v));
    const inward = cross(axis, u);
    const centre: Vector3 = [start[0] + inward[0] * radiusM, start[1] + inward[1] * radiusM, start[2] + inward[2] * radiusM]; // biome-ignore format: one point
    const arc = arcSegment(centre, start, axis, turn);
    if (!arc) return null;
    out.push(arc);
    from = arc.to;
  }
  return out;
}

/** The same solid somewhere else. */
export function moveFormed(solid: FormedSolid, matrix: Matrix): FormedSolid {
  return { ...solid, points: solid.points.map((p) => transformPoint(matrix, p)) };
}

/** Length of the boundary of a profile with its holes, m. */
export const measureEdgesM = (profile: Profile): number => {
  const { outer, holes } = profileToOutlines(profile);
  return [outer, ...holes].reduce((sum, ring) => sum + measurePerimeterM(ring), 0);
};

/** Area of an outline, m2, not signed. */
export const measureOutlineM2 = (outline: Outline): number => Math.abs(measureSignedAreaM2(outline));
