/**
 * The middle of figures, of an even number the mean of the two in the middle; NaN of none.
 * @example median([1, 9, 3, 4]) is 3.5
 */
export function median(figures: readonly number[]): number {
  const sorted = [...figures].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
