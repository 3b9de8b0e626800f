import type { Problem } from '../result/result.ts';
import { negative, rateToUnit } from './item-rate.ts';
import type { RecipeItem } from './recipe.ts';
import type { Frame, RowReader } from './row-reader.ts';
import { type LengthsTaken, takeFromLengths } from './sold-lengths.ts';

/** Net quantity of a line on a row in the unit of its item, and what it takes of the sold lengths. */
export interface NetFigures extends LengthsTaken {
  readonly net: number;
}

export const isProblem = (outcome: NetFigures | Problem): outcome is Problem => 'code' in outcome;

/** Net quantity of an item on the row, over its openings, layers or junctions; null if its condition does not hold, or a problem. */
export function sumNet(step: RecipeItem, frame: Frame | null, reader: RowReader): NetFigures | Problem | null {
  if (!step.per) return findNet(step, frame, reader);
  let sum: NetFigures | Problem | null = null;
  for (const _ of reader.parts(step.per)) sum = addNet(sum, findNet(step, frame, reader));
  return sum;
}

/** Two outcomes of a line together: what is no part adds nothing, what is unknown makes all of it unknown. */
export function addNet(a: NetFigures | Problem | null, b: NetFigures | Problem | null): NetFigures | Problem | null {
  if (a === null || b === null) return a ?? b;
  if (isProblem(a) || isProblem(b)) return isProblem(a) ? a : b;
  return { net: a.net + b.net, counts: a.counts.map((n, i) => n + b.counts[i]!), splices: a.splices + b.splices };
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

const UNCUT: LengthsTaken = { counts: [], splices: 0 };

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
    return { net, counts: lengths.map(() => 0), splices: takeFromLengths(net, net, lengths, factor).splices };
  if (piece > 0) return { net, ...takeFromLengths(net, piece, lengths, factor) };
  return {
    code: 'piece-not-positive',
    message: `"${step.piece!.text}" gives ${piece} ${item.unit} for the length of a piece.`,
    remedy: 'Check the formula.',
  };
}

/** Rate of the row per unit of the item. */
export function findRate({ rate, unit, item }: RecipeItem, reader: RowReader): number | Problem {
  const found = reader.run(rate.formula!, null);
  if (!found.ok) return found.problem;
  const value = rateToUnit(found.value as number, unit);
  return value >= 0 || item.isDeduction ? value : negative(item);
}
