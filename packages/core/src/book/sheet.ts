import { foldText } from '../units/fold-text.ts';

/** What stands in a cell. */
export type SheetCell = string | number | boolean | null;

/** One sheet of a file: its rows, cells by column. */
export interface Sheet {
  readonly name: string;
  readonly rows: readonly (readonly SheetCell[])[];
}

/** Rows among which headings are looked for. */
export const HEAD_ROWS = 40;

/** Text of a cell; '' for an empty one. */
export const cellText = (cell: SheetCell | undefined): string =>
  cell === null || cell === undefined ? '' : String(cell).trim();

/** Text of a heading, folded, letters and digits only. @example cellHeading('Unit price:') // 'unitprice' */
export const cellHeading = (cell: SheetCell | undefined): string =>
  foldText(cellText(cell)).replace(/[^\p{L}\p{N}]/gu, '');
