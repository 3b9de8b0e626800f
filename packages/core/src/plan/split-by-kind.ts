import type { ItemKind } from '../book/item-kind.ts';
import type { KindShares } from '../book/price-factors.ts';
import { LineState } from '../cells/cell-line.ts';
import type { Amount } from '../pricing/money.ts';
import { type PricedLine, rateAt } from '../pricing/price-lines.ts';
import type { RoomShare } from './share-rooms.ts';

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
  const amounts = shareAmount(
    amount,
    shares.map((s) => s.share),
  );
  return shares.map((s, i) => ({ ...s, amount: amounts[i]! }));
}

/** Divides an amount by shares that add up to 1 into whole amounts that add up to it. */
function shareAmount(amount: Amount, shares: readonly number[]): Amount[] {
  let before = 0;
  let sum = 0;
  return shares.map((share, i) => {
    sum += share;
    const upTo = i === shares.length - 1 ? amount : Math.round(amount * sum);
    const part = upTo - before;
    before = upTo;
    return part;
  });
}

/** A part of a cell: of one kind of cost, and of one room, where it is divided so. */
export interface PlanPiece extends KindPart {
  /** Null where it is not divided by room, or belongs to none. */
  readonly room: string | null;
  /** Share of the cell's quantity. */
  readonly extent: number;
}

/** A cell of a plan in the parts that it is told by; their amounts add up to its own. */
export function listPieces(
  line: PricedLine,
  at: number,
  isByKind: boolean,
  rooms: readonly RoomShare[] | null,
): readonly PlanPiece[] {
  const kinds = listKindParts(line, at, isByKind);
  if (rooms === null || rooms.length === 0) return kinds.map((kind) => ({ ...kind, room: null, extent: 1 }));
  return kinds.flatMap((kind) =>
    shareAmount(
      kind.amount,
      rooms.map((r) => r.share),
    ).map((amount, i) => ({ ...kind, amount, room: rooms[i]!.room, extent: rooms[i]!.share })),
  );
}

/** A cell of a plan: its parts by kind of an all-in rate that is split, or the whole. What is unknown is not divided. */
export function listKindParts(line: PricedLine, at: number, isByKind: boolean): KindPart[] {
  const amount = line.amounts[at]!;
  const shares = isByKind ? (line.item?.rate.shares ?? []) : [];
  const isKnown = line.state[at] === LineState.known && rateAt(line, at) !== null;
  if (shares.length > 1 && isKnown) return splitAmount(amount, shares);
  return [{ kind: line.item?.item.kind ?? null, share: 1, amount }];
}
