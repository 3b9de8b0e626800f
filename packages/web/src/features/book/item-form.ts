import { buyWhole, type CostItem, codeKey, costItemSchema, ITEM_KINDS } from '@tally/core';
import { z } from 'zod';
import { figureText } from '../../ui/figure-text.ts';

/** A new cost item as it is typed: its texts, and the rate as a figure in the person's number style. */
export interface ItemForm {
  code: string;
  kind: CostItem['kind'];
  description: string;
  unit: string;
  rate: string;
  group: string;
  supplier: string;
  source: string;
  classes: NonNullable<CostItem['classes']>;
}

export const fillItemForm = (item: CostItem): ItemForm => ({
  code: item.code,
  kind: item.kind,
  description: item.description,
  unit: item.unit,
  rate: item.rate ?? '',
  group: item.group ?? '',
  supplier: item.supplier ?? '',
  source: item.source ?? '',
  classes: item.classes ?? {},
});

/**
 * What the form of a new item gives: the item that it began from with what was typed. Refused where there is an item of the code, where the rate
 * is no figure, and where the book would refuse it.
 */
export function itemFormSchema(from: CostItem, items: readonly CostItem[]) {
  const taken = new Set(items.map((i) => codeKey(i.code)));
  const texts = z.object({
    code: z
      .string()
      .trim()
      .refine((code) => !taken.has(codeKey(code)), 'There is an item of this code already.'),
    kind: z.enum(ITEM_KINDS),
    description: z.string(),
    unit: z.string(),
    rate: figureText('rate'),
    group: z.string(),
    supplier: z.string(),
    source: z.string(),
    classes: z.record(z.string(), z.string()),
  });
  return texts.transform(({ rate, ...typed }, context): CostItem => {
    const base = rate === null ? from : withoutWorkedOut(from);
    const named = Object.entries(typed).filter(([, value]) => typeof value !== 'string' || value !== '');
    const rest = Object.fromEntries(
      Object.entries(base).filter(([name, value]) => !(name in typed) && value !== undefined),
    );
    const { classes, ...made } = { ...rest, ...Object.fromEntries(named), rate } as CostItem;
    const item = buyWhole({ ...made, ...(classes && Object.keys(classes).length > 0 ? { classes } : {}) });
    const checked = costItemSchema.safeParse(item);
    for (const issue of checked.error?.issues ?? [])
      context.addIssue({ code: 'custom', path: issue.path, message: issue.message });
    return item;
  });
}

/** An item without what its rate was worked out by, for a plain one to count. */
function withoutWorkedOut({ rateFormula: _, soldAs, ...item }: CostItem): CostItem {
  if (!soldAs) return item;
  const { packPrice: __, lengthPrices: ___, ...sold } = soldAs;
  return { ...item, soldAs: sold };
}
