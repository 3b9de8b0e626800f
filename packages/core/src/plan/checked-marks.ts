import { LineState } from '../cells/cell-line.ts';
import { rateAt } from '../pricing/price-lines.ts';
import { toEntryId } from '../units/entry-id.ts';
import { type GroupField, type GroupNames, type Labels, readGroupField, readGroupLabel, readNames, sayNoGroup } from './group-labels.ts'; // biome-ignore format: one module
import type { Plan } from './plan.ts';
import { type PlanCellRow, visitPlanRows } from './plan-rows.ts';

/** What a mark is on: one element; or a group of the plan (its labels from the outermost in), an item in its work section, or such an item in such a group. */
export type MarkedThing =
  | { readonly element: number }
  | {
      readonly path: readonly { readonly by: string; readonly is: string }[];
      readonly section?: string | null;
      readonly item?: string;
    };

/** A person's word that a figure is right, with what it was then: it holds while that is so. */
export interface CheckedMark {
  readonly on: MarkedThing;
  /** What the plan said: quantities, waste and rates of all that it is on (`signMarked`). */
  readonly signature: string;
  /** In minor units, as it was. */
  readonly amount: number;
  readonly by?: string;
  readonly at?: string;
}

/** Tells marks apart. @example 'element=12', '#masonry|MAS-100', 'storey=Roof&section=Masonry' */
export function markId(on: MarkedThing): string {
  if ('element' in on) return `element=${on.element}`;
  const path = on.path.map(({ by, is }) => `${by}=${is}`).join('&');
  return toEntryId(on.item === undefined ? path : `${path}#${on.section ?? ''}|${on.item}`);
}

/** A mark and whether what it is on is as it was. */
export interface HeldMark {
  readonly id: string;
  readonly mark: CheckedMark;
  readonly holds: boolean;
  /** What it is on now; empty where that is gone. */
  readonly signature: string;
  /** In 1/10,000 of a minor unit. */
  readonly amount: number;
}

/** Sum of what was seen of one thing. The order in which cells come does not change it. */
class Sign {
  private a = 0;
  private b = 0;
  private count = 0;
  amount = 0;

  add(hash: number, amount: number): void {
    this.a = (this.a + hash) >>> 0;
    this.b = (this.b + Math.imul(hash ^ 0x9e3779b9, 0x85ebca6b)) >>> 0;
    this.count++;
    this.amount += amount;
  }

  get text(): string {
    return this.count === 0 ? '' : `${this.count}.${this.a.toString(36)}.${this.b.toString(36)}`;
  }
}

const bytes = new DataView(new ArrayBuffer(8));
function mixNumber(hash: number, value: number): number {
  bytes.setFloat64(0, value + 0);
  return Math.imul(Math.imul(hash ^ bytes.getInt32(0), 0x01000193) ^ bytes.getInt32(4), 0x01000193);
}
function mixText(hash: number, text: string): number {
  let mixed = hash;
  for (let i = 0; i < text.length; i++) mixed = Math.imul(mixed ^ text.charCodeAt(i), 0x01000193);
  return mixed;
}

/** Digits of a quantity that count: what the last bits of a sum do is no change. */
const roundFigure = (value: number) => Number(value.toPrecision(9));

function hashCell({ part, row, line, at, block, piece }: PlanCellRow): number {
  let hash = mixNumber(0x811c9dc5, part.table.keys[row]!);
  hash = mixText(hash, `${block.mapped.section}|${line.code}|${line.lines.join('>')}`);
  hash = mixNumber(hash, line.state[at]!);
  hash = mixNumber(hash, line.state[at] === LineState.known ? roundFigure(line.net[at]!) : -1);
  hash = mixNumber(hash, roundFigure(rateAt(line, at) ?? -1));
  hash = mixNumber(hash, roundFigure(piece.extent * piece.share));
  return mixNumber(hash, line.wastePercent);
}

/**
 * What a plan says of things by now, each as a short text that changes if a quantity, a decision, a waste or a rate of it does, with its amount.
 * @param things what marks are on
 */
export function signMarked(
  plan: Plan,
  things: readonly MarkedThing[],
  names: GroupNames,
): { readonly signature: string; readonly amount: number }[] {
  const signs = things.map(() => new Sign());
  const found = indexThings(things);
  const labels = readNames(names);
  visitPlanRows(plan, found, (row) => {
    const hash = hashCell(row);
    found.visit(row, labels, (at) => signs[at]!.add(hash, row.piece.amount));
  });
  return signs.map((s) => ({ signature: s.text, amount: s.amount }));
}

