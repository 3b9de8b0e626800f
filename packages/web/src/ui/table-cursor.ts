/** The cell that one stands on, and the one that a range of cells was begun at: the same where no range is chosen. */
export interface TableCursor {
  readonly row: number;
  readonly column: number;
  readonly fromRow: number;
  readonly fromColumn: number;
}

/** Rows and columns of a table, counted. */
export interface TableSize {
  readonly rows: number;
  readonly columns: number;
}

/** Cells of a range, the first and the last of each direction. */
export interface CellRange {
  readonly top: number;
  readonly bottom: number;
  readonly left: number;
  readonly right: number;
}

/** A text for a cell. */
export interface CellText {
  readonly row: number;
  readonly column: number;
  readonly text: string;
}

/** Rows that a page key goes. */
const PAGE = 15;

/** No cell yet. */
export const NOWHERE: TableCursor = { row: -1, column: 0, fromRow: -1, fromColumn: 0 };

/** Stands on a cell; with `isRange` the range reaches from where it was begun to it. */
export function putCursor(cursor: TableCursor, row: number, column: number, isRange = false): TableCursor {
  if (!isRange || cursor.row < 0) return { row, column, fromRow: row, fromColumn: column };
  return { ...cursor, row, column };
}

/** Where a key takes the cursor; null for keys that do not move. Shift draws a range, Ctrl goes to the end, Ctrl A takes all. */
export function moveCursor(
  cursor: TableCursor,
  { key, shift, command }: { readonly key: string; readonly shift: boolean; readonly command: boolean },
  { rows, columns }: TableSize,
): TableCursor | null {
  if (rows === 0 || columns === 0) return null;
  const [lastRow, lastColumn] = [rows - 1, columns - 1];
  if (command && key.toLowerCase() === 'a' && !shift)
    return { row: lastRow, column: lastColumn, fromRow: 0, fromColumn: 0 };
  const steps: Readonly<Record<string, readonly [rows: number, columns: number]>> = {
    ArrowDown: [command ? rows : 1, 0],
    ArrowUp: [command ? -rows : -1, 0],
    ArrowRight: [0, command ? columns : 1],
    ArrowLeft: [0, command ? -columns : -1],
    PageDown: [PAGE, 0],
    PageUp: [-PAGE, 0],
    Home: [-rows, 0],
    End: [rows, 0],
  };
  const step = Object.hasOwn(steps, key) ? steps[key]! : null;
  if (!step) return null;
  const row = Math.max(0, Math.min(lastRow, cursor.row + step[0]));
  const column = Math.max(0, Math.min(lastColumn, cursor.column + step[1]));
  return putCursor(cursor, row, column, shift);
}

/** The cells that are chosen: one, or a rectangle. */
export function rangeOf({ row, column, fromRow, fromColumn }: TableCursor): CellRange {
  return {
    top: Math.min(row, fromRow),
    bottom: Math.max(row, fromRow),
    left: Math.min(column, fromColumn),
    right: Math.max(column, fromColumn),
  };
}

export const isInRange = ({ top, bottom, left, right }: CellRange, row: number, column: number): boolean =>
  row >= top && row <= bottom && column >= left && column <= right;

/** True if more than one cell is chosen. */
export const isRange = (cursor: TableCursor): boolean =>
  cursor.row !== cursor.fromRow || cursor.column !== cursor.fromColumn;

/** What stands in the range, as a spreadsheet takes it: cells by tabs, rows by line ends. */
export function rangeToText(cursor: TableCursor, read: (row: number, column: number) => string): string {
  const { top, bottom, left, right } = rangeOf(cursor);
  const lines: string[] = [];
  for (let row = top; row <= bottom; row++) {
    const cells: string[] = [];
    for (let column = left; column <= right; column++) cells.push(read(row, column).replace(/[\t\r\n]+/g, ' '));
    lines.push(cells.join('\t'));
  }
  return lines.join('\n');
}

/**
 * Texts that a block from a spreadsheet puts into cells, from the top left of the range on; what reaches beyond the table is left away.
 * A range of several cells is filled with the block again and again, where the block fits into it whole.
 * @example "9" pasted on three cells is put into each of them
 */
export function pasteBlock(text: string, cursor: TableCursor, { rows, columns }: TableSize): CellText[] {
  const block = text
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .map((line) => line.split('\t'));
  const [high, wide] = [block.length, Math.max(...block.map((line) => line.length))];
  const { top, bottom, left, right } = rangeOf(cursor);
  const timesOf = (cells: number, size: number) => (cells > size && cells % size === 0 ? cells / size : 1);
  const down = timesOf(bottom - top + 1, high);
  const across = timesOf(right - left + 1, wide);
  const out: CellText[] = [];
  for (let dr = 0; dr < high * down; dr++) {
    const line = block[dr % high]!;
    for (let dc = 0; dc < wide * across; dc++) {
      const [row, column, own] = [top + dr, left + dc, line[dc % wide]];
      if (own !== undefined && row < rows && column < columns) out.push({ row, column, text: own });
    }
  }
  return out;
}

/** Fills a range from its first row down; a single cell from the one above it. */
export function fillDown(cursor: TableCursor, read: (row: number, column: number) => string | null): CellText[] {
  const { top, bottom, left, right } = rangeOf(cursor);
  const source = top === bottom ? top - 1 : top;
  const out: CellText[] = [];
  if (source < 0) return out;
  for (let column = left; column <= right; column++) {
    const text = read(source, column);
    if (text === null) continue;
    for (let row = source + 1; row <= bottom; row++) out.push({ row, column, text });
  }
  return out;
}
