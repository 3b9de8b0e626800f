/**
 * Running sums of several columns, each kept in two figures (what is read, and what rounding left out of it) with about 32 digits: the
 * order in which figures come does not change the sum that is read. A column in which nothing is known has no sum.
 */
export type ExactSums = number[];

/** Sums of so many columns, nothing known yet. */
export function startSums(columns: number): ExactSums {
  const sums = new Array<number>(columns * 2).fill(0);
  for (let i = 0; i < sums.length; i += 2) sums[i] = Number.NaN;
  return sums;
}

/** Adds a figure to one column. What is unknown (NaN) adds nothing, and does not hide the others. */
export function addToSums(sums: ExactSums, column: number, value: number): void {
  if (Number.isNaN(value)) return;
  const at = column * 2;
  const before = sums[at]!;
  if (Number.isNaN(before)) {
    sums[at] = value;
    return;
  }
  // Error-free addition (Knuth): what the sum cannot hold is exactly `lost`.
  const sum = before + value;
  const added = sum - before;
  const lost = before - (sum - added) + (value - added) + sums[at + 1]!;
  const kept = sum + lost;
  sums[at] = kept;
  sums[at + 1] = lost - (kept - sum);
}

/** The sum of one column; null while nothing of it is known. */
export function readSum(sums: ExactSums, column: number): number | null {
  const sum = sums[column * 2]!;
  return Number.isNaN(sum) ? null : sum;
}
