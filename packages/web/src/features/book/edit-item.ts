import {
  type Classification,
  type CostItem,
  costItemSchema,
  type FormulaNames,
  findClass,
  ITEM_KINDS,
  readClassCode,
  readSoldAs,
  readSplit,
  setClassCode,
  showSoldAs,
  showSplit,
  UNUSUAL_WASTE,
} from '@tally/core';
import { changeRate, rateText } from '../../store/change-rate.ts';
import { askFigure, editFigure, readFigure } from '../../ui/format.ts';
import { numberStyle } from '../../ui/number-style.ts';

/** Fields of a cost item that are edited as text. */
export const ITEM_FIELDS = [
  'description',
  'kind',
  'unit',
  'rate',
  'waste',
  'soldAs',
  'deduction',
  'group',
  'supplier',
  'source',
  'date',
  'class',
  'taxClass',
  'density',
  'split',
  'notes',
] as const;
export type ItemField = (typeof ITEM_FIELDS)[number];

/** What texts of a project's items are read by. */
export interface EditTerms {
  readonly names: FormulaNames;
  readonly currency: string;
  /** The classification in use. */
  readonly classification: Classification;
}

/** Names of fields in messages, where they are not the field's own. */
const FIELD_WORDS: Readonly<Partial<Record<ItemField, string>>> = { soldAs: 'sold in', taxClass: 'tax class' };
const wordsOf = (field: ItemField): string => FIELD_WORDS[field] ?? field;

/** The text of a field, as it is typed. */
export function itemText(item: CostItem, field: ItemField, classification: Classification): string {
  switch (field) {
    case 'rate':
      return rateText(item);
    case 'waste':
      return editFigure(item.wastePercent ?? '');
    case 'deduction':
      return item.isDeduction ? 'yes' : '';
    case 'soldAs':
      return showSoldAs(item.soldAs, item.unit, numberStyle());
    case 'class':
      return readClassCode(item.classes, classification) ?? '';
    case 'density':
      return editFigure(item.densityKgM3 ?? '');
    case 'split':
      return showSplit(item.split);
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
  terms: EditTerms,
): { to: CostItem; cause: string } | string {
  const made = apply(item, field, text.trim(), terms);
  if (typeof made === 'string') return made;
  const to = tidy(made.to);
  const checked = costItemSchema.safeParse(to);
  return checked.success ? { ...made, to } : checked.error.issues[0]!.message;
}

function apply(
  item: CostItem,
  field: ItemField,
  text: string,
  { names, currency, classification }: EditTerms,
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
      const typed = text.replace(/ ?%$/, '');
      const figure = text === '' ? 0 : readFigure(typed);
      if (figure === null) return askFigure(typed) ?? `"${text}" is no percentage.`;
      return {
        to: { ...item, wastePercent: figure === 0 ? undefined : figure },
        cause: `Waste of ${item.code} ${item.wastePercent ?? 0} > ${figure} %`,
      };
    }
    case 'soldAs': {
      const sold = readSoldAs(text, numberStyle());
      if (!sold.ok) return `${sold.problem.message} ${sold.problem.remedy ?? ''}`;
      const to = { ...item, soldAs: sold.value ?? undefined };
      return { to, cause: `${item.code} sold in ${showSoldAs(to.soldAs, item.unit) || 'any amount'}` };
    }
    case 'deduction':
      return editDeduction(item, text);
    case 'class':
      return editClass(item, text, classification);
    case 'density': {
      const typed = text.replace(/ ?kg\/m[3³]$/, '');
      const figure = text === '' ? undefined : readFigure(typed);
      if (figure === null) return askFigure(typed) ?? `"${text}" is no density in kg/m3.`;
      return { to: { ...item, densityKgM3: figure }, cause: `Density of ${item.code} ${figure ?? 'taken away'}` };
    }
    case 'split': {
      const split = readSplit(text);
      if (!split.ok) return `${split.problem.message} ${split.problem.remedy ?? ''}`;
      const to = { ...item, split: split.value ?? undefined };
      return { to, cause: `Rate of ${item.code} split: ${showSplit(to.split) || 'not'}` };
    }
    case 'description':
      return { to: { ...item, description: text }, cause: `Description of ${item.code} changed` };
    default:
      return {
        to: { ...item, [field]: text || undefined },
        cause: `${wordsOf(field)[0]!.toUpperCase()}${wordsOf(field).slice(1)} of ${item.code} changed`,
      };
  }
}

/** An item that is taken off, or is not any more; its rate changes sides with it. */
function editDeduction(item: CostItem, text: string): { to: CostItem; cause: string } | string {
  const word = text.toLowerCase();
  if (!['', 'yes', 'no'].includes(word)) return 'Write yes, or nothing.';
  const isDeduction = word === 'yes';
  if (isDeduction === (item.isDeduction ?? false)) return { to: item, cause: `${item.code} as it was` };
  const rate =
    item.rate === null || Number(item.rate) === 0
      ? item.rate
      : item.rate.startsWith('-')
        ? item.rate.slice(1)
        : `-${item.rate}`;
  return {
    to: { ...item, rate, isDeduction: isDeduction || undefined },
    cause: `${item.code} ${isDeduction ? 'is taken off' : 'is taken off no more'}`,
  };
}

/** An item with another class in a classification; an empty text takes it away. */
function editClass(
  item: CostItem,
  text: string,
  classification: Classification,
): { to: CostItem; cause: string } | string {
  const found = findClass(classification, text);
  if (text !== '' && !found) return `There is no class "${text}" in ${classification.name}.`;
  return {
    to: { ...item, classes: setClassCode(item.classes, classification, found?.code ?? null) },
    cause: `Class of ${item.code} ${found ? `${found.code} ${found.title}` : 'taken away'}`,
  };
}

/** True if an edit gives an item a waste that is asked about before it is kept. */
export const isWasteUnusual = (from: CostItem, to: CostItem): boolean =>
  (to.wastePercent ?? 0) > UNUSUAL_WASTE && to.wastePercent !== from.wastePercent;

/** One field of an item with the text that is put there. */
export interface ItemEdit {
  readonly item: CostItem;
  readonly field: ItemField;
  readonly text: string;
}

/** Items after a block of edits, all or none; a text names the first that cannot be. Fields that stay as they are are passed over. */
export function editItems(
  edits: readonly ItemEdit[],
  terms: EditTerms,
): readonly { readonly from: CostItem; readonly to: CostItem }[] | string {
  const edited = new Map<string, { from: CostItem; to: CostItem }>();
  for (const { item, field, text } of edits) {
    const now = edited.get(item.code)?.to ?? item;
    if (itemText(now, field, terms.classification) === text.trim()) continue;
    const made = editItem(now, field, text, terms);
    if (typeof made === 'string') return `${item.code}, ${wordsOf(field)}: ${made}`;
    edited.set(item.code, { from: item, to: made.to });
  }
  return [...edited.values()];
}
