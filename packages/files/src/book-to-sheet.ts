import { type Classification, type CostItem, readClassCode, showSoldAs, showSplit, UNIFORMAT } from '@tally/core';
import type { XlsxSheet } from './write-xlsx.ts';

/** The cost items of a book as a sheet that can be read back as a price sheet. Rates that are worked out have none. */
export function itemsToSheet(
  items: readonly CostItem[],
  currency: string,
  classification: Classification = UNIFORMAT,
): XlsxSheet {
  return {
    name: 'Cost items',
    columns: [
      'Code',
      'Description',
      'Kind',
      'Unit',
      `Rate ${currency}`,
      'Waste %',
      'Sold in',
      'Deduction',
      'Group',
      'Supplier',
      'Source',
      'Date',
      `Class ${classification.name}`,
      'Tax class',
      'Density kg/m3',
      'Split %',
      'Notes',
    ],
    rows: items.map((i) => [
      i.code,
      i.description,
      i.kind,
      i.unit,
      i.rate === null ? null : Number(i.rate),
      i.wastePercent ?? null,
      showSoldAs(i.soldAs, i.unit),
      i.isDeduction ? 'yes' : null,
      i.group ?? null,
      i.supplier ?? null,
      i.source ?? null,
      i.date ?? null,
      readClassCode(i.classes, classification),
      i.taxClass ?? null,
      i.densityKgM3 ?? null,
      showSplit(i.split) || null,
      i.notes ?? null,
    ]),
    formats: [null, null, null, null, '#,##0.00####'],
  };
}
