import { z } from 'zod';
import { ITEM_KINDS } from '../book/item-kind.ts';
import { parseRate } from '../book/parse-rate.ts';
import type { Sheet } from '../book/sheet.ts';
import { ALLOWANCE_MEASURES, type Allowance } from '../lists/allowance.ts';
import { LIST_KEYS, type ListProfile } from '../lists/list-profile.ts';
import type { ListLine, RefusedRow } from '../lists/read-list.ts';
import { readGroupField } from '../plan/group-labels.ts';

const column = z.number().int().min(0).max(100);
const words = z.string().max(200).optional();

/** Where the lines stand in a list; kept by source. */
export const listProfileSchema: z.ZodType<ListProfile> = z.strictObject({
  sheet: z.string().max(200),
  headerRow: z.number().int().min(0).max(1000),
  columns: z.strictObject({
    quantity: column,
    code: column.optional(),
    description: column.optional(),
    unit: column.optional(),
    group: column.optional(),
    storey: column.optional(),
    price: column.optional(),
  }),
  headings: z.strictObject({
    quantity: words,
    code: words,
    description: words,
    unit: words,
    group: words,
    storey: words,
    price: words,
  }),
  key: z.enum(LIST_KEYS),
  unit: z.string().max(40).optional(),
  pricesCount: z.boolean(),
  decimal: z.enum(['point', 'comma']).optional(),
});

/** A cost without an object, by its (negative) ElementKey. */
export const allowanceSchema: z.ZodType<Allowance> = z
  .strictObject({
    code: z.string().trim().min(1, 'An allowance needs a code.').max(80),
    name: z.string().trim().min(1, 'An allowance needs a name.').max(200),
    measure: z.enum(ALLOWANCE_MEASURES),
    amount: z.number().min(0, 'An amount is not less than nothing.').max(1e9).optional(),
    counted: z.string().max(80).optional(),
    of: z
      .strictObject({
        groups: z
          .array(
            z.strictObject({
              by: z
                .string()
                .max(200)
                .refine((by) => readGroupField(by) !== null, 'A plan is not grouped by that.'),
              is: z.string().min(1).max(300),
            }),
          )
          .max(5)
          .optional(),
        also: z.array(z.string().min(1).max(80)).max(50).optional(),
      })
      .optional()
      .describe('Of a per cent: what it is of; all costs but other per cents if absent.'),
    rate: z
      .string()
      .refine((t) => parseRate(t).ok, 'A rate is a figure such as 185.00.')
      .optional(),
    kind: z.enum(ITEM_KINDS).optional(),
    section: z.string().max(80).optional(),
    note: z.string().max(500).optional(),
  })
  .refine((a) => a.measure !== 'units' || a.counted !== undefined, { error: 'Say which functional unit is counted.' });

/** A list whose columns are chosen, for the next version of a source or for a new one. */
export const listOrderSchema = z.strictObject({
  profile: listProfileSchema,
  sourceId: z.string().max(100).nullable(),
  name: z.string().trim().min(1, 'A list needs a name.').max(120),
  fileName: z.string().min(1).max(300),
});

/** A list file that was brought: its first rows for choosing the columns. */
export interface ListFileDto {
  readonly fileHash: string;
  readonly fileName: string;
  /** Name of the source it is of, or would be. */
  readonly name: string;
  /** The source whose next version it is; null for a new one. */
  readonly sourceId: string | null;
  readonly sheets: readonly { readonly name: string; readonly rows: Sheet['rows']; readonly count: number }[];
  /** The columns as they are known or guessed; null if nothing tells them. */
  readonly profile: ListProfile | null;
  /** The columns are those of the version before. */
  readonly isKnown: boolean;
}

/** What taking a list would do. */
export interface ListPreviewDto {
  readonly lines: number;
  readonly sample: readonly (Pick<
    ListLine,
    'row' | 'code' | 'description' | 'quantity' | 'group' | 'storey' | 'price'
  > & { readonly unit: string })[];
  readonly refused: readonly RefusedRow[];
  readonly refusedCount: number;
  /** Lines that share their key with another. */
  readonly alike: number;
  /** Rows taken for headings, the first of them; and how many there are. */
  readonly headings: readonly number[];
  readonly headingCount: number;
  /** Lines whose code the book knows. */
  readonly known: number;
  readonly priced: number;
  /** Against the version that counts; all came if there is none. */
  readonly came: number;
  readonly went: number;
  readonly changed: number;
}
