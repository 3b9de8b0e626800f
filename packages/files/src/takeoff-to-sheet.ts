import type { OutlineTable } from '@tally/core';
import { writeSum } from './outline-sums.ts';
import type { XlsxSheet } from './write-xlsx.ts';

/**
 * A takeoff table as a sheet: groups in outline, figures of rows as values, those of groups and of the last row, which is the total,
 * as sums of what is right below them. A group whose rows have no figure has none.
 */
export function takeoffToSheet({ name, columns, rows, levels, heads, sums }: OutlineTable): XlsxSheet {
  const total = rows.length - 1;
  const formulas: { row: number; column: number; formula: string; result: number }[] = [];
  const bold = [...heads.flatMap((isHead, i) => (isHead ? [i] : [])), total];
  const childrenOf = (from: number, to: number, level: number): number[] => {
    const found: number[] = [];
    for (let i = from; i < to; i++) if (levels[i] === level) found.push(i);
    return found;
  };
  const endOf = (head: number): number => {
    let end = head + 1;
    while (end < total && levels[end]! > levels[head]!) end++;
    return end;
  };
  const add = (row: number, below: readonly number[]) => {
    for (const column of sums) {
      const result = rows[row]![column];
      const known = below.filter((r) => typeof rows[r]![column] === 'number');
      if (typeof result === 'number' && known.length > 0)
        formulas.push({ row, column, formula: writeSum(column, known), result });
    }
  };
  heads.forEach((isHead, i) => {
    if (isHead) add(i, childrenOf(i + 1, endOf(i), levels[i]! + 1));
  });
  add(total, childrenOf(0, total, 0));
  return {
    name,
    columns,
    rows,
    levels,
    bold: [...new Set(bold)],
    formulas,
    formats: columns.map((_, i) => (sums.includes(i) ? '#,##0.###' : null)),
  };
}
