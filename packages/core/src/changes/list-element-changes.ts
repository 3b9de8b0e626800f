import { sayClass } from '../elements/class-word.ts';
import { readText } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { PlanPart } from '../plan/plan.ts';
import type { Amount } from '../pricing/money.ts';
import { listLineTraits } from '../recipes/line-traits.ts';
import { diffElements, type ElementDiff, type FromTo } from './diff-elements.ts';
import { type Move, sumElementMoves } from './explain-move.ts';
import { findSplits } from './find-splits.ts';
import { type CauseAmounts, noCauses } from './move-causes.ts';
import type { MoveState } from './move-state.ts';

/** What became of an element. `priced`: it is as it was, and costs something else. */
export const ELEMENT_CHANGES = ['came', 'went', 'changed', 'priced'] as const;
export type ElementChangeKind = (typeof ELEMENT_CHANGES)[number];

/** An element of two plans that differs in them, with what moved of it. */
export interface ElementChange {
  readonly key: number;
  readonly sourceId: string;
  readonly what: ElementChangeKind;
  /** It came under another id than before, and was known again. */
  readonly isIdentified: boolean;
  readonly identity: string;
  readonly label: string;
  readonly ifcClass: string | null;
  readonly storey: string | null;
  readonly move: Amount;
  readonly causes: CauseAmounts;
  readonly quantities: Readonly<Record<string, FromTo<number>>>;
  readonly attributes: Readonly<Record<string, FromTo<string>>>;
  readonly movedM: number;
  /** It was split into others, others were merged to it, or it is a part of one that was; null else. */
  readonly split: { readonly is: 'split' | 'merged' | 'part'; readonly with: readonly string[] } | null;
  /** Names of the quantities, of those that changed, that its price reads. */
  readonly reads: readonly string[];
}

/** How many elements came, went, changed …, as counting begins. */
export const countNoChanges = (): Record<ElementChangeKind | 'identified', number> => ({
  came: 0,
  went: 0,
  changed: 0,
  priced: 0,
  identified: 0,
});

const NOTHING = { quantities: {}, attributes: {}, movedM: 0, reads: [], isIdentified: false, split: null };

/** Elements that came, went, changed or cost something else, the most money first. */
export function listElementChanges(before: MoveState, after: MoveState, move: Pick<Move, 'cells'>): ElementChange[] {
  const moves = sumElementMoves(move);
  const seen = new Set<number>();
  const found: ElementChange[] = [];
  const add = (
    { sourceId, table }: PlanPart,
    row: number,
    what: ElementChangeKind,
    more: Partial<ElementChange> = {},
  ) => {
    const key = table.keys[row]!;
    seen.add(key);
    const { move: amount, causes } = moves.get(key) ?? { move: 0, causes: noCauses() };
    found.push({
      key, sourceId, what, identity: readText(table.identity, row) ?? '', label: nameRow(table, row), ifcClass: readText(table.ifcClass, row), storey: readText(table.storey, row), move: amount, causes, ...NOTHING, ...more,
    }); // biome-ignore format: one record
  };
  for (const now of after.plan.parts) {
    const old = before.plan.parts.find((p) => p.sourceId === now.sourceId);
    if (!old) for (const row of now.table.keys.keys()) add(now, row, 'came');
    if (!old || old.table === now.table) continue;
    const diff = diffTables(old.table, now.table);
    const splits = nameSplits(old, now, diff);
    for (const row of diff.added) add(now, row, 'came', splits(now.table.keys[row]!));
    for (const row of diff.removed) add(old, row, 'went', splits(old.table.keys[row]!));
    for (const { row, key, ...changed } of diff.changed)
      add(now, row, 'changed', { ...changed, ...splits(key), reads: listRead(now, row, changed.quantities) });
  }
  for (const old of before.plan.parts)
    if (!after.plan.parts.some((p) => p.sourceId === old.sourceId)) for (const row of old.table.keys.keys()) add(old, row, 'went'); // biome-ignore format: one loop
  for (const { parts } of [after.plan, before.plan])
    for (const part of parts)
      part.table.keys.forEach((key, row) => {
        if (moves.has(key) && !seen.has(key)) add(part, row, 'priced');
      });
  return found.sort((a, b) => Math.abs(b.move) - Math.abs(a.move) || sizeOf(b) - sizeOf(a) || a.key - b.key);
}

/** Among elements that move no money, those that causes moved to and fro come first. */
const sizeOf = ({ causes }: ElementChange): number => Object.values(causes).reduce((sum, c) => sum + Math.abs(c), 0);

const diffs = new WeakMap<ElementTable, { readonly before: ElementTable; readonly diff: ElementDiff }>();
function diffTables(before: ElementTable, after: ElementTable): ElementDiff {
  const known = diffs.get(after);
  if (known?.before === before) return known.diff;
  const diff = diffElements(before, after);
  diffs.set(after, { before, diff });
  return diff;
}

const nameRow = (table: ElementTable, row: number): string =>
  `${sayClass(readText(table.ifcClass, row) ?? '') ?? ''} ${readText(table.name, row) ?? ''}`.trim();

/** Tells of elements what they were split into, what was merged to them, or what they are parts of. */
function nameSplits(old: PlanPart, now: PlanPart, diff: ElementDiff): (key: number) => Pick<ElementChange, 'split'> {
  const [rowsBefore, rowsNow] = [old, now].map(({ table }) => new Map([...table.keys].map((key, row) => [key, row])));
  const nameOf = (key: number): string => {
    const [inNow, inOld] = [rowsNow!.get(key), rowsBefore!.get(key)];
    return inNow === undefined ? nameRow(old.table, inOld!) : nameRow(now.table, inNow);
  };
  const told = new Map<number, ElementChange['split']>();
  for (const { is, whole, parts } of findSplits(old.table, now.table, diff)) {
    for (const key of parts) told.set(key, { is: 'part', with: [nameOf(whole)] });
    told.set(whole, { is, with: parts.filter((key) => key !== whole).map(nameOf) });
  }
  return (key) => ({ split: told.get(key) ?? null });
}

const readsOf = new WeakMap<PlanPart, Map<number, Set<string>>>();

/** Which of some quantities lines that price an element read; the driver of its decision too. */
function listRead(part: PlanPart, row: number, quantities: ElementChange['quantities']): string[] {
  let rows = readsOf.get(part);
  if (!rows) {
    rows = new Map();
    for (const { recipe, mapped } of part.blocks) {
      const read = listLineTraits(recipe).flatMap(({ reads }) => reads.flatMap((f) => (f.startsWith('q:') ? [f.slice(2)] : []))); // biome-ignore format: one list
      for (const r of mapped.rows) {
        const own = rows.get(r) ?? new Set<string>();
        rows.set(r, own);
        for (const name of read) own.add(name);
      }
    }
    readsOf.set(part, rows);
  }
  const own = rows.get(row);
  return Object.keys(quantities).filter((name) => own?.has(name.toLowerCase()));
}
