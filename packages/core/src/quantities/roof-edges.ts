import { areaVector, dot, lengthOf, normalize, type Vector3 } from '../geometry/vector.ts';

/** One face of a roof: its outline in space, metres, and the thickness of what it covers. */
export interface RoofPlane {
  readonly outline: readonly Vector3[];
  readonly thicknessM: number;
}

/** Lengths of the edges of a roof, and the area of its slopes. */
export interface RoofMeasures {
  readonly slopedAreaM2: number;
  readonly eavesM: number;
  readonly ridgeM: number;
  readonly hipM: number;
  readonly valleyM: number;
  readonly vergeM: number;
}

type EdgeKind = 'eavesM' | 'ridgeM' | 'hipM' | 'valleyM' | 'vergeM';

/** Steeper than this is a pitch; below it a roof is flat and has none of these edges. Degrees. */
const FLAT_DEGREES = 1;
const PARALLEL = 0.9995;
/** An edge that rises less than this per metre is level. */
const LEVEL = 0.02;
/** Roof pieces that are cut square leave a gap at ridge and hip: this many thicknesses, and this much on top, m. */
const GAP_THICKNESSES = 1.5;
const GAP_M = 0.05;

interface Slope extends RoofPlane {
  readonly normal: Vector3;
  readonly centre: Vector3;
}
interface RoofEdge {
  readonly slope: Slope;
  readonly from: Vector3;
  readonly direction: Vector3;
  readonly lengthM: number;
  /** Stretches along it, in metres from its start, that lie against another slope. */
  readonly met: [number, number][];
}

/** Angle of a face from level, degrees. @example a 1 : 2 slope gives 26.565 */
export function measurePitchDegrees(outline: readonly Vector3[]): number {
  return (Math.acos(Math.min(1, Math.abs(faceNormal(outline)[2]))) * 180) / Math.PI;
}

/**
 * Edges of a roof from its faces. Where two faces meet: level and both falling away is a ridge, level and both rising a valley;
 * sloping is a hip if the faces fall away from each other, else a valley; faces in one plane have no edge between them. Where a
 * face meets no other: level below it is eaves, level above it the ridge of a single pitch, sloping a verge.
 * @example a gable roof over 10 x 6 m, pitch 45°: eaves 20, ridge 10, verges 4 x 4.243, area 84.85
 */
export function measureRoof(planes: readonly RoofPlane[]): RoofMeasures {
  const slopes = planes
    .filter((p) => p.outline.length > 2 && measurePitchDegrees(p.outline) > FLAT_DEGREES)
    .map((p): Slope => ({ ...p, normal: faceNormal(p.outline), centre: mean(p.outline) }));
  const sums: Record<EdgeKind, number> = { eavesM: 0, ridgeM: 0, hipM: 0, valleyM: 0, vergeM: 0 };
  const edges = slopes.flatMap(listEdges);
  for (let i = 0; i < edges.length; i++) {
    for (let j = i + 1; j < edges.length; j++) {
      const [a, b] = [edges[i]!, edges[j]!];
      const shared = a.slope === b.slope ? null : overlap(a, b);
      if (!shared) continue;
      a.met.push(shared.onA);
      b.met.push(shared.onB);
      const kind = meetingKind(a, b);
      if (kind) sums[kind] += shared.onA[1] - shared.onA[0];
    }
  }
  for (const edge of edges) sums[freeKind(edge)] += edge.lengthM - coveredLength(edge);
  return { slopedAreaM2: slopes.reduce((sum, s) => sum + faceArea(s.outline), 0), ...sums };
}

function listEdges(slope: Slope): RoofEdge[] {
  return slope.outline.flatMap((from, i): RoofEdge[] => {
    const to = slope.outline[(i + 1) % slope.outline.length]!;
    const along: Vector3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    const lengthM = lengthOf(along);
    return lengthM < 1e-4 ? [] : [{ slope, from, direction: normalize(along), lengthM, met: [] }];
  });
}

/** The stretch that two parallel edges run beside each other, as places along each. */
function overlap(a: RoofEdge, b: RoofEdge): { onA: [number, number]; onB: [number, number] } | null {
  const cosine = dot(a.direction, b.direction);
  if (Math.abs(cosine) < PARALLEL) return null;
  const reach = Math.max(a.slope.thicknessM, b.slope.thicknessM) * GAP_THICKNESSES + GAP_M;
  const offset: Vector3 = [b.from[0] - a.from[0], b.from[1] - a.from[1], b.from[2] - a.from[2]];
  const start = dot(offset, a.direction);
  const aside: Vector3 = [0, 1, 2].map((k) => offset[k]! - a.direction[k]! * start) as unknown as Vector3;
  if (lengthOf(aside) > reach) return null;
  const end = start + cosine * b.lengthM;
  const [from, to] = [Math.max(0, Math.min(start, end)), Math.min(a.lengthM, Math.max(start, end))];
  if (to - from < GAP_M) return null;
  const onB = [from, to].map((t) => (t - start) / cosine).sort((x, y) => x - y) as [number, number];
  return { onA: [from, to], onB };
}

function meetingKind(a: RoofEdge, b: RoofEdge): EdgeKind | null {
  if (dot(a.slope.normal, b.slope.normal) > PARALLEL) return null;
  if (Math.abs(a.direction[2]) < LEVEL) {
    const [below, other] = [a.slope.centre[2] < a.from[2], b.slope.centre[2] < b.from[2]];
    // One rises where the other falls: a change of pitch, which is neither.
    return below && other ? 'ridgeM' : !below && !other ? 'valleyM' : null;
  }
  const toOther: Vector3 = [0, 1, 2].map((k) => b.slope.centre[k]! - a.from[k]!) as unknown as Vector3;
  return dot(a.slope.normal, toOther) < 0 ? 'hipM' : 'valleyM';
}

function freeKind({ slope, from, direction }: RoofEdge): EdgeKind {
  if (Math.abs(direction[2]) >= LEVEL) return 'vergeM';
  return slope.centre[2] > from[2] ? 'eavesM' : 'ridgeM';
}

function coveredLength({ met }: RoofEdge): number {
  let covered = 0;
  let reached = 0;
  for (const [from, to] of [...met].sort((a, b) => a[0] - b[0])) {
    if (to <= reached) continue;
    covered += to - Math.max(from, reached);
    reached = to;
  }
  return covered;
}

function faceNormal(outline: readonly Vector3[]): Vector3 {
  const n = normalize(areaVector(outline));
  return n[2] < 0 ? [-n[0], -n[1], -n[2]] : n;
}

const faceArea = (outline: readonly Vector3[]) => lengthOf(areaVector(outline));

function mean(points: readonly Vector3[]): Vector3 {
  return [0, 1, 2].map((k) => points.reduce((sum, p) => sum + p[k]!, 0) / points.length) as unknown as Vector3;
}
