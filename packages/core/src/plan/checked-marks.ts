import { LineState } from '../cells/cell-line.ts';
import { rateAt } from '../pricing/price-lines.ts';
import { type GroupField, type GroupNames, readGroupField, readGroupLabel, readNames, sayNoGroup } from './group-labels.ts'; // biome-ignore format: one module
import type { Plan } from './plan.ts';
import { type PlanCellRow, visitPlanRows } from './plan-rows.ts';

/** What a mark is on: one element, one item in its work section, or one group of the plan. */
export type MarkedThing =
  | { readonly element: number }
  | { readonly section: string | null; readonly item: string }
  | { readonly by: string; readonly is: string };

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

/** Tells marks apart. @example 'element=12', 'line=masonry|MAS-100', 'storey=Roof' */
export function markId(on: MarkedThing): string {
  if ('element' in on) return `element=${on.element}`;
  return 'item' in on ? `line=${on.section ?? ''}|${on.item}` : `${on.by}=${on.is}`;
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

function hashCell({ part, row, line, at, block }: PlanCellRow): number {
  let hash = mixNumber(0x811c9dc5, part.table.keys[row]!);
  hash = mixText(hash, `${block.mapped.section}|${line.code}|${line.lines.join('>')}`);
  hash = mixNumber(hash, line.state[at]!);
  hash = mixNumber(hash, line.state[at] === LineState.known ? roundFigure(line.net[at]!) : -1);
  hash = mixNumber(hash, roundFigure(rateAt(line, at) ?? -1));
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
  const elements = new Map<number, Sign>();
  const lines = new Map<string, Sign>();
  const groups = new Map<GroupField, Map<string, Sign>>();
  things.forEach((on, i) => {
    if ('element' in on) elements.set(on.element, signs[i]!);
    else if ('item' in on) lines.set(markId(on), signs[i]!);
    else {
      const field = readGroupField(on.by);
      if (!field) return;
      const of = groups.get(field) ?? new Map<string, Sign>();
      groups.set(field, of);
      of.set(on.is, signs[i]!);
    }
  });
  const labels = readNames(names);
  const division = { isByKind: groups.has('kind'), isByRoom: groups.has('room') };
  visitPlanRows(plan, division, (row) => {
    const hash = hashCell(row);
    const { amount } = row.piece;
    elements.get(row.part.table.keys[row.row]!)?.add(hash, amount);
    lines.get(`line=${row.block.mapped.section ?? ''}|${row.line.code}`)?.add(hash, amount);
    for (const [field, of] of groups)
      of.get(readGroupLabel(field, row, labels) ?? sayNoGroup(field))?.add(hash, amount);
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

/** Tests cells for being under a mark that holds. Null where there is none. */
export function testChecked(held: readonly HeldMark[], names: GroupNames): ((row: PlanCellRow) => boolean) | null {
  const good = held.filter((h) => h.holds).map((h) => h.mark.on);
  if (good.length === 0) return null;
  const elements = new Set(good.flatMap((on) => ('element' in on ? [on.element] : [])));
  const lines = new Set(good.flatMap((on) => ('item' in on ? [markId(on)] : [])));
  const groups = good.flatMap((on) => ('by' in on ? [{ field: readGroupField(on.by)!, is: on.is }] : []));
  const labels = readNames(names);
  return (row) =>
    elements.has(row.part.table.keys[row.row]!) ||
    lines.has(`line=${row.block.mapped.section ?? ''}|${row.line.code}`) ||
    groups.some(({ field, is }) => (readGroupLabel(field, row, labels) ?? sayNoGroup(field)) === is);
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
