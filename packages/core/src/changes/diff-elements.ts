import { readText, readTextList } from '../elements/columns.ts';
import { medianStep } from '../elements/common-shift.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import { readCentre, type Step } from '../elements/element-likeness.ts';
import type { ElementTable } from '../elements/element-table.ts';

/** A figure or text before and after; null is "absent". */
export type FromTo<T> = readonly [from: T | null, to: T | null];

export interface ChangedElement {
  readonly key: number;
  /** Row in the table after. */
  readonly row: number;
  readonly quantities: Readonly<Record<string, FromTo<number>>>;
  readonly attributes: Readonly<Record<string, FromTo<string>>>;
  /** How far all of it is from where it was, m, beyond what its whole source moved; 0 where it stands where it stood, or only grew. */
  readonly movedM: number;
  /** It came under another id than before. */
  readonly isIdentified: boolean;
}

/** What came, went and changed between two revisions, matched by ElementKey. */
export interface ElementDiff {
  /** Rows of the table after. */
  readonly added: readonly number[];
  /** Rows of the table before. */
  readonly removed: readonly number[];
  readonly changed: readonly ChangedElement[];
}

/** Figures that differ by less than this share are the same; files round differently from one export to the next. */
const SAME_SHARE = 1e-6;

/** A place that differs by less is the same, m. */
const SAME_PLACE_M = 0.001;

const NOWHERE: Step = [0, 0, 0];
/** Share of a source's elements that stand still where it was not moved as a whole. */
const STILL_SHARE = 0.05;

const isSameFigure = (a: number, b: number) =>
  (Number.isNaN(a) && Number.isNaN(b)) || Math.abs(a - b) <= SAME_SHARE * Math.max(Math.abs(a), Math.abs(b));
const orNull = (v: number) => (Number.isNaN(v) ? null : v);

/** Compares two tables whose keys are assigned. */
export function diffElements(before: ElementTable, after: ElementTable): ElementDiff {
  const rowBefore = new Map<number, number>();
  before.keys.forEach((key, row) => void rowBefore.set(key, row));
  const added: number[] = [];
  const changed: ChangedElement[] = [];
  const [qa, qb] = [listEffectiveQuantities(before), listEffectiveQuantities(after)];
  const names = [...new Set([...qa.keys(), ...qb.keys()])];
  const seen = new Set<number>();
  const measureBox = createBoxMeasure(before, after, rowBefore);
  for (let row = 0; row < after.count; row++) {
    const key = after.keys[row]!;
    const old = rowBefore.get(key);
    if (old === undefined) {
      added.push(row);
      continue;
    }
    seen.add(key);
    const quantities: Record<string, FromTo<number>> = {};
    for (const name of names) {
      const a = qa.get(name)?.values[old] ?? Number.NaN;
      const b = qb.get(name)?.values[row] ?? Number.NaN;
      if (!isSameFigure(a, b)) quantities[(qb.get(name) ?? qa.get(name))!.name] = [orNull(a), orNull(b)];
    }
    const attributes = diffAttributes(before, old, after, row);
    const { movedM, isOtherSize } = measureBox(old, row);
    // A shape that is another although no figure says so: turned, or of the same amount.
    if (isOtherSize && Object.keys(quantities).length === 0)
      attributes.shape = [sayBox(before, old), sayBox(after, row)];
    const isIdentified = readText(before.identity, old) !== readText(after.identity, row);
    if (isIdentified || movedM > 0 || Object.keys(quantities).length > 0 || Object.keys(attributes).length > 0)
      changed.push({ key, row, quantities, attributes, movedM, isIdentified });
  }
  const removed: number[] = [];
  before.keys.forEach((key, row) => {
    if (!seen.has(key)) removed.push(row);
  });
  return { added, removed, changed };
}

/** What became of the box of an element: how far all of it moved, and whether it has another size. */
interface BoxChange {
  readonly movedM: number;
  readonly isOtherSize: boolean;
}

