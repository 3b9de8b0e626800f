import type { CostItem } from './cost-item.ts';
import { ITEM_KINDS, type ItemKind } from './item-kind.ts';

/** What all rates of some kinds of cost are multiplied by: for a region, a height, a night shift. */
interface PlainFactor {
  readonly name: string;
  /** Kinds of cost it holds for; all if absent. */
  readonly kinds?: readonly ItemKind[];
  /** Per cent on the rate; less than 0 for a reduction. */
  readonly percent: number;
}

/** What rates rise by from the date of the prices to the date of the work, compounded by the year. */
interface YearlyFactor {
  readonly name: string;
  readonly kinds?: readonly ItemKind[];
  readonly percentPerYear: number;
  /** ISO 8601 dates. */
  readonly from: string;
  readonly to: string;
}

export type PriceFactor = PlainFactor | YearlyFactor;

/** What a unit of another currency costs in the project's, on a date. */
export interface ExchangeRate {
  readonly currency: string;
  /** Decimal: the project's currency for one of the other. */
  readonly rate: string;
  /** ISO 8601. */
  readonly date: string;
}

/** A step from the rate of the book to the one that is paid. */
export interface RateStep {
  readonly name: string;
  readonly factor: number;
}

const DAY_MS = 86_400_000;
const DAYS_A_YEAR = 365.25;

/**
 * Factor of a price factor.
 * @example 4 % a year from 2026-01-01 to 2028-01-01 (730 days) gives 1.04 ^ (730 / 365.25) = 1.0815
 */
export function toFactor(factor: PriceFactor): number {
  if ('percent' in factor) return 1 + factor.percent / 100;
  const years = (Date.parse(factor.to) - Date.parse(factor.from)) / DAY_MS / DAYS_A_YEAR;
  return (1 + factor.percentPerYear / 100) ** years;
}

/** Shares of an amount by kind of cost; they add up to 1. */
export type KindShares = readonly { readonly kind: ItemKind; readonly share: number }[];

/** Shares of a rate of the book: all of one kind, or as its split says. */
export function listShares({ kind, split }: Pick<CostItem, 'kind' | 'split'>): KindShares {
  const parts = ITEM_KINDS.flatMap((k) => (split?.[k] ? [{ kind: k, share: split[k] / 100 }] : []));
  return parts.length > 0 ? parts : [{ kind, share: 1 }];
}

/**
 * Factors that hold for a rate, in their order, and its shares by kind after them. A factor moves only the part of a split rate that
 * is of its kinds.
 * @example 10 % on labour, of a rate with 40 % labour: a step of 1.04; labour is then 44 / 104 of it
 */
export function listRateSteps(
  factors: readonly PriceFactor[],
  of: KindShares,
): { readonly steps: readonly RateStep[]; readonly shares: KindShares } {
  const steps: RateStep[] = [];
  let shares = of;
  for (const f of factors) {
    const holds = (kind: ItemKind) => f.kinds === undefined || f.kinds.includes(kind);
    if (!shares.some((s) => holds(s.kind))) continue;
    const own = toFactor(f);
    const moved = shares.map(({ kind, share }) => ({ kind, share: holds(kind) ? share * own : share }));
    const factor = shares.every((s) => holds(s.kind)) ? own : moved.reduce((sum, s) => sum + s.share, 0);
    steps.push({ name: f.name, factor });
    shares = moved.map(({ kind, share }) => ({ kind, share: share / factor }));
  }
  return { steps, shares };
}