/** Marks with whether they still hold. */
export function holdMarks(plan: Plan, marks: readonly CheckedMark[], names: GroupNames): HeldMark[] {
  const now = signMarked(
    plan,
    marks.map((m) => m.on),
    names,
  );
  return marks.map((mark, i) => ({
    id: markId(mark.on),
    mark,
    holds: now[i]!.signature !== '' && now[i]!.signature === mark.signature,
    ...now[i]!,
  }));
}

/** Things by what is asked of a cell for them, so that each cell is asked once for all things of one kind. */
function indexThings(things: readonly MarkedThing[]): {
  readonly isByKind: boolean;
  readonly isByRoom: boolean;
  readonly visit: (row: PlanCellRow, labels: Labels, hit: (at: number) => void) => void;
} {
  const elements = new Map<number, number>();
  const kinds = new Map<string, { readonly fields: readonly GroupField[]; readonly isOfItem: boolean; readonly places: Map<string, number> }>(); // biome-ignore format: one record
  things.forEach((on, at) => {
    if ('element' in on) {
      elements.set(on.element, at);
      return;
    }
    const fields = on.path.flatMap(({ by }) => readGroupField(by) ?? []);
    const isOfItem = on.item !== undefined;
    const id = JSON.stringify([fields, isOfItem]);
    const kind = kinds.get(id) ?? { fields, isOfItem, places: new Map<string, number>() };
    kinds.set(id, kind);
    kind.places.set(
      JSON.stringify([...on.path.map((p) => p.is), ...(isOfItem ? [on.section ?? '', on.item] : [])]),
      at,
    );
  });
  const all = [...kinds.values()];
  const has = (field: GroupField) => all.some((k) => k.fields.includes(field));
  return {
    isByKind: has('kind'),
    isByRoom: has('room'),
    visit: (row, labels, hit) => {
      const own = elements.get(row.part.table.keys[row.row]!);
      if (own !== undefined) hit(own);
      for (const { fields, isOfItem, places } of all) {
        const path = fields.map((field) => readGroupLabel(field, row, labels) ?? sayNoGroup(field));
        const at = places.get(JSON.stringify(isOfItem ? [...path, row.block.mapped.section ?? '', row.line.code] : path)); // biome-ignore format: one step
        if (at !== undefined) hit(at);
      }
    },
  };
}

/** Tests cells for being under a mark that holds. Null where there is none. */
export function testChecked(held: readonly HeldMark[], names: GroupNames): ((row: PlanCellRow) => boolean) | null {
  const good = held.filter((h) => h.holds).map((h) => h.mark.on);
  if (good.length === 0) return null;
  const { visit } = indexThings(good);
  const labels = readNames(names);
  return (row) => {
    let isHit = false;
    visit(row, labels, () => {
      isHit = true;
    });
    return isHit;
  };
}

/** An item in a work section with the money in it that no mark covers, in 1/10,000 of a minor unit. */
export interface UncheckedLine {
  readonly section: string | null;
  readonly item: string;
  readonly description: string;
  readonly amount: number;
  readonly elements: number;
}

/** What is not checked, line by line, the most money first. Amounts below 0 count by their size. */
export function listUnchecked(plan: Plan, isChecked: ((row: PlanCellRow) => boolean) | null): UncheckedLine[] {
  const lines = new Map<string, { section: string | null; item: string; description: string; amount: number; keys: Set<number> }>(); // biome-ignore format: one record
  visitPlanRows(plan, { isByKind: false, isByRoom: false }, (row) => {
    if (isChecked?.(row)) return;
    const { line, block, part } = row;
    const id = `${block.mapped.section ?? ''}|${line.code}`;
    const of = lines.get(id) ?? { section: block.mapped.section, item: line.code, description: line.item?.item.description ?? '', amount: 0, keys: new Set() }; // biome-ignore format: one record
    lines.set(id, of);
    of.amount += row.piece.amount;
    of.keys.add(part.table.keys[row.row]!);
  });
  return [...lines.values()]
    .map(({ keys, ...line }) => ({ ...line, elements: keys.size }))
    .sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount) || (a.item < b.item ? -1 : 1));
}
