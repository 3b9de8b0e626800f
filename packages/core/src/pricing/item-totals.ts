import { type EvaluatedLine, LineState } from '../cells/cell-line.ts';
import { runFormula } from '../formulas/compile-formula.ts';
import { isRateByTotal, negative, rateToUnit } from '../recipes/item-rate.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import { addWaste } from './price-lines.ts';

/** What a plan takes of each item whose rate goes by it, by code: waste included, in SI; or why that is not known. */
export type ItemTotals = ReadonlyMap<string, number | Problem>;

/**
 * Adds up what a plan takes of the items whose rates go by it. A line that is unknown anywhere makes the total of its item unknown.
 * Errors: `item-total-unknown`.
 * @param lines lines of all blocks, each with its item as it is now
 */
export function sumItemTotals(
  lines: Iterable<{ readonly line: EvaluatedLine; readonly item: RecipeItem | null }>,
): ItemTotals {
  const totals = new Map<string, number | Problem>();
  const broken = new Map<string, Problem | undefined>();
  for (const { line, item } of lines) {
    if (!item) broken.set(line.code, line.problems.values().next().value);
    if (!item || !isRateByTotal(item.rate)) continue;
    const { code } = item.item;
    let sum = totals.get(code) ?? 0;
    for (let at = 0; at < line.net.length && typeof sum === 'number'; at++) {
      if (line.state[at] === LineState.problem) sum = unknown(code, line.problems.get(at));
      else if (line.state[at] === LineState.known) sum += addWaste(line.net[at]!, item.wastePercent) * item.unit.factor;
    }
    totals.set(code, sum);
  }
  for (const [code, cause] of broken) if (totals.has(code)) totals.set(code, unknown(code, cause));
  return totals;
}

/** Evaluated lines, each with its item as the recipe has it now. */
export const pairWithItems = (
  lines: readonly EvaluatedLine[],
  leaves: readonly { readonly item: RecipeItem | null }[],
) => lines.map((line, i) => ({ line, item: leaves[i]!.item }));

const unknown = (code: string, cause: Problem | undefined): Problem => ({
  code: 'item-total-unknown',
  message: `The rate of ${code} goes by what the project takes of it, which is not known: ${cause?.message ?? 'an element lacks a figure.'}`,
  remedy: cause?.remedy ?? 'Look at the elements whose quantity is not known.',
});

/** An item with the rate that the total gives it; the item itself if its rate does not go by it. */
export function withTotalRate(item: RecipeItem | null, totals: ItemTotals): RecipeItem | null {
  if (!item || !isRateByTotal(item.rate)) return item;
  const total = totals.get(item.item.code) ?? 0;
  if (typeof total !== 'number') return { ...item, rate: { ...item.rate, value: null, problem: total } };
  const formula = item.rate.formula!;
  const found = runFormula(
    formula,
    formula.slots.map((s) => s.value ?? total),
  );
  if (!found.ok) return { ...item, rate: { ...item.rate, value: null, problem: found.problem } };
  const value = rateToUnit(found.value as number, item.unit);
  if (value < 0 && !item.item.isDeduction)
    return { ...item, rate: { ...item.rate, value: null, problem: negative(item.item) } };
  return { ...item, rate: { ...item.rate, value, total } };
}
