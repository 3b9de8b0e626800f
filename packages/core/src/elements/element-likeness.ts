import { foldText } from '../units/fold-text.ts';
import { readText, readTextList } from './columns.ts';
import type { ElementTable } from './element-table.ts';

/** A place or a step in the model's world, metres. */
export type Step = readonly [x: number, y: number, z: number];

/** What of an element tells whether another is the same one: read once per element. */
export interface Traits {
  readonly row: number;
  readonly ifcClass: string;
  readonly name: string | null;
  readonly tag: string | null;
  readonly type: string | null;
  readonly storey: string | null;
  readonly materials: string;
  readonly centre: Step | null;
  /** Edges of its box, m. */
  readonly size: Step | null;
  /** Area of its surface and what its volume is known as, SI; NaN if unknown. */
  readonly areaM2: number;
  readonly volumeM3: number;
}

/** Boxes that overlap by this share of their common room stand in one place. */
export const SAME_PLACE = 0.95;
/** Thickness that boxes are given at least, so that thin ones overlap in spite of rounding, m. */
const SKIN = 0.005;

/** How much each trait says. Where the one or the other element lacks it, it says nothing. */
const WEIGHTS = { place: 3, size: 2, name: 2, tag: 2, type: 1.5, materials: 1, storey: 1, volume: 1 } as const;

/** Two classes that differ by a suffix of older schemas are one: IfcWallStandardCase, IfcWall. */
export const plainClass = (ifcClass: string): string => ifcClass.replace(/(StandardCase|ElementedCase)$/, '');

/** Middle of an element's box, m; null where it has no shape. */
export function readCentre({ boxes }: Pick<ElementTable, 'boxes'>, row: number): Step | null {
  const at = row * 6;
  if (Number.isNaN(boxes[at] ?? Number.NaN)) return null;
  return [(boxes[at]! + boxes[at + 3]!) / 2, (boxes[at + 1]! + boxes[at + 4]!) / 2, (boxes[at + 2]! + boxes[at + 5]!) / 2]; // biome-ignore format: one place
}

/** Reads what elements are known again by, of some rows of a table. */
export function readTraits(table: ElementTable, rows: Iterable<number>): Traits[] {
  const volumes = ['GrossVolume', 'NetVolume'].map((name) => table.quantities.find((q) => q.name === name && q.basis === 'measured')); // biome-ignore format: one look-up
  const fold = (text: string | null) => (text === null || text === '' ? null : foldText(text));
  return Array.from(rows, (row): Traits => {
    const box = table.boxes.subarray(row * 6, row * 6 + 6);
    const hasBox = !Number.isNaN(box[0] ?? Number.NaN);
    return {
      row,
      ifcClass: plainClass(readText(table.ifcClass, row) ?? ''),
      name: fold(readText(table.name, row)),
      tag: fold(readText(table.tag, row)),
      type: fold(readText(table.typeName, row)),
      storey: fold(readText(table.storey, row)),
      materials: readTextList(table.materials, row).map(foldText).sort().join('|'),
      centre: readCentre(table, row),
      size: hasBox ? [box[3]! - box[0]!, box[4]! - box[1]!, box[5]! - box[2]!] : null,
      areaM2: table.sketches?.[row * 7] ?? Number.NaN,
      volumeM3: volumes.reduce((v, q) => (Number.isNaN(v) ? (q?.values[row] ?? Number.NaN) : v), Number.NaN),
    };
  });
}

/** Share of their common room that two boxes both fill, the second moved back by the common shift; NaN if one has none. */
export function overlapShare(a: Traits, b: Traits, shift: Step): number {
  if (!a.centre || !b.centre || !a.size || !b.size) return Number.NaN;
  let share = 1;
  for (const i of [0, 1, 2] as const) {
    const [p, q] = [a.centre[i], b.centre[i] - shift[i]];
    const [s, t] = [Math.max(a.size[i], SKIN) / 2, Math.max(b.size[i], SKIN) / 2];
    const both = Math.min(p + s, q + t) - Math.max(p - s, q - t);
    const all = Math.max(p + s, q + t) - Math.min(p - s, q - t);
    if (both <= 0) return 0;
    // A thin board that is off by a hair is still in its place.
    share *= Math.min(1, (both + SKIN / 2) / all);
  }
  return share;
}

const ratio = (a: number, b: number): number =>
  Number.isNaN(a) || Number.isNaN(b) ? Number.NaN : Math.max(a, b) < 1e-9 ? 1 : Math.min(a, b) / Math.max(a, b);

/** How far two names agree: the same, the same but for their figures (a running number), or not. */
function compareNames(a: string, b: string): number {
  if (a === b) return 1;
  const bare = (text: string) => text.replace(/\d+/g, '');
  return bare(a) === bare(b) ? 0.5 : 0;
}

/**
 * How much two elements of one class are alike: 1 in everything that both tell, 0 in nothing. The weighted mean of place, size, name,
 * tag, type, materials, storey and volume, without those that one of them does not tell.
 * @param shift by how much the second model stands elsewhere as a whole, m
 * @example the same wall with another type: (3 + 2 + 2 + 1 + 1) / 10.5 = 0.86
 */
export function judgeLikeness(a: Traits, b: Traits, shift: Step): { readonly score: number; readonly place: number } {
  const place = overlapShare(a, b, shift);
  const size =
    a.size && b.size ? [0, 1, 2].reduce((m, i) => m * ratio(a.size![i]! + SKIN, b.size![i]! + SKIN), 1) : Number.NaN;
  const text = (x: string | null, y: string | null) => (x === null || y === null ? Number.NaN : Number(x === y));
  const found: Readonly<Record<keyof typeof WEIGHTS, number>> = {
    place,
    size,
    name: a.name === null || b.name === null ? Number.NaN : compareNames(a.name, b.name),
    tag: text(a.tag, b.tag),
    type: text(a.type, b.type),
    materials: text(a.materials || null, b.materials || null),
    storey: text(a.storey, b.storey),
    volume: ratio(a.volumeM3, b.volumeM3),
  };
  let [sum, all] = [0, 0];
  for (const [trait, weight] of Object.entries(WEIGHTS) as [keyof typeof WEIGHTS, number][]) {
    const says = found[trait];
    if (Number.isNaN(says)) continue;
    sum += weight * says;
    all += weight;
  }
  return { score: all === 0 ? 0 : sum / all, place };
}
