import { AMOUNT_SCALE } from '../pricing/money.ts';
import { buildTable, type Table } from '../tables/build-table.ts';
import { nameFact } from '../tables/field-catalogue.ts';
import { plainField } from '../tables/table-field.ts';
import { sayNoGroup } from './group-labels.ts';

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

/**
 * A list of purchases, by supplier, kind of cost or storey, items in the order of their codes. Groups have the sum of the shown amounts.
 * The keys of a line are the places of its purchases in the list.
 */
export function groupPurchases(purchases: readonly PurchaseRow[], by: readonly PurchaseGroup[]): Table {
  const column = plainField<number>;
  return buildTable<number>((see) => [...purchases.keys()].forEach(see), {
    columns: [
      column('code', nameFact('item').word, 'only', (i) => purchases[i]!.code),
      column('minor', 'Amount', 'sum', (i) => purchases[i]!.minor * AMOUNT_SCALE),
    ],
    groups: by.map((field) => ({
      field: column(field, nameFact(field).word, 'only', (i) => purchases[i]![field]),
      none: sayNoGroup(field),
    })),
    bundle: (i) => `${purchases[i]!.code}|${purchases[i]!.storey ?? ''}`,
    sort: { field: 'code', isDescending: false },
    keysOf: (i) => [i],
  });
}
