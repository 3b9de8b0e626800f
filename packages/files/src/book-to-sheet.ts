import {
  type Classification,
  type CostItem,
  type NamedValue,
  readClassCode,
  showSoldAs,
  showSplit,
  UNIFORMAT,
} from '@tally/core';
import type { XlsxSheet } from './write-xlsx.ts';

/**
 * The cost items and named values of a book as a sheet that can be read back as a price sheet. What is worked out has its formula
 * instead of a rate.
 */
export function bookToSheet(
  { items, values = [] }: { readonly items: readonly CostItem[]; readonly values?: readonly NamedValue[] },
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
      'Formula',
    ],
    rows: [
      ...items.map((i) => [
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
        i.rateFormula ?? null,
      ]),
      ...values.map(valueToRow),
    ],
    formats: [null, null, null, null, '#,##0.00####'],
  };
}

/** A named value in the columns of items. */
function valueToRow({ name, unit, value, note }: NamedValue): (string | number | null)[] {
  const figure = Number(value);
  const isPlain = value.trim() !== '' && Number.isFinite(figure);
  const row = new Array<string | number | null>(18).fill(null);
  [row[0], row[1], row[2], row[3]] = [name, note ?? null, 'named value', unit];
  row[4] = isPlain ? figure : null;
  row[17] = isPlain ? null : value;
  return row;
}
