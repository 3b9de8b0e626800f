import type { CostItem } from '@tally/core';
import { workOutRate } from '../../store/change-rate.ts';
import { type EditTerms, type ItemField, itemText } from './edit-item.ts';

/** Columns of the items beside their code, with width in px; 0 shares what is left. */
export const ITEM_COLUMNS: readonly { readonly key: ItemField; readonly heading: string; readonly width: number }[] = [
  { key: 'description', heading: 'Description', width: 0 },
  { key: 'kind', heading: 'Kind', width: 76 },
  { key: 'unit', heading: 'Unit', width: 44 },
  { key: 'rate', heading: 'Rate', width: 84 },
  { key: 'waste', heading: 'Waste %', width: 70 },
  { key: 'soldAs', heading: 'Sold in', width: 96 },
  { key: 'deduction', heading: 'Deduction', width: 84 },
  { key: 'group', heading: 'Group', width: 78 },
  { key: 'supplier', heading: 'Supplier', width: 84 },
  { key: 'source', heading: 'Source', width: 84 },
  { key: 'date', heading: 'Date', width: 98 },
  { key: 'class', heading: 'Class', width: 64 },
  { key: 'taxClass', heading: 'Tax class', width: 84 },
  { key: 'density', heading: 'Density kg/m³', width: 104 },
  { key: 'split', heading: 'Split %', width: 150 },
  { key: 'notes', heading: 'Notes', width: 200 },
];
export const ITEM_FIGURES: readonly ItemField[] = ['rate', 'waste', 'density'];
export const ITEM_PLAIN: readonly ItemField[] = ['description', ...ITEM_FIGURES];
export const ITEM_COLUMNS_AT_FIRST: readonly ItemField[] = [
  'description', 'kind', 'unit', 'rate', 'waste', 'soldAs', 'group', 'supplier', 'source', 'date', 'class',
]; // biome-ignore format: one list

/** Which columns the items show, and by what they are sorted. */
export interface ItemView {
  readonly shown: readonly ItemField[];
  readonly sort: ItemField | 'code';
  readonly isDescending: boolean;
}

/** Items in the order of a view; what says nothing in its column comes last. */
export function sortItems(items: readonly CostItem[], { sort, isDescending }: ItemView, terms: EditTerms): CostItem[] {
  const textOf = (i: CostItem) => (sort === 'code' ? i.code : itemText(i, sort, terms.classification));
  const isFigure = sort !== 'code' && ITEM_FIGURES.includes(sort);
  const keyed = items.map((item) => {
    const text = textOf(item);
    const figure =
      sort === 'rate' ? (workOutRate(item, terms.names, terms.currency).value ?? Number.NaN) : Number(text);
    return { item, text, figure, isEmpty: isFigure ? text === '' && Number.isNaN(figure) : text === '' };
  });
  const turn = isDescending ? -1 : 1;
  keyed.sort(
    (a, b) =>
      Number(a.isEmpty) - Number(b.isEmpty) ||
      turn * (isFigure ? compareFigures(a.figure, b.figure) : a.text.localeCompare(b.text, 'en', { numeric: true })) ||
      a.item.code.localeCompare(b.item.code, 'en', { numeric: true }),
  );
  return keyed.map((k) => k.item);
}

/** Rates that each element has for itself come after plain ones. */
const compareFigures = (a: number, b: number) =>
  Number.isNaN(a) || Number.isNaN(b) ? Number(Number.isNaN(a)) - Number(Number.isNaN(b)) : a - b;
