import { z } from 'zod';
import type { SheetProfile } from '../book/price-sheet.ts';
import type { Sheet } from '../book/sheet.ts';

const sheetColumn = z.number().int().min(0).max(100);

const sheetHeading = z.string().max(200).optional();

export const sheetProfileSchema = z.strictObject({
  sheet: z.string().max(200),
  headerRow: z.number().int().min(0).max(1000),
  columns: z.strictObject({
    code: sheetColumn,
    rate: sheetColumn,
    description: sheetColumn.optional(),
    unit: sheetColumn.optional(),
  }),
  decimal: z.enum(['point', 'comma']).optional(),
  headings: z.strictObject({ code: sheetHeading, rate: sheetHeading, description: sheetHeading, unit: sheetHeading }),
  fileHash: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .optional(),
});

/** Columns of a price sheet and the name that its items carry as their source. */
export const comparePricesSchema = z.strictObject({
  profile: sheetProfileSchema,
  source: z.string().trim().min(1, 'A price sheet needs a name.').max(120),
});

/** Some of a list: those that are named, or all but those. */
const someSchema = z.strictObject({ all: z.boolean(), but: z.array(z.string().max(200)).max(200_000) });

export type Some = z.infer<typeof someSchema>;

/** Which of `keys` are meant. */
export const pickSome = ({ all, but }: Some, keys: Iterable<string>): Set<string> => {
  const named = new Set(but);
  return new Set([...keys].filter((key) => named.has(key) !== all));
};

/** A choice of keys in the shorter of its two ways. @param keys all that can be chosen */
export function describeSome(chosen: ReadonlySet<string>, keys: readonly string[]): Some {
  const others = keys.filter((key) => !chosen.has(key));
  return others.length < chosen.size ? { all: true, but: others } : { all: false, but: [...chosen] };
}

/** Prices of a sheet that are wanted, with the date they are taken over with; `bookHash` is that of the prices they were seen beside. */
export const wantPricesSchema = comparePricesSchema.extend({
  changed: someSchema,
  fresh: someSchema,
  date: z.iso.date(),
  bookHash: z.string().max(64),
});

export type WantedPrices = z.infer<typeof wantPricesSchema>;

/** A file in the price folder, and whether its prices are those that were taken over last. */
export interface PriceFileDto {
  readonly fileName: string;
  readonly at: string;
  readonly source: string;
  readonly state: 'new' | 'changed' | 'same';
}

export const priceFileSchema = z.strictObject({ fileName: z.string().min(1).max(300) });

/** A price sheet that was brought: its first rows for choosing the columns. */
export interface PriceSheetDto {
  readonly fileHash: string;
  readonly fileName: string;
  /** Name it is known by. */
  readonly source: string;
  /** Its columns were chosen before. */
  readonly isKnown: boolean;
  readonly sheets: readonly { readonly name: string; readonly rows: Sheet['rows']; readonly count: number }[];
  readonly profile: SheetProfile | null;
}
