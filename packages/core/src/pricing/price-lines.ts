import type { MappedRows } from '../mapping/map-elements.ts';
import type { Problem } from '../result/result.ts';
import { type EvaluatedLine, LineState } from './evaluate-recipe.ts';
import { type Amount, parseRate, quantizeAmount } from './money.ts';
import type { RecipeStep } from './recipe.ts';

/** A recipe line with its money, over the elements of a block. */
export interface PricedLine extends EvaluatedLine {
  /** Rate per unit in major units; null if the item has none. */
  readonly rate: number | null;
  readonly wastePercent: number;
  /** By position in the block; 0 where the line is not known or skipped. */
  readonly amounts: Float64Array;
  /** Why an amount is unknown although the quantity is known (no rate, too large), for all rows alike. */
  readonly rateProblem: Problem | null;
  /** Sum of the amounts. */
  readonly total: Amount;
  /** Number of rows whose amount is unknown. */
  readonly unknown: number;
}

/** What one rule or pin prices: its elements and lines. */
export interface PricedBlock {
  readonly mapped: MappedRows;
  readonly recipe: RecipeStep;
  readonly lines: readonly PricedLine[];
}

/** Net quantity with waste: what has to be bought. @example 10 m2 + 5 % = 10.5 m2 */
export function addWaste(net: number, wastePercent: number): number {
  return net * (1 + wastePercent / 100);
}

/** Puts money on evaluated lines. A line without a rate stays, unknown. */
export function priceLine(line: EvaluatedLine, minorDigits: number): PricedLine {
  const item = line.item;
  const wastePercent = item?.wastePercent ?? 0;
  const rate = item?.item.rate == null ? null : parseRate(item.item.rate);
  const value = rate?.ok ? rate.value : null;
  const rateProblem: Problem | null = !item
    ? null
    : rate === null
      ? {
          code: 'rate-missing',
          message: `${item.item.code} ${item.item.description} has no rate.`,
          remedy: 'Give it a rate in the book.',
        }
      : rate.ok
        ? null
        : rate.problem;
  const amounts = new Float64Array(line.net.length);
  const problems = new Map(line.problems);
  const state = line.state.slice();
  let total = 0;
  let unknown = 0;
  for (let at = 0; at < amounts.length; at++) {
    if (state[at] === LineState.known && value !== null) {
      const amount = quantizeAmount(addWaste(line.net[at]!, wastePercent), value, minorDigits);
      if (amount === null) {
        state[at] = LineState.problem;
        problems.set(at, {
          code: 'amount-too-large',
          message: `${line.net[at]} ${item!.item.unit} at ${item!.item.rate} is more than can be counted.`,
          remedy: 'Check the quantity and the rate.',
        });
      } else {
        amounts[at] = amount;
        total += amount;
      }
    }
    if (state[at] === LineState.problem || (state[at] === LineState.known && value === null)) unknown++;
  }
  return { ...line, state, problems, rate: value, wastePercent, amounts, rateProblem, total, unknown };
}
