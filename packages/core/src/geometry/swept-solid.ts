import { measurePolygonAreaM2, type Outline, outlineToPolygon, readArc } from './outline.ts';
import { measureProfile, type Profile, profileToOutlines, profileToPolygon } from './profile.ts';
import { rememberRecent } from './recent.ts';
import { TOLERANCE } from './tolerances.ts';
import {
  boundPoints,
  dot,
  type Matrix,
  normalize,
  transformDirection,
  transformPoint,
  type Vector2,
  type Vector3,
} from './vector.ts';

/** A profile drawn straight along a direction. All in metres; `placement` takes the profile's plane into the element's own frame. */
export interface SweptSolid {
  readonly profile: Profile;
  readonly placement: Matrix;
  /** Unit vector in the profile's coordinates; [0, 0, 1] is square to the profile. */
  readonly direction: Vector3;
  readonly depth: number;
}

export interface SweptMeasures {
  readonly areaM2: number;
  readonly perimeterM: number;
  /** Thickness square to the profile, m: depth x |cos|. */
  readonly heightM: number;
  /** area x height. Source: IfcExtrudedAreaSolid, volume of a prism (Cavalieri). */
  readonly volumeM3: number;
  /** Area of the drawn faces without the two ends, m2. */
  readonly lateralAreaM2: number;
}

/** Exact figures of a swept solid. @example 0.3 x 0.4 profile, depth 5 -> volume 0.6, lateral area 7 */
export function measureSweptSolid(solid: SweptSolid): SweptMeasures {
  const { areaM2, perimeterM } = measureProfile(solid.profile);
  const heightM = solid.depth * Math.abs(solid.direction[2]);
  const isSquare = 1 - Math.abs(solid.direction[2]) < TOLERANCE.parallel;
  return {
    areaM2,
    perimeterM,
    heightM,
    volumeM3: areaM2 * heightM,
    lateralAreaM2: isSquare ? perimeterM * solid.depth : measureObliqueLateralM2(solid),
  };
}

/** Lateral faces of a slanted prism: each edge and the direction span a parallelogram. */
function measureObliqueLateralM2({ profile, direction: d, depth }: SweptSolid): number {
  const points = outlineToPolygon(profileToOutlines(profile).outer, 360);
  return points.reduce((sum, [x, y], i) => {
    const [nx, ny] = points[(i + 1) % points.length]!;
    const [ex, ey] = [nx - x, ny - y];
    return sum + depth * Math.hypot(ey * d[2], ex * d[2], ex * d[1] - ey * d[0]);
  }, 0);
}

/** Corner points of both ends in the element's frame (curves as chords). */
export const listSweptPoints: (solid: SweptSolid) => readonly Vector3[] = rememberRecent(drawPoints);

function drawPoints(solid: SweptSolid): Vector3[] {
  const { direction: d, depth, placement } = solid;
  const [dx, dy, dz] = transformDirection(placement, [d[0] * depth, d[1] * depth, d[2] * depth]);
  const points: Vector3[] = [];
  for (const [x, y] of profileToPolygon(solid.profile)) {
    const near = transformPoint(placement, [x, y, 0]);
    points.push(near, [near[0] + dx, near[1] + dy, near[2] + dz]);
  }
  return points;
}

/** Direction of the sweep in the element's frame, unit length. */
export function sweptDirection(solid: SweptSolid): Vector3 {
  return normalize(transformDirection(solid.placement, solid.direction));
}

/** If the solid is a box with edges parallel to the element's axes: its corners, else null. */
export const asAlignedBox: (solid: SweptSolid) => AlignedBox | null = rememberRecent(findAlignedBox);

export interface AlignedBox {
  readonly min: Vector3;
  readonly max: Vector3;
}

/** The usual case at once: a rectangle drawn square to itself, its edges along the axes to the last digit. Null for all others. */
function findPlainBox(solid: SweptSolid): AlignedBox | null {
  const { profile, placement: m, direction: d } = solid;
  if (profile.kind !== 'rectangle' || profile.radius > 0 || d[0] !== 0 || d[1] !== 0 || !(solid.depth > 0)) return null;
  for (let row = 0; row < 12; row += 4) {
    const other = (m[row] === 0 ? 1 : 0) + (m[row + 1] === 0 ? 1 : 0) + (m[row + 2] === 0 ? 1 : 0);
    if (other !== 2 || Math.abs(m[row]! + m[row + 1]! + m[row + 2]!) !== 1) return null;
  }
  return boundSweptSolid(solid);
}

