import { type CostItem, isRateWorkedOut } from '../book/cost-item.ts';
import { showSoldAs } from '../book/sold-as-text.ts';

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

/** An item as a change of the log left it. */
export interface LoggedItem {
  readonly at: string;
  readonly author: string;
  readonly cause: string;
  readonly item: CostItem;
}

/** How an item's rate is worked out; null for a plain one. */
function describeWorkedOut({ rateFormula, soldAs, unit }: CostItem): string | null {
  const hasPrices = soldAs?.packPrice !== undefined || soldAs?.lengthPrices !== undefined;
  return rateFormula ?? (hasPrices ? showSoldAs(soldAs, unit) : null);
}

/** Rates of an item as the change log tells them, oldest first; changes that leave the rate and its origin alone are passed over. */
export function readRateHistory(changes: readonly LoggedItem[]): PastRate[] {
  const out: PastRate[] = [];
  for (const { at, author, cause, item: now } of changes) {
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
