import { amountToMinor, apportion } from '../pricing/money.ts';
import type { Move } from './explain-move.ts';
import { type CauseAmounts, MOVE_CAUSES, type MoveCause, noCauses } from './move-causes.ts';

/** A move in whole minor units. */
export interface ShownMove {
  readonly before: number;
  readonly after: number;
  readonly move: number;
  readonly causes: Readonly<Record<MoveCause, number>>;
}

/** The move and its causes in whole minor units: the shown move is the difference of the shown totals, the causes add up to it. */
export function showMove(move: Pick<Move, 'before' | 'after' | 'causes'>): ShownMove {
  const [before, after] = [amountToMinor(move.before), amountToMinor(move.after)];
  return { before, after, move: after - before, causes: shareCauses(after - before, move.causes) };
}

/**
 * Shares a shown move out among the causes that acted. Shares of a move and of its way back are each other's opposite.
 * @example shareCauses(-1, quantity -0.6, price -0.4 of a cent) // quantity -1
 */
export function shareCauses(minor: number, causes: CauseAmounts): Record<MoveCause, number> {
  const acted = MOVE_CAUSES.filter((c) => causes[c] !== 0);
  if (acted.length === 0) return noCauses();
  // Rounded down is rounded up on the way back: the way of the positive larger side is shared out, the other is its opposite.
  const sign = isUpward(causes) ? 1 : -1;
  const shares = apportion(sign * minor, acted.map((c) => sign * causes[c])); // biome-ignore format: one call
  const shown = noCauses();
  acted.forEach((cause, i) => {
    shown[cause] = sign * shares[i]! + 0;
  });
  return shown;
}

/** Whether a move is shared out as it is, or as the way back: the first cause that acted says so. */
function isUpward(causes: CauseAmounts): boolean {
  const first = MOVE_CAUSES.find((c) => causes[c] !== 0);
  return first === undefined || causes[first] > 0;
}