function findAlignedBox(solid: SweptSolid): AlignedBox | null {
  const plain = findPlainBox(solid);
  if (plain) return plain;
  const polygon = profileToPolygon(solid.profile);
  if (polygon.length !== 4 || profileToOutlines(solid.profile).holes.length > 0) return null;
  if (solid.profile.kind === 'rectangle' && solid.profile.radius > 0) return null;
  if (1 - Math.abs(solid.direction[2]) > TOLERANCE.parallel) return null;
  const corner = (i: number): Vector2 => polygon[i]!;
  const edge = (i: number): Vector3 =>
    normalize(
      transformDirection(solid.placement, [corner(i + 1)[0] - corner(i)[0], corner(i + 1)[1] - corner(i)[1], 0]),
    );
  const axes = [edge(0), edge(1), sweptDirection(solid)];
  const isAxis = (v: Vector3) => v.some((c) => 1 - Math.abs(c) < TOLERANCE.parallel);
  if (!axes.every(isAxis) || Math.abs(dot(axes[0]!, axes[1]!)) > TOLERANCE.parallel) return null;
  if (Math.abs(measurePolygonAreaM2(polygon) - edgeLength(polygon, 0) * edgeLength(polygon, 1)) > 1e-9) return null;
  const { min, max } = boundPoints(listSweptPoints(solid))!;
  // Slightly askew is not along the axes: over a long wall the box would be noticeably larger than the solid.
  const boxM3 = (max[0] - min[0]) * (max[1] - min[1]) * (max[2] - min[2]);
  const solidM3 = measurePolygonAreaM2(polygon) * solid.depth;
  return boxM3 - solidM3 > ALIGNED_SHARE * solidM3 ? null : { min, max };
}

/** A solid fills the box around it but for this share if its edges lie along the axes. */
const ALIGNED_SHARE = 1e-6;

function edgeLength(polygon: readonly Vector2[], i: number): number {
  const [dx, dy] = [polygon[i + 1]![0] - polygon[i]![0], polygon[i + 1]![1] - polygon[i]![1]];
  return Math.sqrt(dx * dx + dy * dy);
}

/** Exact extents of a swept solid after a map, arcs included. */
export function boundSweptSolid({ profile, placement, direction: d, depth }: SweptSolid): AlignedBox {
  const isBox = profile.kind === 'rectangle' && profile.radius === 0;
  const halfX = isBox ? profile.x / 2 : 0;
  const halfY = isBox ? profile.y / 2 : 0;
  const outer = isBox ? null : profileToOutlines(profile).outer;
  const min: [number, number, number] = [0, 0, 0];
  const max: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < 3; k++) {
    const ax = placement[k * 4]!;
    const ay = placement[k * 4 + 1]!;
    const rise = (ax * d[0] + ay * d[1] + placement[k * 4 + 2]! * d[2]) * depth;
    const reach = outer === null ? Math.abs(ax) * halfX + Math.abs(ay) * halfY : 0;
    const [low, high] = outer === null ? [-reach, reach] : reachOf(outer, ax, ay);
    const shift = placement[k * 4 + 3]!;
    min[k] = shift + low + Math.min(0, rise);
    max[k] = shift + high + Math.max(0, rise);
  }
  return { min, max };
}

/** Least and greatest value of ax·x + ay·y over an outline. */
function reachOf(outline: Outline, ax: number, ay: number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  const note = (v: number) => {
    if (v < low) low = v;
    if (v > high) high = v;
  };
  const size = Math.hypot(ax, ay);
  for (let i = 0; i < outline.length; i++) {
    const a = outline[i]!;
    note(ax * a.x + ay * a.y);
    if (a.sweep === 0 || size < 1e-12) continue;
    const arc = readArc(outline, i);
    if (!arc) continue;
    const crest = Math.atan2(ay, ax);
    for (const angle of [crest, crest + Math.PI])
      if (isOnArc(arc, angle)) note(ax * (arc.cx + arc.r * Math.cos(angle)) + ay * (arc.cy + arc.r * Math.sin(angle)));
  }
  return [low, high];
}

function isOnArc({ start, sweep }: { readonly start: number; readonly sweep: number }, angle: number): boolean {
  const turn = 2 * Math.PI;
  const ahead = (((sweep > 0 ? angle - start : start - angle) % turn) + turn) % turn;
  return ahead <= Math.abs(sweep) + 1e-9;
}
