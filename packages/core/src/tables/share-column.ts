import { AMOUNT_SCALE, apportion } from '../pricing/money.ts';
import type { CellValue } from './table-field.ts';

/** A line while its cells are still being rounded. */
export interface SharedLine {
  readonly level: number;
  readonly cells: CellValue[];
}

/** For each line the end of what it heads: the next line of its level or above. */
export function listEnds(lines: readonly SharedLine[]): Int32Array {
  const ends = new Int32Array(lines.length).fill(lines.length);
  const open: number[] = [];
  lines.forEach(({ level }, i) => {
    while (open.length > 0 && lines[open.at(-1)!]!.level >= level) ends[open.pop()!] = i;
    open.push(i);
  });
  return ends;
}

/**
 * Rounds a column as it is shown: its total once, half away from zero, then what is below from the top down by largest remainder, so that
 * rows add up to their group and groups to the total as printed.
 * @param step the smallest figure that the column shows
 * @example 31.0000 of three rows of 10.3333, step 0.01: 10.34, 10.33, 10.33
 */
export function shareColumn(
  lines: readonly SharedLine[],
  ends: Int32Array,
  totals: CellValue[],
  column: number,
  step: number,
): void {
  const share = (from: number, to: number, sum: number) => {
    const own: number[] = [];
    const parts: number[] = [];
    for (let i = from; i < to; i = ends[i]!) {
      const value = lines[i]!.cells[column];
      if (typeof value !== 'number') continue;
      own.push(i);
      parts.push(Math.round((value / step) * AMOUNT_SCALE));
    }
    const shares = apportion(sum, parts);
    for (const [n, i] of own.entries()) {
      lines[i]!.cells[column] = shares[n]! * step;
      if (ends[i]! > i + 1) share(i + 1, ends[i]!, shares[n]!);
    }
  };
  const total = totals[column];
  if (typeof total !== 'number') return;
  const rounded = roundShown(total / step);
  totals[column] = rounded * step;
  share(0, lines.length, rounded);
}

/** Half away from zero; what floats leave just under a half counts as one. Adding 0 turns a negative zero into a plain one. */
const roundShown = (x: number) => Math.sign(x) * Math.round(Math.abs(x) + 1e-9) + 0;
