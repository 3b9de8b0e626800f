/**
 * Signs that have to be put in, taken out or exchanged to make one text of another (Levenshtein).
 * @example distanceOf('wal', 'wall') is 1
 */
export function distanceOf(a: string, b: string): number {
  let before = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++)
      row.push(Math.min(before[j]! + 1, row[j - 1]! + 1, before[j - 1]! + Number(a[i - 1] !== b[j - 1])));
    before = row;
  }
  return before[b.length]!;
}
