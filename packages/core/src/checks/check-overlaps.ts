import { type Figure, measureUnionAreaM2 } from '../geometry/union-area.ts';
import type { Finding } from './finding.ts';

/** A body in the model's world: its box, and its section if it is straight and upright. Metres. */
export interface PlacedBody {
  readonly globalId: string;
  readonly label: string;
  /** Bodies of one kind must not share space. */
  readonly kind: string;
  readonly min: readonly [number, number, number];
  readonly max: readonly [number, number, number];
  readonly volumeM3: number;
  /** Section on plan of an upright prism; null for other shapes. */
  readonly figure: Figure | null;
}

/** Bodies that share more than this part of the smaller one overlap; corners of walls share less. */
export const OVERLAP_SHARE = 0.2;
/** A body that fills its box but for this share is taken for the box. */
const BOX_SHARE = 0.02;

/**
 * Pairs of bodies of one kind that share more than `share` of the smaller volume. Prisms are compared by their sections, bodies that
 * fill their boxes by these; for other shapes nothing is claimed.
 */
export function findOverlaps(
  bodies: readonly PlacedBody[],
  share = OVERLAP_SHARE,
): { a: PlacedBody; b: PlacedBody; sharedM3: number }[] {
  const out: { a: PlacedBody; b: PlacedBody; sharedM3: number }[] = [];
  for (const [i, j] of listNeighbours(bodies)) {
    const [a, b] = [bodies[i]!, bodies[j]!];
    if (a.kind !== b.kind) continue;
    const least = share * Math.min(a.volumeM3, b.volumeM3);
    if (!(boxVolume(a, b) > least)) continue;
    const sharedM3 = sharedVolume(a, b);
    if (sharedM3 > least) out.push({ a, b, sharedM3 });
  }
  return out;
}

/** Findings about overlapping bodies; pairs that are reported as standing in one place are left out. */
export function checkOverlaps(bodies: readonly PlacedBody[], coincident: ReadonlySet<string>): Finding[] {
  return findOverlaps(bodies)
    .filter(({ a, b }) => !(coincident.has(a.globalId) && coincident.has(b.globalId)))
    .map(({ a, b, sharedM3 }) => ({
      code: a.kind === 'space' ? 'rooms-overlap' : 'overlap',
      severity: 'warning',
      message: `${a.label} and ${b.label} share ${Number(sharedM3.toPrecision(3))} m3; it is counted twice.`,
      globalIds: [a.globalId, b.globalId],
    }));
}

const span = (a: PlacedBody, b: PlacedBody, k: 0 | 1 | 2) =>
  Math.max(0, Math.min(a.max[k], b.max[k]) - Math.max(a.min[k], b.min[k]));
const boxVolume = (a: PlacedBody, b: PlacedBody) => span(a, b, 0) * span(a, b, 1) * span(a, b, 2);

function sharedVolume(a: PlacedBody, b: PlacedBody): number {
  if (a.figure && b.figure) {
    const both = measureUnionAreaM2([a.figure]) + measureUnionAreaM2([b.figure]);
    return (both - measureUnionAreaM2([a.figure, b.figure])) * span(a, b, 2);
  }
  return fillsBox(a) && fillsBox(b) ? boxVolume(a, b) : 0;
}

function fillsBox({ min, max, volumeM3 }: PlacedBody): boolean {
  const box = (max[0] - min[0]) * (max[1] - min[1]) * (max[2] - min[2]);
  return box - volumeM3 <= BOX_SHARE * box;
}

/** Pairs whose boxes share a square of a grid; the squares are as large as a usual body, so that few bodies share one. */
function* listNeighbours(bodies: readonly PlacedBody[]): Generator<[number, number]> {
  const sizes = bodies.map((b) => Math.max(b.max[0] - b.min[0], b.max[1] - b.min[1])).sort((a, b) => a - b);
  const size = Math.max(0.5, sizes[Math.floor(sizes.length / 2)] ?? 1);
  const cells = new Map<string, number[]>();
  const cellsOf = ({ min, max }: PlacedBody): string[] => {
    const keys: string[] = [];
    for (let x = Math.floor(min[0] / size); x <= Math.floor(max[0] / size); x++)
      for (let y = Math.floor(min[1] / size); y <= Math.floor(max[1] / size); y++) keys.push(`${x},${y}`);
    return keys;
  };
  for (const [i, body] of bodies.entries()) {
    const met = new Set<number>();
    for (const key of cellsOf(body)) {
      const cell = cells.get(key);
      if (!cell) {
        cells.set(key, [i]);
        continue;
      }
      for (const j of cell) if (!met.has(j) && span(bodies[j]!, body, 2) > 0) met.add(j);
      cell.push(i);
    }
    for (const j of met) yield [j, i];
  }
}
