import { measurePerimeterM, measureSignedAreaM2, type Outline, outlineToPolygon } from './outline.ts';
import { measureStrip } from './own-axes.ts';
import { distanceBetween, type Vector2 } from './vector.ts';

/** What an edge of a strip is: one of its two long sides, or an end. */
export type StripEdge = 'left' | 'right' | 'end';

/** A footprint of one thickness: straight, bent, curved or closed to a ring. Metres. */
export interface Strip {
  readonly thicknessM: number;
  /** Along the middle. */
  readonly lengthM: number;
  /** Length of each long side. */
  readonly leftM: number;
  readonly rightM: number;
  /** Lengths of the two ends together; 0 for a ring. */
  readonly endsM: number;
  /** Chords of the outline with what each is. */
  readonly chords: readonly StripChord[];
  /** Its middle line; closed for a ring (first point again at the end). */
  readonly middle: readonly Vector2[];
}
export interface StripChord {
  readonly from: Vector2;
  readonly to: Vector2;
  readonly edge: StripEdge;
}

interface Chord {
  readonly from: Vector2;
  readonly to: Vector2;
  readonly lengthM: number;
  /** Inward, unit length. */
  readonly inward: Vector2;
  readonly ring: number;
}

/** Thicknesses are one if they differ by no more than this share, or this much in metres. */
const SAME_SHARE = 0.01;
const SAME_M = 1e-3;
const SAMPLES = [0.5, 0.25, 0.75, 0.1, 0.9];
/** Faces are opposite if their normals are opposite within this cosine (8°: chords of a curve do not face each other exactly). */
const OPPOSITE = -0.99;
/** Chords per full turn in the search; lengths are those of the arcs. */
const CHORDS = 96;
/** Longest outline that is looked through. */
const MOST_CHORDS = 1500;

const isSame = (a: number, b: number) => Math.abs(a - b) <= Math.max(SAME_M, SAME_SHARE * Math.max(a, b));

/**
 * Finds the one thickness of a footprint and its length along the middle, and tells its sides from its ends. A chord is a side if
 * the way square through the body from it meets a chord that looks the other way at that thickness. Null if there is no one
 * thickness, or not just two ends (none for a ring): nothing is guessed.
 *
 * Thickness and length are exact for square ends (A = L·t, P = 2(L + t)) and rings (P outer + P inner = 2L).
 * @example an L of 4 m + 3 m outside, 0.2 m thick: length 6.8, sides 7 and 6.6, ends 0.4
 */
export function findStrip(outer: Outline, holes: readonly Outline[]): Strip | null {
  if (holes.length > 1) return null;
  const rings = [outer, ...holes];
  const chords = rings.flatMap((ring, i) => listChords(ring, i > 0, i));
  if (chords.length < 4 || chords.length > MOST_CHORDS) return null;
  const across = chords.map((c) => measureAcross(c, chords));
  const t = findThickness(chords, across);
  if (t === null) return null;
  const isSide = across.map((list) => list.some((d) => isSame(d, t)));
  const areaM2 = rings.reduce((sum, ring, i) => sum + (i > 0 ? -1 : 1) * Math.abs(measureSignedAreaM2(ring)), 0);
  const perimeters = rings.map(measurePerimeterM);
  return holes.length === 1
    ? closeRing(chords, isSide, areaM2, perimeters as [number, number], t)
    : openStrip(chords, isSide, areaM2, perimeters[0]!, t);
}

function closeRing(
  chords: readonly Chord[],
  isSide: readonly boolean[],
  areaM2: number,
  [outerM, innerM]: readonly [number, number],
  found: number,
): Strip | null {
  if (!isSide.every(Boolean)) return null;
  const lengthM = (outerM + innerM) / 2;
  const thicknessM = areaM2 / lengthM;
  if (!isSame(thicknessM, found)) return null;
  const labelled = chords.map(({ from, to, ring }): StripChord => ({ from, to, edge: ring === 0 ? 'right' : 'left' }));
  const middle = moveChain(chords.filter((c) => c.ring === 0), thicknessM / 2, true); // biome-ignore format: one line
  return { thicknessM, lengthM, leftM: innerM, rightM: outerM, endsM: 0, chords: labelled, middle };
}

