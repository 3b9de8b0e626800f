/** What stands in a cell. */
export type SheetCell = string | number | boolean | null;

/** One sheet of a file: its rows, cells by column. */
export interface Sheet {
  readonly name: string;
  readonly rows: readonly (readonly SheetCell[])[];
}
