import {
  type DecimalSign,
  type ListColumn,
  type ListFileDto,
  type ListKey,
  type ListProfile,
  listOrderSchema,
  makeListProfile,
} from '@tally/core';
import { z } from 'zod';
import type { ChosenColumns } from '../../ui/sheet-columns.tsx';

/** A list as it is brought: what it is, where its columns stand, how its figures are read. */
export interface ListForm {
  /** The source whose next version it is; '' for a new one. */
  sourceId: string;
  name: string;
  chosen: ChosenColumns<ListColumn>;
  /** By which its lines are known; what the columns allow if none is said. */
  key: ListKey | '';
  decimal: DecimalSign | undefined;
  /** Unit of lines that say none. */
  unit: string;
  pricesCount: boolean;
}

export const fillListForm = ({ sourceId, name, profile, sheets }: ListFileDto): ListForm => ({
  sourceId: sourceId ?? '',
  name,
  chosen: profile ?? { sheet: sheets[0]!.name, headerRow: 0, columns: {} },
  key: profile?.key ?? '',
  decimal: profile?.decimal,
  unit: profile?.unit ?? '',
  pricesCount: profile?.pricesCount ?? false,
});

/** The columns as they are chosen; null while none of them holds the quantity. */
export function readProfile(sheets: ListFileDto['sheets'], form: ListForm): ListProfile | null {
  const { sheet, headerRow, columns } = form.chosen;
  const { quantity } = columns;
  if (quantity === undefined) return null;
  const header = sheets.find((s) => s.name === sheet)?.rows[headerRow] ?? [];
  return makeListProfile(sheet, headerRow, { ...columns, quantity }, header, {
    ...(form.key === '' ? {} : { key: form.key }),
    ...(form.unit.trim() === '' ? {} : { unit: form.unit.trim() }),
    ...(form.decimal === undefined ? {} : { decimal: form.decimal }),
    // What is said of prices holds where there are any.
    pricesCount: form.pricesCount && columns.price !== undefined,
  });
}

export type ListOrder = z.infer<typeof listOrderSchema>;

/** What the form of a list gives: the order to take it. A next version keeps the name of its source. */
export const listFormSchema = (
  { sheets, fileName }: Pick<ListFileDto, 'sheets' | 'fileName'>,
  nameOf: (sourceId: string) => string | undefined,
) =>
  z.custom<ListForm>().transform((form, context): ListOrder => {
    const profile = readProfile(sheets, form);
    const sourceId = form.sourceId === '' ? null : form.sourceId;
    const name = (sourceId === null ? undefined : nameOf(sourceId)) ?? form.name;
    if (!profile)
      context.addIssue({ code: 'custom', path: ['chosen'], message: 'Say which column holds the quantity.' });
    const order = listOrderSchema.safeParse({ profile: profile ?? undefined, sourceId, name, fileName });
    // What is wrong with the columns is said where they are chosen.
    for (const { path, message } of profile ? (order.error?.issues ?? []) : [])
      context.addIssue({ code: 'custom', path: [path[0] === 'profile' ? 'chosen' : String(path[0])], message });
    return order.success ? order.data : z.NEVER;
  });
