import Flatbush from 'flatbush';
import { readText } from '../elements/columns.ts';
import { plainClass, readCentre } from '../elements/element-likeness.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { ElementDiff } from './diff-elements.ts';

/** An element that others were made of, or that was made of others; by ElementKey. */
export interface ElementSplit {
  readonly is: 'split' | 'merged';
  /** The whole: of before where it was split, of now where others were merged to it. */
  readonly whole: number;
  /** Its parts, the whole's own key among them where one of them kept it. */
  readonly parts: readonly number[];
}

/** By how much volumes of parts may miss the volume of their whole. */
const SAME_VOLUME = 0.02;
/** How far beyond the box of the whole a part may reach, m. */
const REACH_M = 0.05;
/** Parts that a whole is looked for to have, at most. */
const MOST_PARTS = 12;

interface Body {
  readonly key: number;
  readonly ifcClass: string;
  readonly volume: number;
  readonly centre: readonly [number, number, number];
  readonly box: Float64Array;
}

/** Bodies of some rows, with their volumes; what has no shape or no volume is none. */
function readBodies(table: ElementTable, rows: Iterable<number>): Body[] {
  const volumes = ['GrossVolume', 'NetVolume'].flatMap((name) => table.quantities.filter((q) => q.name === name && q.basis === 'measured')); // biome-ignore format: one look-up
  const bodies: Body[] = [];
  for (const row of rows) {
    const centre = readCentre(table, row);
    const volume = volumes.map((q) => q.values[row]!).find((v) => v > 0);
    if (!centre || volume === undefined) continue;
    const ifcClass = plainClass(readText(table.ifcClass, row) ?? '');
    bodies.push({ key: table.keys[row]!, ifcClass, volume, centre, box: table.boxes.subarray(row * 6, row * 6 + 6) });
  }
  return bodies;
}

/**
 * Finds elements that were split into several, or several that were merged to one: of one class, the parts within the box of the whole, their
 * volumes adding up to its within 2 %. A part may have kept the id of the whole.
 * @param diff what came, went and changed between the two tables
 * @example a wall of 4 m3 went, two of 1.5 and 2.5 m3 came where it stood: it was split into them
 */
export function findSplits(before: ElementTable, after: ElementTable, diff: ElementDiff): ElementSplit[] {
  const rowBefore = new Map([...before.keys].map((key, row) => [key, row]));
  const changed = diff.changed.map((c) => c.row);
  const changedBefore = diff.changed.map((c) => rowBefore.get(c.key)!);
  const [old, now] = [readBodies(before, [...diff.removed, ...changedBefore]), readBodies(after, [...diff.added, ...changed])]; // biome-ignore format: one step
  const came = new Set(diff.added.map((row) => after.keys[row]!));
  const went = new Set(diff.removed.map((row) => before.keys[row]!));
  return [...findWholes(old, now, came, 'split'), ...findWholes(now, old, went, 'merged')];
}

function findWholes(
  wholes: readonly Body[],
  others: readonly Body[],
  fresh: ReadonlySet<number>,
  is: ElementSplit['is'],
): ElementSplit[] {
  if (fresh.size === 0 || others.length < 2) return [];
  const index = new Flatbush(others.length);
  for (const { centre } of others) index.add(centre[0], centre[1]);
  index.finish();
  const taken = new Set<number>();
  return wholes.flatMap((whole): ElementSplit[] => {
    const { box, ifcClass, volume } = whole;
    const near = index.search(box[0]! - REACH_M, box[1]! - REACH_M, box[3]! + REACH_M, box[4]! + REACH_M);
    const parts = near
      .map((i) => others[i]!)
      .filter((b) => b.ifcClass === ifcClass && !taken.has(b.key) && b.volume < volume && isWithin(b, whole))
      .sort((p, q) => p.key - q.key);
    const sum = parts.reduce((s, b) => s + b.volume, 0);
    const isWhole = Math.abs(sum - volume) <= volume * SAME_VOLUME;
    // One of them at least must not have been there on the other side.
    if (parts.length < 2 || parts.length > MOST_PARTS || !isWhole || !parts.some((b) => fresh.has(b.key))) return [];
    for (const b of parts) taken.add(b.key);
    return [{ is, whole: whole.key, parts: parts.map((b) => b.key) }];
  });
}

const isWithin = ({ centre }: Body, { box }: Body): boolean =>
  centre.every((c, i) => c >= box[i]! - REACH_M && c <= box[i + 3]! + REACH_M);
