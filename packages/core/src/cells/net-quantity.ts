import { isRateByElement, negative, rateToUnit } from '../recipes/item-rate.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import type { Frame, RowReader } from './row-reader.ts';
import { type LengthsTaken, takeFromLengths } from './sold-lengths.ts';

/** Rates that a line met on a row, where they differ from one element, opening or layer to the other. */
interface RatesMet {
  /** What the net quantities are worth at their rates. */
  readonly worth: number;
  readonly sum: number;
  readonly count: number;
  /** The one rate if all are alike, else null. */
  readonly only: number | null;
}

/** Pieces of one length, in the unit of their item. A count that is not whole has a last piece that is shorter. */
export interface PieceCut {
  readonly length: number;
  readonly count: number;
}

/** Net quantity of a line on a row in the unit of its item, what it takes of the sold lengths, and the rates it met. */
export interface NetFigures extends LengthsTaken {
  readonly net: number;
  /** Pieces that it is made of, where its item is sold in lengths. */
  readonly cuts: readonly PieceCut[];
  /** Null where one rate holds for all elements. */
  readonly rates: RatesMet | null;
}

/** Rate that a line has on a row: the mean of those of its parts, each by its quantity. */
export function meanRate({ net, rates }: NetFigures): number | null {
  if (!rates) return null;
  return rates.only ?? (net > 0 ? rates.worth / net : rates.sum / rates.count);
}

function addRates(a: RatesMet | null, b: RatesMet | null): RatesMet | null {
  if (!a || !b) return a ?? b;
  return {
    worth: a.worth + b.worth,
    sum: a.sum + b.sum,
    count: a.count + b.count,
    only: a.only === b.only ? a.only : null,
  };
}

export const isProblem = (outcome: NetFigures | Problem): outcome is Problem => 'code' in outcome;

/**
 * Net quantity of an item on the row, over its openings, layers or junctions; null if its condition does not hold, or a problem.
 * @param isPriced with the rates it meets, where it has any of its own
 */
export function sumNet(
  step: RecipeItem,
  frame: Frame | null,
  reader: RowReader,
  isPriced = false,
): NetFigures | Problem | null {
  const find = () =>
    isPriced ? meetRate(step, findNet(step, frame, reader), frame, reader) : findNet(step, frame, reader);
  if (!step.per) return find();
  let sum: NetFigures | Problem | null = null;
  for (const _ of reader.parts(step.per)) sum = addNet(sum, find());
  return sum;
}

/** A net quantity with the rate it has there. */
function meetRate(
  step: RecipeItem,
  found: NetFigures | Problem | null,
  frame: Frame | null,
  reader: RowReader,
): NetFigures | Problem | null {
  if (found === null || isProblem(found) || !isRateByElement(step.rate)) return found;
  const rate = findRate(step, frame, reader);
  if (typeof rate !== 'number') return rate;
  return { ...found, rates: { worth: found.net * rate, sum: rate, count: 1, only: rate } };
}

/** Two outcomes of a line together: what is no part adds nothing, what is unknown makes all of it unknown. */
export function addNet(a: NetFigures | Problem | null, b: NetFigures | Problem | null): NetFigures | Problem | null {
  if (a === null || b === null) return a ?? b;
  if (isProblem(a) || isProblem(b)) return isProblem(a) ? a : b;
  return {
    net: a.net + b.net,
    counts: a.counts.map((n, i) => n + b.counts[i]!),
    splices: a.splices + b.splices,
    cuts: [...a.cuts, ...b.cuts],
    rates: addRates(a.rates, b.rates),
  };
}

function findNet(step: RecipeItem, frame: Frame | null, reader: RowReader): NetFigures | Problem | null {
  const when = step.when && reader.run(step.when, frame);
  if (when && !when.ok) return when.problem;
  if (when && !when.value) return null;
  const quantity = reader.run(step.quantity, frame);
  if (!quantity.ok) return quantity.problem;
  const net = (quantity.value as number) / step.unit.factor;
  const length = step.piece && step.lengths.length > 0 ? reader.run(step.piece, frame) : null;
  if (length && !length.ok) return length.problem;
  return cutNet(step, net, length ? (length.value as number) / step.unit.factor : null);
}

const UNCUT = { counts: [], splices: 0, cuts: [], rates: null };

/**
 * What a net quantity takes of the lengths its item is sold in. Errors: `quantity-negative`, `piece-not-positive`.
 * @param piece length of one piece in the unit of the item; null for a run that is cut anywhere
 */
export function cutNet(step: RecipeItem, net: number, piece: number | null = null): NetFigures | Problem {
  const { lengths, item, quantity } = step;
  if (!(net >= 0))
    return {
      code: 'quantity-negative',
      message: `"${quantity.text}" gives ${net} ${item.unit}, less than nothing.`,
      remedy: 'Check the formula.',
    };
  if (lengths.length === 0) return { net, ...UNCUT };
  const { factor } = step.unit;
  // A run is cut from what is bought for all runs together; only its joints are its own.
  if (piece === null)
    return {
      net,
      counts: lengths.map(() => 0),
      splices: takeFromLengths(net, net, lengths, factor).splices,
      cuts: net > 0 ? [{ length: net, count: 1 }] : [],
      rates: null,
    };
  if (piece > 0)
    return {
      net,
      ...takeFromLengths(net, piece, lengths, factor),
      cuts: net > 0 ? [{ length: piece, count: net / piece }] : [],
      rates: null,
    };
  return {
    code: 'piece-not-positive',
    message: `"${step.piece!.text}" gives ${piece} ${item.unit} for the length of a piece.`,
    remedy: 'Check the formula.',
  };
}

/** Rate per unit of the item, of the row or of the part of it that is looked at. */
export function findRate({ rate, unit, item }: RecipeItem, frame: Frame | null, reader: RowReader): number | Problem {
  const found = reader.run(rate.formula!, frame);
  if (!found.ok) return found.problem;
  const value = rateToUnit(found.value as number, unit);
  return value >= 0 || item.isDeduction ? value : negative(item);
}
