import type { ReactNode } from 'react';

/** A column of a table: its heading, what a cell shows, and how it is typed in. */
export interface TableColumn<R> {
  readonly key: string;
  readonly heading: string;
  /** What it means, shown on the heading. */
  readonly hint?: string | undefined;
  /** Width in px; 0 shares what is left. */
  readonly width: number;
  readonly isFigure?: boolean;
  /** Unit or note column in a lighter tone. */
  readonly isFaint?: boolean;
  /** Its figures can be shown with so many decimals as one likes. */
  readonly hasDigits?: boolean;
  /** @param digits decimals that somebody chose; its own if absent */
  readonly cell: (row: R, digits?: number) => ReactNode;
  /** How the table is sorted by it; absent where it is not. */
  readonly sorted?: 'ascending' | 'descending' | undefined;
  /** Click on the heading. */
  readonly onHeading?: () => void;
  /** Plain text of the cell, for copying; else the cell if it is text. */
  readonly text?: (row: R) => string;
  /** Present where the cell can be edited: the text to start from, or null if this row's cannot. */
  readonly edit?: (row: R) => string | null;
  readonly save?: (row: R, text: string) => string | null | Promise<string | null>;
}

/** A text that is put into a cell. */
export interface TableEdit<R> {
  readonly row: R;
  /** Key of the column. */
  readonly column: string;
  readonly text: string;
}
