import { isPointInPolygon } from './outline.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import {
  areaVector,
  cross,
  distanceBetween,
  lengthOf,
  normalize,
  subtract,
  type Vector2,
  type Vector3,
} from './vector.ts';

/** A part of space: between two levels, within an outline on plan. Metres, the model's world; null is no bound. */
export interface Region {
  readonly fromM: number | null;
  readonly toM: number | null;
  readonly outline: readonly Vector2[] | null;
}

/** What of a body lies in a region: volume and faces, by the way they look. */
export interface WithinMeasures {
  readonly volumeM3: number;
  readonly topM2: number;
  readonly bottomM2: number;
  readonly sidesM2: number;
  readonly endsM2: number;
}

type FaceKey = Exclude<keyof WithinMeasures, 'volumeM3'>;

/**
 * Volume and faces of a closed mesh within a region. Faces are cut at its bounds and counted as `nameFace` says they look; the cuts
 * themselves are no faces. Volume is the sum over all faces of (height above the region's bottom, held within it) x area seen
 * from above: the divergence theorem, for which no cut face is needed.
 * @example a box of 2 x 1 x 3 m, from 1 m up: volume 4, top 2, bottom 0
 */
export function measureWithin(
  { positions, indices }: TriangleMesh,
  { fromM, toM, outline }: Region,
  nameFace: (normal: Vector3) => FaceKey,
): WithinMeasures {
  const sums = { volumeM3: 0, topM2: 0, bottomM2: 0, sidesM2: 0, endsM2: 0 };
  const [lowest, highest] = rangeOf(positions);
  const [from, to] = [Math.max(fromM ?? lowest, lowest), Math.min(toM ?? highest, highest)];
  if (to <= from) return sums;
  const wedges = outline ? splitToWedges(outline) : null;
  for (let i = 0; i < indices.length; i += 3) {
    const face = [0, 1, 2].map((k): Vector3 => {
      const p = indices[i + k]! * 3;
      return [positions[p]!, positions[p + 1]!, positions[p + 2]!];
    });
    const normal = areaVector(face);
    if (lengthOf(normal) === 0) continue;
    const unit = normalize(normal);
    const name = nameFace(unit);
    // A face that lies in a bound belongs to the side its body is on: it is looked at from a hair within the body.
    const within = face.map(([x, y, z]): Vector3 => [x - unit[0] * HAIR_M, y - unit[1] * HAIR_M, z - unit[2] * HAIR_M]);
    for (const { sign, piece } of wedges ? cutByWedges(within, wedges) : [{ sign: 1, piece: within }])
      sums[name] += sign * lengthOf(areaVector(keepBetween(piece, fromM ?? -Infinity, toM ?? Infinity)));
    for (const { sign, piece } of wedges ? cutByWedges(face, wedges) : [{ sign: 1, piece: face }]) {
      const above = keepSide(piece, ([, , z]) => z - from);
      const between = keepSide(above, ([, , z]) => to - z);
      const over = areaVector(above)[2] - areaVector(between)[2];
      sums.volumeM3 += sign * (sumHeight(between, from) + over * (to - from));
    }
  }
  return sums;
}

/** Length of a run of straight edges within an outline on plan, m. */
export function measureLengthWithin(points: readonly Vector2[], outline: readonly Vector2[]): number {
  let sum = 0;
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i]!, points[i + 1]!];
    const length = distanceBetween(a, b);
    const cuts = [0, 1];
    for (let k = 0; k < outline.length; k++) {
      const t = whereCrossed(a, b, outline[k]!, outline[(k + 1) % outline.length]!);
      if (t !== null) cuts.push(t);
    }
    cuts.sort((x, y) => x - y);
    for (let k = 0; k + 1 < cuts.length; k++) {
      const t = (cuts[k]! + cuts[k + 1]!) / 2;
      if (isPointInPolygon([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t], outline))
        sum += (cuts[k + 1]! - cuts[k]!) * length;
    }
  }
  return sum;
}

/** Where a line from a to b is crossed by an edge, as a share of it; null if it is not. */
function whereCrossed(a: Vector2, b: Vector2, p: Vector2, q: Vector2): number | null {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], q[0] - p[0], q[1] - p[1]];
  const det = ux * vy - uy * vx;
  if (Math.abs(det) < 1e-15) return null;
  const t = ((p[0] - a[0]) * vy - (p[1] - a[1]) * vx) / det;
  const s = ((p[0] - a[0]) * uy - (p[1] - a[1]) * ux) / det;
  return t > 0 && t < 1 && s >= 0 && s <= 1 ? t : null;
}

const HAIR_M = 1e-6;

function keepBetween(points: readonly Vector3[], from: number, to: number): Vector3[] {
  return keepSide(
    keepSide(points, ([, , z]) => z - from),
    ([, , z]) => to - z,
  );
}

function rangeOf(positions: ArrayLike<number>): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 2; i < positions.length; i += 3) {
    low = Math.min(low, positions[i]!);
    high = Math.max(high, positions[i]!);
  }
  return [low, high];
}

/** Sum over a polygon of (height above a level) x (area seen from above, negative from below). */
function sumHeight(points: readonly Vector3[], levelM: number): number {
  let sum = 0;
  for (let i = 1; i + 1 < points.length; i++) {
    const [a, b, c] = [points[0]!, points[i]!, points[i + 1]!];
    const seenM2 = cross(subtract(b, a), subtract(c, a))[2] / 2;
    sum += seenM2 * ((a[2] + b[2] + c[2]) / 3 - levelM);
  }
  return sum;
}

/** The part of a convex polygon where `side` is not negative. */
function keepSide(points: readonly Vector3[], side: (p: Vector3) => number): Vector3[] {
  const out: Vector3[] = [];
  for (const [i, a] of points.entries()) {
    const b = points[(i + 1) % points.length]!;
    const [sa, sb] = [side(a), side(b)];
    if (sa >= 0) out.push(a);
    if (sa * sb < 0) {
      const t = sa / (sa - sb);
      out.push([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t]);
    }
  }
  return out;
}

/** A triangle on plan that counts for (1) or against (-1): those of an outline together count its inside once. */
interface Wedge {
  readonly sign: number;
  readonly corners: readonly [Vector2, Vector2, Vector2];
}

function splitToWedges(outline: readonly Vector2[]): Wedge[] {
  const apex = outline[0]!;
  const raw = outline.slice(1, -1).map((b, i): Wedge & { area: number } => {
    const c = outline[i + 2]!;
    const area = ((b[0] - apex[0]) * (c[1] - apex[1]) - (b[1] - apex[1]) * (c[0] - apex[0])) / 2;
    return { area, sign: Math.sign(area), corners: area > 0 ? [apex, b, c] : [apex, c, b] };
  });
  const turn = Math.sign(raw.reduce((sum, w) => sum + w.area, 0));
  return raw.filter((w) => w.area !== 0).map(({ sign, corners }) => ({ sign: sign * turn, corners }));
}

function cutByWedges(face: readonly Vector3[], wedges: readonly Wedge[]): { sign: number; piece: Vector3[] }[] {
  return wedges.flatMap(({ sign, corners }) => {
    let piece: Vector3[] = [...face];
    for (const [i, [ax, ay]] of corners.entries()) {
      const [bx, by] = corners[(i + 1) % 3]!;
      piece = keepSide(piece, ([x, y]) => (bx - ax) * (y - ay) - (by - ay) * (x - ax));
      if (piece.length < 3) return [];
    }
    return [{ sign, piece }];
  });
}
