import type { Amount } from '../pricing/money.ts';

/**
 * Causes that move a total. `extent`: elements came or went. `quantity`: figures of elements that stayed. `mapping`: another decision, recipe
 * or formula. `price`: rates of the book. `factors`: waste, place, date, exchange. `rounding`: what whole packs cost beyond what is needed.
 */
export const MOVE_CAUSES = ['extent', 'quantity', 'mapping', 'price', 'factors', 'rounding'] as const;
export type MoveCause = (typeof MOVE_CAUSES)[number];

/** Amounts by cause, 1/10,000 of a minor unit. */
export type CauseAmounts = Readonly<Record<MoveCause, Amount>>;

/** No cause acted. */
export const noCauses = (): Record<MoveCause, number> => ({
  extent: 0,
  quantity: 0,
  mapping: 0,
  price: 0,
  factors: 0,
  rounding: 0,
});

/** Adds what causes moved to what they moved before. */
export function addCauses(sum: Record<MoveCause, number>, more: CauseAmounts): void {
  for (const cause of MOVE_CAUSES) sum[cause] += more[cause];
}

/** What all causes together moved. */
export const sumCauses = (causes: CauseAmounts): Amount => MOVE_CAUSES.reduce((sum, c) => sum + causes[c], 0);
