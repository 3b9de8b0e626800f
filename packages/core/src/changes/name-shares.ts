import { isRateByTotal } from '../recipes/item-rate.ts';
import { type MoveCause, noCauses } from './move-causes.ts';
import type { MoveCell } from './move-cell.ts';
import { shareInProportion } from './share-move.ts';
import { CELL_INPUTS, type CellInput, type SplitCell } from './split-units.ts';

const CAUSE_OF: Readonly<Record<Exclude<CellInput, 'total'>, MoveCause>> = {
  figures: 'quantity',
  recipe: 'mapping',
  waste: 'factors',
  rate: 'price',
  factor: 'factors',
  members: 'extent',
};
/** Causes that move what a project takes of an item. */
const OF_TOTAL = ['extent', 'quantity', 'mapping', 'factors'] as const;

/**
 * Names the causes of what inputs of cells moved. What moved because the project takes another total of an item, whose rate goes by it, goes to
 * what moved that total, by the amounts that these moved themselves.
 * @param gone cells of elements that came or went, which move totals too
 */
export function nameShares(cells: readonly SplitCell[], gone: readonly MoveCell[]): MoveCell[] {
  const totals = cells.some((c) => c.shares.total !== undefined)
    ? sumTotals(cells, gone)
    : new Map<string, Record<MoveCause, number>>();
  return cells.map((cell) => {
    const { shares, key, old, now, from, to } = cell;
    const causes = noCauses();
    for (const input of CELL_INPUTS) {
      const amount = shares[input];
      if (amount === undefined) continue;
      if (input !== 'total') {
        causes[CAUSE_OF[input]] += amount;
        continue;
      }
      const weights = OF_TOTAL.map((cause) => Math.abs(totals.get(codeOf(cell))?.[cause] ?? 0));
      const whole = weights.reduce((sum, w) => sum + w, 0);
      const parts = whole === 0 ? [0, amount, 0, 0] : shareInProportion(amount, weights, whole);
      OF_TOTAL.forEach((cause, i) => {
        causes[cause] += parts[i]!;
      });
    }
    return { key, old, now, from, to, causes };
  });
}

const codeOf = ({ old, now }: Pick<MoveCell, 'old' | 'now'>): string => (now ?? old)!.line.code;

/** What moved the totals of items whose rates go by them, in amounts at their own rates. */
function sumTotals(cells: readonly SplitCell[], gone: readonly MoveCell[]): ReadonlyMap<string, Record<MoveCause, number>> {
  const totals = new Map<string, Record<MoveCause, number>>();
  const book = (cell: Pick<MoveCell, 'old' | 'now'>, cause: MoveCause, amount: number) => {
    const { item, code } = (cell.now ?? cell.old)!.line;
    if (!item || !isRateByTotal(item.rate)) return;
    const sum = totals.get(code) ?? noCauses();
    sum[cause] += amount;
    totals.set(code, sum);
  };
  for (const cell of gone) book(cell, 'extent', cell.to - cell.from);
  for (const cell of cells) {
    const { shares } = cell;
    book(cell, 'extent', shares.members ?? 0);
    book(cell, 'quantity', shares.figures ?? 0);
    book(cell, 'mapping', shares.recipe ?? 0);
    book(cell, 'factors', shares.waste ?? 0);
  }
  return totals;
} // biome-ignore format: one head