/** Measures what became of the boxes of elements, beyond the step that most of them made. One that grew to one side did not move. */
function createBoxMeasure(
  before: ElementTable,
  after: ElementTable,
  rowBefore: ReadonlyMap<number, number>,
): (old: number, row: number) => BoxChange {
  const pairs = [...after.keys].flatMap((key, row) => {
    const old = rowBefore.get(key);
    return old === undefined ? [] : [[{ centre: readCentre(before, old) }, { centre: readCentre(after, row) }] as const]; // biome-ignore format: one pair
  });
  const isStill = ([a, b]: (typeof pairs)[number]) =>
    !a.centre || !b.centre || a.centre.every((v, i) => Math.abs(b.centre![i]! - v) <= SAME_PLACE_M);
  // Where some of a source stand still, it was not moved as a whole.
  const still = pairs.filter(isStill).length;
  const shift = still > pairs.length * STILL_SHARE ? NOWHERE : (medianStep(pairs) ?? NOWHERE);
  return (old, row) => {
    const step = (edge: number, axis: number) => after.boxes[row * 6 + edge + axis]! - before.boxes[old * 6 + edge + axis]! - shift[axis]!; // biome-ignore format: one step
    const steps = [0, 1, 2].map((axis) => [step(0, axis), step(3, axis)] as const);
    if (steps.some(([low, high]) => Number.isNaN(low) || Number.isNaN(high))) return { movedM: 0, isOtherSize: false };
    const moved = Math.hypot(
      ...steps.map(([low, high]) => (low * high > 0 ? Math.min(Math.abs(low), Math.abs(high)) : 0)),
    );
    const isOtherSize = steps.some(([low, high]) => Math.abs(high - low) > SAME_PLACE_M);
    return { movedM: moved > SAME_PLACE_M ? moved : 0, isOtherSize };
  };
}

/** Edges of an element's box in words. @example '4.00 x 0.20 x 2.60 m' */
const sayBox = ({ boxes }: ElementTable, row: number): string =>
  `${[0, 1, 2].map((i) => (boxes[row * 6 + i + 3]! - boxes[row * 6 + i]!).toFixed(2)).join(' x ')} m`;

function diffAttributes(
  before: ElementTable,
  old: number,
  after: ElementTable,
  row: number,
): Record<string, FromTo<string>> {
  const out: Record<string, FromTo<string>> = {};
  const note = (name: string, a: string | null, b: string | null) => {
    if (a !== b) out[name] = [a, b];
  };
  note('class', readText(before.ifcClass, old), readText(after.ifcClass, row));
  note('type', readText(before.typeName, old), readText(after.typeName, row));
  note('name', readText(before.name, old), readText(after.name, row));
  note('room', nameRoom(before, old), nameRoom(after, row));
  note('storey', readText(before.storey, old), readText(after.storey, row));
  note(
    'materials',
    readTextList(before.materials, old).join(', ') || null,
    readTextList(after.materials, row).join(', ') || null,
  );
  for (const [name, [a, b]] of diffProperties(before, old, after, row)) note(name, a, b);
  return out;
}

const roomNames = new WeakMap<ElementTable, ReadonlyMap<string, string>>();

/** What the room that an element stands in is called; null if it stands in none. Ids of rooms may be renewed with the file. */
function nameRoom(table: ElementTable, row: number): string | null {
  const id = readText(table.space, row);
  if (id === null) return null;
  let names = roomNames.get(table);
  if (!names) {
    const rooms = [...table.rooms.keys()].filter((r) => table.rooms[r]);
    names = new Map(rooms.map((r) => [readText(table.identity, r) ?? '', readText(table.name, r) ?? '']));
    roomNames.set(table, names);
  }
  return names.get(id) || id;
}

function diffProperties(
  before: ElementTable,
  old: number,
  after: ElementTable,
  row: number,
): Map<string, [string | null, string | null]> {
  const index = (table: ElementTable, at: number) => {
    let maps = propertyMaps.get(table);
    if (!maps) {
      maps = Array.from({ length: table.count }, () => new Map<string, string>());
      for (const { set, name, rows, values } of table.properties)
        rows.forEach((r, i) => void maps![r]!.set(`${set}.${name}`, String(values[i])));
      propertyMaps.set(table, maps);
    }
    return maps[at]!;
  };
  const [a, b] = [index(before, old), index(after, row)];
  const out = new Map<string, [string | null, string | null]>();
  for (const name of new Set([...a.keys(), ...b.keys()])) {
    if (a.get(name) !== b.get(name)) out.set(name, [a.get(name) ?? null, b.get(name) ?? null]);
  }
  return out;
}
const propertyMaps = new WeakMap<ElementTable, Map<string, string>[]>();
