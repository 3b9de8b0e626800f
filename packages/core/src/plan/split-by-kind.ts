import type { ItemKind } from '../book/item-kind.ts';
import type { KindShares } from '../book/price-factors.ts';
import { LineState } from '../cells/cell-line.ts';
import type { Amount } from '../pricing/money.ts';
import { type PricedLine, rateAt } from '../pricing/price-lines.ts';

/** The part of a priced line that is of one kind of cost. `share` is 1 for a whole line. */
export interface KindPart {
  readonly kind: ItemKind | null;
  readonly share: number;
  readonly amount: Amount;
}

/**
 * Divides an amount by the shares of kinds; the parts are whole amounts and add up to it.
 * @example 1001 by 40 % and 60 %: 400 and 601
 */
export function splitAmount(amount: Amount, shares: KindShares): KindPart[] {
  let before = 0;
  let share = 0;
  return shares.map((s, i) => {
    share += s.share;
    const upTo = i === shares.length - 1 ? amount : Math.round(amount * share);
    const part = { ...s, amount: upTo - before };
    before = upTo;
    return part;
  });
}

/** A cell of a plan: its parts by kind of an all-in rate that is split, or the whole. What is unknown is not divided. */
export function listKindParts(line: PricedLine, at: number, isByKind: boolean): KindPart[] {
  const amount = line.amounts[at]!;
  const shares = isByKind ? (line.item?.rate.shares ?? []) : [];
  const isKnown = line.state[at] === LineState.known && rateAt(line, at) !== null;
  if (shares.length > 1 && isKnown) return splitAmount(amount, shares);
  return [{ kind: line.item?.item.kind ?? null, share: 1, amount }];
}