function openStrip(
  chords: readonly Chord[],
  isSide: readonly boolean[],
  areaM2: number,
  perimeterM: number,
  found: number,
): Strip | null {
  const n = chords.length;
  const start = isSide.findIndex((side, i) => side && !isSide[(i + n - 1) % n]!);
  if (start < 0) return null;
  // Runs around the outline: side, end, side, end.
  const runs: { isSide: boolean; list: Chord[] }[] = [];
  for (let k = 0; k < n; k++) {
    const i = (start + k) % n;
    const last = runs.at(-1);
    if (last && last.isSide === isSide[i]) last.list.push(chords[i]!);
    else runs.push({ isSide: isSide[i]!, list: [chords[i]!] });
  }
  if (runs.length !== 4) return null;
  const [right, endA, left, endB] = runs.map((r) => r.list) as [Chord[], Chord[], Chord[], Chord[]];
  const lengthOf = (list: readonly Chord[]) => list.reduce((sum, c) => sum + c.lengthM, 0);
  const endsM = lengthOf(endA) + lengthOf(endB);
  const square = measureStrip(areaM2, perimeterM);
  const isSquare = [endA, endB].every((end) => end.length === 1 && isSame(end[0]!.lengthM, found));
  const thicknessM = isSquare && square && isSame(square.thicknessM, found) ? square.thicknessM : found;
  const lengthM = areaM2 / thicknessM;
  const sidesM = perimeterM - endsM;
  // Along the middle a strip is as long as its sides are on average; ends no longer than a steep mitre.
  if (Math.abs(sidesM - 2 * lengthM) > 0.005 * sidesM || endsM > 6 * thicknessM) return null;
  const chordsM = lengthOf(right) + lengthOf(left);
  const scale = sidesM / chordsM;
  const labels = new Map<Chord, StripEdge>();
  for (const c of right) labels.set(c, 'right');
  for (const c of left) labels.set(c, 'left');
  return {
    thicknessM,
    lengthM,
    leftM: lengthOf(left) * scale,
    rightM: lengthOf(right) * scale,
    endsM,
    chords: chords.map((c) => ({ from: c.from, to: c.to, edge: labels.get(c) ?? 'end' })),
    middle: moveChain(right, thicknessM / 2, false),
  };
}

function listChords(ring: Outline, isHole: boolean, index: number): Chord[] {
  const points = outlineToPolygon(ring, CHORDS);
  const isCounterClockwise = measureSignedAreaM2(ring) > 0;
  // The body lies to the left of an outer outline that runs counter-clockwise, to the right of a hole's that does.
  const turned = isCounterClockwise === isHole ? [...points].reverse() : points;
  return turned.flatMap((from, i): Chord[] => {
    const to = turned[(i + 1) % turned.length]!;
    const lengthM = distanceBetween(from, to);
    if (lengthM < 1e-7) return [];
    return [{ from, to, lengthM, inward: [-(to[1] - from[1]) / lengthM, (to[0] - from[0]) / lengthM], ring: index }];
  });
}

/** Ways square through the body from places along a chord to where it leaves it, m; only where it leaves through an opposite face. */
function measureAcross({ from, to, inward }: Chord, chords: readonly Chord[]): number[] {
  const out: number[] = [];
  for (const share of SAMPLES) {
    const at: Vector2 = [from[0] + (to[0] - from[0]) * share, from[1] + (to[1] - from[1]) * share];
    let nearest = Number.POSITIVE_INFINITY;
    let isOpposite = false;
    for (const c of chords) {
      const facing = c.inward[0] * inward[0] + c.inward[1] * inward[1];
      if (facing >= 0) continue;
      const [ex, ey] = [c.to[0] - c.from[0], c.to[1] - c.from[1]];
      const det = inward[0] * ey - inward[1] * ex;
      if (Math.abs(det) < 1e-12) continue;
      const [dx, dy] = [c.from[0] - at[0], c.from[1] - at[1]];
      const distance = (dx * ey - dy * ex) / det;
      const place = (dx * inward[1] - dy * inward[0]) / det;
      if (distance <= 1e-9 || distance >= nearest || place < -1e-9 || place > 1 + 1e-9) continue;
      nearest = distance;
      isOpposite = facing < OPPOSITE;
    }
    if (isOpposite) out.push(nearest);
  }
  return out;
}

/** The thickness that most of the boundary has: the middle one by length. */
function findThickness(chords: readonly Chord[], across: readonly number[][]): number | null {
  const weighed = chords
    .flatMap((c, i) => across[i]!.map((d) => ({ d, weight: c.lengthM / SAMPLES.length })))
    .sort((a, b) => a.d - b.d);
  const total = weighed.reduce((sum, w) => sum + w.weight, 0);
  let run = 0;
  for (const { d, weight } of weighed) {
    run += weight;
    if (run >= total / 2) return d;
  }
  return null;
}

/** A run of chords moved inward, neighbours joined where their lines meet. */
function moveChain(chain: readonly Chord[], inM: number, isClosed: boolean): Vector2[] {
  const moved = chain.map(({ from, to, inward }) => {
    const [x, y] = [inward[0] * inM, inward[1] * inM];
    return { from: [from[0] + x, from[1] + y] as Vector2, to: [to[0] + x, to[1] + y] as Vector2 };
  });
  const join = (a: (typeof moved)[number], b: (typeof moved)[number]): Vector2 => {
    const [ux, uy, vx, vy] = [a.to[0] - a.from[0], a.to[1] - a.from[1], b.to[0] - b.from[0], b.to[1] - b.from[1]];
    const det = ux * vy - uy * vx;
    if (Math.abs(det) < 1e-9 * distanceBetween(a.from, a.to) * distanceBetween(b.from, b.to)) return a.to;
    const s = ((b.from[0] - a.from[0]) * vy - (b.from[1] - a.from[1]) * vx) / det;
    return [a.from[0] + ux * s, a.from[1] + uy * s];
  };
  if (moved.length === 0) return [];
  const inner = moved.slice(1).map((b, i) => join(moved[i]!, b));
  if (!isClosed) return [moved[0]!.from, ...inner, moved.at(-1)!.to];
  const first = join(moved.at(-1)!, moved[0]!);
  return [first, ...inner, first];
}
