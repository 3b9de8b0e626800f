import { reaches, stepsDown } from '../units/at-limit.ts';

/** What is taken of each sold length, and the joints it takes. */
export interface LengthsTaken {
  /** Pieces by sold length, in the order of the lengths. */
  readonly counts: readonly number[];
  readonly splices: number;
}

/**
 * Pieces of one length cut from sold lengths: the shortest that covers the piece; a longer piece is spliced from the longest and the
 * shortest that covers the rest. All in one unit.
 * @param lengths sold lengths, rising
 * @param factor metres of one of the unit
 * @example 10 m in pieces of 2.5 m from 2.4, 3 and 4.2 m: four of 3 m. Pieces of 5 m: two of 4.2 m and two of 2.4 m, two splices
 */
export function takeFromLengths(net: number, piece: number, lengths: readonly number[], factor = 1): LengthsTaken {
  const counts = lengths.map(() => 0);
  if (!(net > 0)) return { counts, splices: 0 };
  const pieces = net / piece;
  const longest = lengths.at(-1)!;
  const shortestFor = (wanted: number) => lengths.findIndex((l) => reaches(l, wanted, factor));
  const whole = shortestFor(piece);
  if (whole >= 0) {
    counts[whole]! += pieces;
    return { counts, splices: 0 };
  }
  const full = stepsDown(piece, longest, factor);
  const rest = piece - full * longest;
  counts[lengths.length - 1]! += full * pieces;
  const hasRest = !reaches(0, rest, factor);
  if (hasRest) counts[shortestFor(rest)]! += pieces;
  return { counts, splices: (full + (hasRest ? 1 : 0) - 1) * pieces };
}
