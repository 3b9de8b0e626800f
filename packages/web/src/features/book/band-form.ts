import { bandId, bandSchema, type EntryDiff, type PriceBand } from '@tally/core';
import { z } from 'zod';
import { figureText } from '../../ui/figure-text.ts';

/** Units that a band can be per. */
export const BAND_UNITS = ['m2', 'm3', 'm', 'kg', 'each'] as const;

const price = figureText('price', (figure) => figure >= 0);

/** A band as it is typed: three prices, the low not above the usual, the usual not above the high. */
export const bandFormSchema = z
  .object({
    of: z.string().trim(),
    unit: z.enum(BAND_UNITS),
    low: price,
    usual: price,
    high: price,
    note: z.string().trim(),
  })
  .transform(({ note, ...form }, context): PriceBand => {
    const band = { ...form, ...(note !== '' ? { note } : {}) };
    const read = bandSchema.safeParse(band);
    if (read.success) return read.data as PriceBand;
    for (const { path, message } of read.error.issues) context.addIssue({ code: 'custom', path: [...path], message });
    return z.NEVER;
  });

export type BandForm = z.input<typeof bandFormSchema>;

export const fillBandForm = (band: PriceBand | null, edit: (figure: string) => string): BandForm => ({
  of: band?.of ?? '',
  unit: (band?.unit as BandForm['unit'] | undefined) ?? 'm2',
  low: band ? edit(band.low) : '',
  usual: band ? edit(band.usual) : '',
  high: band ? edit(band.high) : '',
  note: band?.note ?? '',
});

/** The change that keeps a band: in place of the one it was, or as a new one; under another name the old one goes. */
export function keepBand(
  before: PriceBand | null,
  band: PriceBand,
): { readonly cause: string; readonly diff: Partial<EntryDiff> } {
  const entry = { kind: 'band', id: bandId(band) };
  const cause = `What ${bandId(band)} usually costs`;
  if (before && bandId(before) === entry.id)
    return { cause, diff: { updated: [{ ...entry, from: before, to: band }] } };
  const gone = before ? [{ kind: 'band', id: bandId(before), body: before }] : [];
  return { cause, diff: { removed: gone, added: [{ ...entry, body: band }] } };
}
