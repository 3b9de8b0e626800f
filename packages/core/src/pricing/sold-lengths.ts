/** Figures that differ by less than this share are one length: a stud of 2.4 m is cut from 2.4 m. */
const SAME = 1e-9;

/** What is taken of each sold length, and the joints it takes. */
export interface LengthsTaken {
  /** Pieces by sold length, in the order of the lengths. */
  readonly counts: readonly number[];
  readonly splices: number;
}

/**
 * Pieces of one length cut from sold lengths: the shortest that covers the piece; a longer piece is spliced from the longest and the
 * shortest that covers the rest.
 * @param lengthsM sold lengths, rising
 * @example 10 m in pieces of 2.5 m from 2.4, 3 and 4.2 m: four of 3 m. Pieces of 5 m: two of 4.2 m and two of 2.4 m, two splices
 */
export function takeFromLengths(netM: number, pieceM: number, lengthsM: readonly number[]): LengthsTaken {
  const counts = lengthsM.map(() => 0);
  const pieces = netM / pieceM;
  const longest = lengthsM.at(-1)!;
  const shortestFor = (m: number) => lengthsM.findIndex((l) => l >= m * (1 - SAME));
  const whole = shortestFor(pieceM);
  if (whole >= 0) {
    counts[whole]! += pieces;
    return { counts, splices: 0 };
  }
  const full = Math.floor((pieceM / longest) * (1 + SAME));
  const restM = pieceM - full * longest;
  counts[lengthsM.length - 1]! += full * pieces;
  const hasRest = restM > SAME * pieceM;
  if (hasRest) counts[shortestFor(restM)]! += pieces;
  return { counts, splices: (full + (hasRest ? 1 : 0) - 1) * pieces };
}
