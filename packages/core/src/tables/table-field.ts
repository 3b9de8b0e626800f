import type { SiUnit } from '../units/branded.ts';

/** What stands in a cell of a table; null where nothing is known. Figures are SI, money in 1/10,000 of a minor unit. */
export type CellValue = string | number | null;

/**
 * What rows that become one line have of a column between them: `sum` adds up, in groups and totals too; `only` is what all of them
 * read, null where they differ; `first` what the first of them knows; `distinct` how many different ones there are.
 */
export type Aggregate = 'sum' | 'only' | 'first' | 'distinct';

/** A column that a table may have or be grouped by: what people call it, its unit, how it is read from a row. */
export interface TableField<R> {
  /** Stays for ever: saved tables name their columns by it. */
  readonly id: string;
  readonly heading: string;
  /** What it means, for a hint. */
  readonly hint?: string;
  /** Its name in IFC, where it has one. */
  readonly ifcName?: string;
  /** Null for texts and for money. */
  readonly unit: SiUnit | null;
  readonly aggregate: Aggregate;
  /** It reads the same of all rows that are of one thing (`TableSpec.thingOf`). */
  readonly isSteady?: boolean;
  readonly read: (row: R) => CellValue;
}

/** A field of texts or of money, which have no unit of their own. */
export const plainField = <R>(
  id: string,
  heading: string,
  aggregate: Aggregate,
  read: (row: R) => CellValue,
): TableField<R> => ({ id, heading, unit: null, aggregate, read });

const ORDER = new Intl.Collator('en', { numeric: true });

/** Order of cells as people read them: numbers by size, texts with their numbers by size, what is unknown last. @example 'A9' before 'A10' */
export function compareCells(a: CellValue, b: CellValue): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  return ORDER.compare(String(a), String(b));
}
