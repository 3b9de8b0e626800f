import { sayClass } from '../elements/class-word.ts';
import { AMOUNT_SCALE, type Amount } from '../pricing/money.ts';
import { buildTable, type Table } from '../tables/build-table.ts';
import { type FactId, nameFact } from '../tables/field-catalogue.ts';
import { plainField } from '../tables/table-field.ts';

/** What a list of changed elements can be grouped by. */
export const CHANGED_GROUPS = ['what', 'class', 'storey'] as const;
export type ChangedGroup = (typeof CHANGED_GROUPS)[number];

/** An element that came, went or changed, as lists read it, with the move of its cost in 1/10,000 of a minor unit. */
export interface ChangedRow {
  readonly key: number;
  readonly what: 'came' | 'went' | 'changed';
  readonly ifcClass: string | null;
  readonly storey: string | null;
  readonly amount: Amount;
}

const WHAT_ORDER = ['came', 'went', 'changed'];
const READ: Record<ChangedGroup, (row: ChangedRow) => string | null> = {
  what: (row) => row.what,
  class: (row) => sayClass(row.ifcClass),
  storey: (row) => row.storey,
};

/** What a list of changed elements is grouped by, in words. */
export const nameChangedGroup = (by: ChangedGroup): string =>
  by === 'what' ? 'What happened' : nameFact(by satisfies FactId).word;

/**
 * Elements that came, went or changed, the largest move first; the shown moves (the one column, whole minor units x 10,000) add up to their
 * groups and to the move of all. The keys of a line are the places of its elements in the list.
 */
export function groupChanged(rows: readonly ChangedRow[], by: readonly ChangedGroup[]): Table {
  const places = [...rows.keys()].sort((a, b) => Math.abs(rows[b]!.amount) - Math.abs(rows[a]!.amount) || a - b);
  const column = plainField<number>;
  return buildTable<number>((see) => places.forEach(see), {
    columns: [column('move', 'Move', 'sum', (i) => rows[i]!.amount)],
    groups: by.map((field) => ({
      field: column(field, nameChangedGroup(field), 'only', (i) => READ[field](rows[i]!)),
      none: `No ${field}`,
      ...(field === 'what' ? { order: WHAT_ORDER } : {}),
    })),
    bundle: (i) => `${rows[i]!.what}${rows[i]!.key}`,
    sort: null,
    keysOf: (i) => [i],
    stepOf: () => AMOUNT_SCALE,
  });
}
