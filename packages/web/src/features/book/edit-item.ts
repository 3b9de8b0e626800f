import { type CostItem, costItemSchema, type FormulaNames, ITEM_KINDS, readSoldAs, showSoldAs } from '@tally/core';
import { changeRate, rateText } from '../../api/change-rate.ts';
import { readFigure } from '../../ui/format.ts';

/** Fields of a cost item that are edited as text. */
export const ITEM_FIELDS = [
  'description',
  'kind',
  'unit',
  'rate',
  'waste',
  'soldAs',
  'group',
  'supplier',
  'source',
  'date',
] as const;
export type ItemField = (typeof ITEM_FIELDS)[number];

/** The text of a field, as it is typed. */
export function itemText(item: CostItem, field: ItemField): string {
  switch (field) {
    case 'rate':
      return rateText(item);
    case 'waste':
      return String(item.wastePercent ?? '');
    case 'soldAs':
      return showSoldAs(item.soldAs, item.unit);
    default:
      return item[field] ?? '';
  }
}

/** An item without fields that say nothing. */
const tidy = (item: CostItem): CostItem => JSON.parse(JSON.stringify(item)) as CostItem;

/** An item with one field typed anew, and what happened in words; a text says why it cannot be. */
export function editItem(
  item: CostItem,
  field: ItemField,
  text: string,
  names: FormulaNames,
  currency: string,
): { to: CostItem; cause: string } | string {
  const made = apply(item, field, text.trim(), names, currency);
  if (typeof made === 'string') return made;
  const to = tidy(made.to);
  const checked = costItemSchema.safeParse(to);
  return checked.success ? { ...made, to } : checked.error.issues[0]!.message;
}

function apply(
  item: CostItem,
  field: ItemField,
  text: string,
  names: FormulaNames,
  currency: string,
): { to: CostItem; cause: string } | string {
  switch (field) {
    case 'rate': {
      const made = changeRate(item, text, names, currency);
      return typeof made === 'string' ? made : { to: made.diff.updated![0]!.to as CostItem, cause: made.cause };
    }
    case 'kind': {
      const kind = ITEM_KINDS.find((k) => k === text.toLowerCase());
      return kind
        ? { to: { ...item, kind }, cause: `Kind of ${item.code} ${item.kind} > ${kind}` }
        : `Write one of ${ITEM_KINDS.join(', ')}.`;
    }
    case 'unit':
      return { to: { ...item, unit: text }, cause: `Unit of ${item.code} ${item.unit} > ${text}` };
    case 'waste': {
      const figure = text === '' ? 0 : readFigure(text.replace(/ ?%$/, ''));
      if (figure === null) return `"${text}" is no percentage.`;
      return {
        to: { ...item, wastePercent: figure === 0 ? undefined : figure },
        cause: `Waste of ${item.code} ${item.wastePercent ?? 0} > ${figure} %`,
      };
    }
    case 'soldAs': {
      const sold = readSoldAs(text);
      if (!sold.ok) return `${sold.problem.message} ${sold.problem.remedy ?? ''}`;
      const to = { ...item, soldAs: sold.value ?? undefined };
      return { to, cause: `${item.code} sold in ${showSoldAs(to.soldAs, item.unit) || 'any amount'}` };
    }
    case 'description':
      return { to: { ...item, description: text }, cause: `Description of ${item.code} changed` };
    default:
      return {
        to: { ...item, [field]: text || undefined },
        cause: `${field[0]!.toUpperCase()}${field.slice(1)} of ${item.code} changed`,
      };
  }
}

/** One field of an item with the text that is put there. */
export interface ItemEdit {
  readonly item: CostItem;
  readonly field: ItemField;
  readonly text: string;
}

/** Items after a block of edits, all or none; a text names the first that cannot be. Fields that stay as they are are passed over. */
export function editItems(
  edits: readonly ItemEdit[],
  names: FormulaNames,
  currency: string,
): readonly { readonly from: CostItem; readonly to: CostItem }[] | string {
  const edited = new Map<string, { from: CostItem; to: CostItem }>();
  for (const { item, field, text } of edits) {
    const now = edited.get(item.code)?.to ?? item;
    if (itemText(now, field) === text.trim()) continue;
    const made = editItem(now, field, text, names, currency);
    if (typeof made === 'string') return `${item.code}, ${field === 'soldAs' ? 'sold in' : field}: ${made}`;
    edited.set(item.code, { from: item, to: made.to });
  }
  return [...edited.values()];
}
