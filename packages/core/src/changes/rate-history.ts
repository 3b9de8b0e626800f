import { type CostItem, isRateWorkedOut } from '../book/cost-item.ts';
import { showSoldAs } from '../book/sold-as-text.ts';
import type { EntryDiff } from './entry-diff.ts';

/** A rate that an item once had: since when, by whom, and where it came from. */
export interface PastRate {
  /** Time of the change, ISO 8601. */
  readonly at: string;
  readonly author: string;
  readonly cause: string;
  /** Decimal; null where there was none or it is worked out. */
  readonly rate: string | null;
  /** The formula, or the packs it follows from; null for a plain rate. */
  readonly workedOut: string | null;
  readonly source: string | null;
  /** Date of the rate itself, where it was said. */
  readonly date: string | null;
}

/** A change as the log has it. */
export interface LoggedChange {
  readonly at: string;
  readonly author: string;
  readonly cause: string;
  readonly diff: EntryDiff;
}

/** How an item's rate is worked out; null for a plain one. */
function describeWorkedOut({ rateFormula, soldAs, unit }: CostItem): string | null {
  const hasPrices = soldAs?.packPrice !== undefined || soldAs?.lengthPrices !== undefined;
  return rateFormula ?? (hasPrices ? showSoldAs(soldAs, unit) : null);
}

/** Rates of an item as the change log tells them, oldest first; changes that leave the rate and its origin alone are passed over. */
export function readRateHistory(changes: readonly LoggedChange[], code: string): PastRate[] {
  const out: PastRate[] = [];
  for (const { at, author, cause, diff } of changes) {
    const isIt = (e: { readonly kind: string; readonly id: string }) => e.kind === 'item' && e.id === code;
    const now = (diff.added.find(isIt)?.body ?? diff.updated.find(isIt)?.to) as CostItem | undefined;
    if (!now) continue;
    const next: PastRate = {
      at,
      author,
      cause,
      rate: isRateWorkedOut(now) ? null : now.rate,
      workedOut: describeWorkedOut(now),
      source: now.source ?? null,
      date: now.date ?? null,
    };
    const last = out.at(-1);
    const isSame =
      last &&
      last.rate === next.rate &&
      last.workedOut === next.workedOut &&
      last.source === next.source &&
      last.date === next.date;
    if (!isSame) out.push(next);
  }
  return out;
}
