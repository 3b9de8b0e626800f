/** Most cells that one SUM names; spreadsheets take up to 255. */
const MOST_TERMS = 200;

/** Letters of a column, counted from 0. @example 0: A, 25: Z, 26: AA */
export function columnLetters(column: number): string {
  const rest = Math.floor(column / 26);
  return (rest > 0 ? columnLetters(rest - 1) : '') + String.fromCharCode(65 + (column % 26));
}

/** A sum over rows of a column, both counted from 0 below the headings; neighbours are written as one range. */
export function writeSum(column: number, rows: readonly number[]): string {
  const ranges: [number, number][] = [];
  for (const row of rows) {
    const last = ranges.at(-1);
    if (last && last[1] === row - 1) last[1] = row;
    else ranges.push([row, row]);
  }
  const cell = (row: number) => `${columnLetters(column)}${row + 2}`;
  const terms = ranges.map(([a, b]) => (a === b ? cell(a) : `${cell(a)}:${cell(b)}`));
  const sums: string[] = [];
  for (let i = 0; i < terms.length; i += MOST_TERMS) sums.push(`SUM(${terms.slice(i, i + MOST_TERMS).join(',')})`);
  return sums.join('+');
}
