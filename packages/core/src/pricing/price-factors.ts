import type { ItemKind } from '../book/cost-item.ts';

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

/** Factors that hold for a kind of cost, in their order. */
export function listRateSteps(factors: readonly PriceFactor[], kind: ItemKind): RateStep[] {
  return factors
    .filter((f) => f.kinds === undefined || f.kinds.includes(kind))
    .map((f) => ({ name: f.name, factor: toFactor(f) }));
}
