import { buyWhole, type CostItem } from '../book/cost-item.ts';
import type { NamedValue } from '../book/named-value.ts';
import type { PriceComparison, SheetProfile } from '../book/price-sheet.ts';
import { withPrice } from '../book/sheet-price-place.ts';
import { type EntryDiff, isSameBody } from './entry-diff.ts';

/** What of a comparison is taken over. */
export interface AcceptedPrices {
  /** Keys of changed prices. */
  readonly changed: ReadonlySet<string>;
  /** Codes of new items. */
  readonly fresh: ReadonlySet<string>;
}

/**
 * The change that takes prices over: rates with the sheet as their source and a date, new items, and where the prices stand in the
 * sheet, so that its next version is known.
 */
export function acceptPrices(
  comparison: PriceComparison,
  accepted: AcceptedPrices,
  book: { readonly items: readonly CostItem[]; readonly values: readonly NamedValue[] },
  sheet: { readonly source: string; readonly profile: SheetProfile; readonly known: SheetProfile | undefined },
  date: string,
): EntryDiff {
  const { source, profile, known } = sheet;
  const items = new Map(book.items.map((i) => [i.code, i]));
  const values = new Map(book.values.map((v) => [v.name, v]));
  const updated: EntryDiff['updated'][number][] = [];
  // An item may have a price for each of its lengths.
  const priced = new Map<string, CostItem>();
  for (const { kind, key, code, place, to } of comparison.changed) {
    if (!accepted.changed.has(key)) continue;
    const item = priced.get(code) ?? items.get(code);
    const value = kind === 'value' ? values.get(code) : undefined;
    if (kind === 'item' && item && place) priced.set(code, withPrice(item, place, to));
    if (value) updated.push({ kind: 'value', id: code, from: value, to: { ...value, value: to } });
  }
  for (const [code, to] of priced)
    updated.push({ kind: 'item', id: code, from: items.get(code), to: { ...to, source, date } });
  const added: { kind: string; id: string; body: unknown }[] = comparison.fresh
    .filter((row) => accepted.fresh.has(row.code) && row.unit !== null)
    .map((row) => ({
      kind: 'item',
      id: row.code,
      body: buyWhole({
        code: row.code,
        description: row.description ?? '',
        kind: 'material',
        unit: row.unit!,
        rate: row.rate,
        source,
        date,
      }),
    }));
  if (!known) added.push({ kind: 'priceSheet', id: source, body: profile });
  else if (!isSameBody(known, profile)) updated.push({ kind: 'priceSheet', id: source, from: known, to: profile });
  return { added, updated, removed: [] };
}
