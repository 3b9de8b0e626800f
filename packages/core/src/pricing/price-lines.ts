import { type EvaluatedLine, LineState } from '../cells/cell-line.ts';
import type { LineOrigin } from '../cells/evaluate-lines.ts';
import type { MappedRows } from '../mapping/map-elements.ts';
import { factorOf } from '../recipes/item-rate.ts';
import type { RecipeStep } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import { stepsUp } from '../units/at-limit.ts';
import { type Amount, quantizeAmount } from './money.ts';

/** A recipe line with its money, over the elements of a block. */
export interface PricedLine extends EvaluatedLine {
  /** Rate per unit in major units; null if the item has none, or each element its own (`rates`). */
  readonly rate: number | null;
  /** What rates of the book are multiplied by: exchange, region, escalation. `rate` has it already. */
  readonly factor: number;
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

/** What is charged of a net quantity: waste on top, and where it is charged in started units, those. */
export function toCharged(net: number, { item, wastePercent }: Pick<PricedLine, 'item' | 'wastePercent'>): number {
  const gross = addWaste(net, wastePercent);
  const started = item?.started ?? null;
  return started === null ? gross : stepsUp(gross, started, item!.unit.factor) * started;
}

/** Rate per unit that holds for the element at a position of the block; null if there is none. */
export function rateAt({ rate, rates, factor }: PricedLine, at: number): number | null {
  if (!rates) return rate;
  return Number.isNaN(rates[at]!) ? null : rates[at]! * factor;
}

/** A priced line whose cells another takes over, except those that are worked out anew. */
export type PriceOrigin = Omit<LineOrigin, 'from'> & { readonly line: PricedLine };

/**
 * Puts money on evaluated lines. A line without a rate stays, unknown.
 * @param from the same line at the same price before; its amounts are taken over where the quantities are the same
 */
export function priceLine(line: EvaluatedLine, minorDigits: number, from: PriceOrigin | null = null): PricedLine {
  const item = line.item;
  const wastePercent = item?.wastePercent ?? 0;
  const factor = item ? factorOf(item.rate) : 1;
  const base = item?.rate.value ?? null;
  const rate = base === null ? null : base * factor;
  const rateProblem = item?.rate.problem ?? null;
  const { net, rates } = line;
  const amounts = new Float64Array(net.length);
  const problems = new Map<number, Problem>(line.problems);
  const state = line.state.slice();
  let total = 0;
  let unknown = 0;
  for (let at = 0; at < amounts.length; at++) {
    if (state[at] === LineState.skipped) continue;
    const value = rates ? rates[at]! * factor : rate;
    const old = from && !from.isFresh?.[at] ? (from.oldAt ? from.oldAt[at]! : at) : -1;
    if (old >= 0) {
      amounts[at] = from!.line.amounts[old]!;
      state[at] = from!.line.state[old]!;
      if (state[at] === LineState.problem) problems.set(at, from!.line.problems.get(old)!);
    } else if (state[at] === LineState.known && value !== null) {
      const amount = quantizeAmount(toCharged(net[at]!, { item, wastePercent }), value, minorDigits);
      if (amount === null) {
        state[at] = LineState.problem;
        problems.set(at, {
          code: 'amount-too-large',
          message: `${net[at]} ${item!.item.unit} at ${value} is more than can be counted.`,
          remedy: 'Check the quantity and the rate.',
        });
      } else amounts[at] = amount;
    }
    total += amounts[at]!;
    if (state[at] === LineState.problem || value === null) unknown++;
  }
  return { ...line, state, problems, rate, factor, wastePercent, amounts, rateProblem, total, unknown };
}
