import type { Amount } from '../pricing/money.ts';
import { failure, type Result, success } from '../result/result.ts';
import { MixedUnits, type Side } from './mixed-units.ts';
import { addCauses, type CauseAmounts, type MoveCause, noCauses } from './move-causes.ts';
import type { CellPlace, MoveCell } from './move-cell.ts';
import type { MoveState } from './move-state.ts';
import { nameShares } from './name-shares.ts';
import { OtherBook } from './other-book.ts';
import { listElementKeys, type PlacedBlock, pairUnits, type UnitGroup } from './pair-units.ts';
import { splitPercents } from './split-percents.ts';
import { type RunUnits, splitRuns } from './split-runs.ts';
import { type SurplusMove, splitSurplus } from './split-surplus.ts';
import { type SplitTerms, splitUnits } from './split-units.ts';

/** What moved of one element. */
export interface ElementMove {
  readonly move: Amount;
  readonly causes: CauseAmounts;
}

/** The move between two plans; `causes` add up to `move` exactly. All in amounts (1/10,000 of a minor unit). */
export interface Move {
  readonly before: Amount;
  readonly after: Amount;
  readonly move: Amount;
  readonly causes: CauseAmounts;
  /** Cells that are another, or that causes moved to and fro. */
  readonly cells: readonly MoveCell[];
  /** What whole packs cost beyond what is needed, by what is bought. */
  readonly surplus: readonly SurplusMove[];
}

/**
 * Explains the move from one plan to another. A cell moves by its inputs: figures of the element (quantity), recipe (mapping), waste and factors
 * (factors), rate of the book (price); each has what it moved, averaged over all orders in which they may have changed. Elements that came or went
 * move by their whole cost (extent), as do runs by their members. What packs leave over is rounding but for its price. Per cents move as their base.
 * Swapping the plans negates every figure; what did not act is 0. Time: n log n of the cells that differ.
 * Both plans must be in one currency.
 * @example 10 m2 at 20.00, then 12 m2 at 25.00: quantity (2 x 20 + 2 x 25) / 2 = 45.00, price (5 x 10 + 5 x 12) / 2 = 55.00
 */
export function explainMove(before: MoveState, after: MoveState): Move {
  const terms: SplitTerms = {
    minorDigits: after.plan.minorDigits,
    books: [new OtherBook(before.book), new OtherBook(after.book)],
    isPercent: (code) => before.percents.has(code) || after.percents.has(code),
  };
  const { there, gone } = parseGroups(pairUnits(before.plan, after.plan), before, after);
  const came = gone.flatMap(({ units, onlyOn }) => listWhole(units.group, onlyOn));
  const runs: RunUnits[] = [...there.map((units) => ({ units, onlyOn: null })), ...gone];
  const moved = there.filter(({ group }) => !isSameBlock(group));
  const cells = [
    ...came,
    ...nameShares([...moved.flatMap((units) => splitUnits(units, terms)), ...splitRuns(runs, terms)], came),
  ];
  const surplus = splitSurplus(before.plan, after.plan);
  const all = [...cells, ...splitPercents(there, before, after, terms, { cells, surplus })];
  const causes = noCauses();
  for (const cell of all) addCauses(causes, cell.causes);
  for (const s of surplus) addCauses(causes, s.causes);
  const { total: from } = before.plan;
  return { before: from, after: after.plan.total, move: after.plan.total - from, causes, cells: all, surplus };
}

/** Whether a move can be told between two plans. Errors: `currency-differs`. */
export function checkSameMoney(before: MoveState, after: MoveState): Result<true> {
  const [a, b] = [before.plan.currency, after.plan.currency];
  if (a === b) return success(true);
  return failure('currency-differs', `One plan is in ${a}, the other in ${b}.`, {
    remedy: 'Compare plans in one currency.',
  });
}

/** What moved of each element, by ElementKey; those that did not move are not listed. */
export function sumElementMoves({ cells }: Pick<Move, 'cells'>): ReadonlyMap<number, ElementMove> {
  const moves = new Map<number, { move: number; causes: Record<MoveCause, number> }>();
  for (const { key, from, to, causes } of cells) {
    const own = moves.get(key) ?? { move: 0, causes: noCauses() };
    moves.set(key, own);
    own.move += to - from;
    addCauses(own.causes, causes);
  }
  return moves;
}

const isSameBlock = ({ old, now, oldAt, nowAt }: UnitGroup): boolean =>
  old !== null && old.block.lines === now?.block.lines && oldAt.every((at, unit) => at === nowAt[unit]);

/** Units of elements that both states have, and those of elements that only one has. */
function parseGroups(
  groups: readonly UnitGroup[],
  before: MoveState,
  after: MoveState,
): { readonly there: MixedUnits[]; readonly gone: { readonly units: MixedUnits; readonly onlyOn: Side }[] } {
  const mix = (group: UnitGroup) => new MixedUnits(group, before.plan, after.plan);
  const has = [before, after].map(({ plan }) => askForElements(() => listElementKeys(plan)));
  const there: MixedUnits[] = [];
  const gone: { readonly units: MixedUnits; readonly onlyOn: Side }[] = [];
  for (const group of groups) {
    if (group.old && group.now) {
      there.push(mix(group));
      continue;
    }
    const side: Side = group.old ? 0 : 1;
    const { keyOf, count } = mix(group);
    const isThere = Array.from({ length: count }, (_, unit) => has[side === 0 ? 1 : 0]!(keyOf(unit)));
    const [stayed, left] = [takeUnits(group, (unit) => isThere[unit]!), takeUnits(group, (unit) => !isThere[unit])];
    if (stayed) there.push(mix(stayed));
    if (left) gone.push({ units: mix(left), onlyOn: side });
  }
  return { there, gone };
}

/** Asks whether a plan has an element; its elements are gathered when the first is asked about. */
function askForElements(gather: () => ReadonlySet<number>): (key: number) => boolean {
  let elements: ReadonlySet<number> | null = null;
  return (key) => {
    elements ??= gather();
    return elements.has(key);
  };
}

/** Some units of a group; null if there are none. */
function takeUnits(group: UnitGroup, isWanted: (unit: number) => boolean): UnitGroup | null {
  const units = [...group.oldAt.keys()].filter(isWanted);
  if (units.length === 0) return null;
  return { ...group, oldAt: units.map((u) => group.oldAt[u]!), nowAt: units.map((u) => group.nowAt[u]!) };
}

/** Cells of units that only one side has: they move by all that they cost. */
function listWhole({ old, now, oldAt, nowAt }: UnitGroup, side: Side): MoveCell[] {
  const placed: PlacedBlock = (side === 0 ? old : now)!;
  const { part, block } = placed;
  return (side === 0 ? oldAt : nowAt).flatMap((at) => {
    const key = part.table.keys[block.mapped.rows[at]!]!;
    return block.lines.flatMap((line): MoveCell[] => {
      const amount = line.amounts[at]!;
      if (amount === 0) return [];
      const place: CellPlace = { part, block, line, at };
      const [from, to] = side === 0 ? [amount, 0] : [0, amount];
      return [{ key, old: side === 0 ? place : null, now: side === 0 ? null : place, from, to, causes: { ...noCauses(), extent: to - from } }]; // biome-ignore format: one cell
    });
  });
}
