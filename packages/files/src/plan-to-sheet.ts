import { LINE_COLUMNS, lineToCells, minorToMajor, type PlanGroup } from '@tally/core';
import { writeSum } from './outline-sums.ts';
import type { XlsxSheet } from './write-xlsx.ts';

const AMOUNT = LINE_COLUMNS.indexOf('Amount');

type Row = (string | number | null)[];

/**
 * A grouped plan as a sheet: groups and lines in outline, the amounts of lines as values, those of groups and the total as sums of the
 * rows below them. Shown amounts add up, so the sums give what the plan shows.
 */
export function planToSheet(root: PlanGroup, name: string, minorDigits: number): XlsxSheet {
  const rows: Row[] = [];
  const levels: number[] = [];
  const bold: number[] = [];
  const formulas: { row: number; column: number; formula: string; result: number }[] = [];
  const major = (minor: number) => minorToMajor(minor, minorDigits);
  const put = (cells: Row, level: number): number => {
    levels.push(level);
    return rows.push(cells) - 1;
  };
  const sum = (row: number, below: readonly number[], minor: number) => {
    if (below.length > 0)
      formulas.push({ row, column: AMOUNT, formula: writeSum(AMOUNT, below), result: major(minor) });
  };
  const visit = (group: PlanGroup, level: number): number[] => {
    const below = group.groups.map((child) => {
      const at = put([child.label, ...new Array(LINE_COLUMNS.length - 1).fill(null)], level);
      bold.push(at);
      if (child.unknown > 0) rows[at]![LINE_COLUMNS.length - 1] = `incomplete: ${child.unknown} unknown`;
      sum(at, visit(child, level + 1), child.minor);
      return at;
    });
    return [...below, ...group.lines.map((line) => put(lineToCells(line, minorDigits), level))];
  };
  const top = visit(root, 0);
  const total = put([root.label, ...new Array(LINE_COLUMNS.length - 1).fill(null)], 0);
  bold.push(total);
  sum(total, top, root.minor);
  if (root.unknown > 0) rows[total]![LINE_COLUMNS.length - 1] = `incomplete: ${root.unknown} unknown`;
  const money = minorDigits === 0 ? '#,##0' : `#,##0.${'0'.repeat(minorDigits)}`;
  const formats = LINE_COLUMNS.map((c) =>
    c === 'Amount' ? money : c === 'Rate' || c === 'Net' || c === 'To buy' ? '#,##0.00##' : null,
  );
  return { name, columns: LINE_COLUMNS, rows, levels, bold, formulas, formats };
}
