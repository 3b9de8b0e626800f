import { apportion, type ComparisonDto, type MoveCause } from '@tally/core';

/**
 * Moves of the listed elements in whole minor units, by key: as they are shown they add up, with what is no element's and what is not listed,
 * to the shown move of the whole.
 */
export function shareShownMoves(
  { elements, move, rest, surplus }: Pick<ComparisonDto, 'elements' | 'move' | 'rest' | 'surplus'>,
  cause: MoveCause | null,
): ReadonlyMap<number, number> {
  const own = elements.map((e) => (cause ? e.causes[cause] : e.move));
  const whole = cause ? move.causes[cause] : move.move;
  const left = whole * 10_000 - own.reduce((sum, a) => sum + a, 0);
  const shares = apportion(whole, cause ? [...own, left] : [...own, rest.move, surplus]);
  return new Map(elements.map((e, i) => [e.key, shares[i]!]));
}
