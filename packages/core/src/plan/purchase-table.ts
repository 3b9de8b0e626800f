import { AMOUNT_SCALE } from '../pricing/money.ts';
import { buildTable, type Table } from '../tables/build-table.ts';
import { nameFact } from '../tables/field-catalogue.ts';
import type { CellValue, TableField } from '../tables/table-field.ts';
import { NO_LABEL } from './group-labels.ts';

/** What a list of purchases can be grouped by. */
export const PURCHASE_GROUPS = ['supplier', 'kind', 'storey'] as const;
export type PurchaseGroup = (typeof PURCHASE_GROUPS)[number];

/** What is bought of an item, as lists of purchases read it: who sells it, and the shown amount in minor units. */
export interface PurchaseRow extends Readonly<Record<PurchaseGroup, string | null>> {
  readonly code: string;
  readonly minor: number;
}

/** Columns of a list of purchases that groups say something about. */
export const PURCHASE_COLUMN = { code: 0, minor: 1 } as const;

const column = (
  id: string,
  heading: string,
  aggregate: TableField<PurchaseRow>['aggregate'],
  read: (row: PurchaseRow) => CellValue,
): TableField<PurchaseRow> => ({ id, heading, unit: null, aggregate, read });

/**
 * A list of purchases, by supplier, kind of cost or storey, items in the order of their codes. Groups have the sum of the shown amounts.
 * The keys of a line are the places of its purchases in the list.
 */
export function groupPurchases(purchases: readonly PurchaseRow[], by: readonly PurchaseGroup[]): Table {
  const places = new Map(purchases.map((p, i) => [p, i]));
  return buildTable<PurchaseRow>((see) => purchases.forEach(see), {
    columns: [
      column('code', nameFact('item').word, 'only', (p) => p.code),
      column('minor', 'Amount', 'sum', (p) => p.minor * AMOUNT_SCALE),
    ],
    groups: by.map((field) => ({
      field: column(field, nameFact(field).word, 'only', (p) => p[field]),
      none: NO_LABEL[field],
    })),
    bundle: (p) => `${p.code}|${p.storey ?? ''}`,
    sort: { field: 'code', isDescending: false },
    keysOf: (p) => [places.get(p)!],
  });
}
