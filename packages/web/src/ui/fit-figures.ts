import type { TableColumn } from './table-column.ts';

/** Rows that are looked at for the width of a column, at most, evenly over the table. */
const MOST_ROWS = 600;
/** Width of a figure in the cells, and what a cell has around it, px. */
const SIGN = 8.2;
const AROUND = 18;

/**
 * Widths of columns of figures that are too narrow for what they hold, px by key: a figure whose first digits are cut off is another figure. What a person
 * has drawn to a width stays so.
 * @param foot what stands at the foot of a column
 */
export function fitFigures<R>(
  columns: readonly TableColumn<R>[],
  rows: readonly R[],
  foot: ((column: TableColumn<R>) => string) | undefined,
): Readonly<Record<string, number>> {
  const step = Math.max(1, Math.floor(rows.length / MOST_ROWS));
  const widths: Record<string, number> = {};
  for (const column of columns) {
    if (!column.isFigure || column.width === 0) continue;
    let longest = foot?.(column).length ?? 0;
    for (let at = 0; at < rows.length; at += step) {
      const cell = column.cell(rows[at]!);
      // What is drawn otherwise knows its own width; what is copied of it may be a formula.
      if (typeof cell === 'string' && cell.length > longest) longest = cell.length;
    }
    const needed = Math.ceil(longest * SIGN + AROUND);
    if (needed > column.width) widths[column.key] = needed;
  }
  return widths;
}
