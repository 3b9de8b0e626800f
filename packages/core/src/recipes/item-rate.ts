import type { Assembly } from '../book/assembly.ts';
import type { CostItem } from '../book/cost-item.ts';
import { parseRate } from '../book/parse-rate.ts';
import { type ExchangeRate, type KindShares, listRateSteps, listShares, type PriceFactor, type RateStep } from '../book/price-factors.ts'; // biome-ignore format: one module
import { type CompiledFormula, compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import type { Problem } from '../result/result.ts';
import { multiplyDimensions } from '../units/dimension.ts';
import { findSimpleUnit, type Unit } from '../units/unit.ts';
import { asParameter } from './parameter-names.ts';
import { PART_NAMES } from './part-names.ts';

/**
 * Rate of an item per its unit in the item's currency. `value` is null where there is none, or where each element has its own
 * (`formula` not constant).
 */
export interface ItemRate {
  readonly value: number | null;
  readonly formula: CompiledFormula | null;
  readonly problem: Problem | null;
  /** What one of the item's currency is in the project's; null for the same. */
  readonly exchange: ExchangeRate | null;
  /** Steps from the rate of the book to the one that is paid: region, escalation. */
  readonly steps: readonly RateStep[];
  /** What the project takes of the item, in SI, where the rate goes by it and it is known. */
  readonly total?: number;
  /** Of a per cent: the costs that it is of, in 1/10,000 of a minor unit, and what they are. */
  readonly base?: { readonly amount: number; readonly of: string };
  /** Shares of what is paid by kind of cost. */
  readonly shares: KindShares;
}

/** What all rates of a project have in common. */
export interface RateTerms {
  readonly currency: string;
  readonly exchange?: readonly ExchangeRate[];
  readonly factors?: readonly PriceFactor[];
}

const DENSITY = { mass: 1, length: -3 };

/** Name under which a rate reads what the whole project takes of its item, waste included. */
export const ITEM_TOTAL = 'ItemTotal';

/** Names that a line and a rate may use of their item: the density of a material, as `ItemDensity`. */
export function nameItem({ code, densityKgM3 }: CostItem, names: FormulaNames): FormulaNames {
  const missing: Problem = {
    code: 'density-missing',
    message: `${code} has no density.`,
    remedy: 'Give the item its density in kg/m3.',
  };
  const figure = densityKgM3 === undefined ? { problem: missing } : { value: densityKgM3 };
  return names.with([{ name: 'ItemDensity', dimension: DENSITY, source: 'value', ...figure }]);
}

/**
 * Names that the rate of an item may use wherever it stands: those of the element and the book first, then the parameters of
 * assemblies and the figures of openings, layers and junctions, which only some lines have.
 */
export function listRateNames(outer: FormulaNames, assemblies: readonly Assembly[]): FormulaNames {
  const parameters = assemblies.flatMap((a) => a.parameters ?? []).map((p) => asParameter(p.name, p.unit));
  return outer.only(() => false).with([...Object.values(PART_NAMES).flat(), ...parameters, ...outer.list()]);
}

type PlainRate = Pick<ItemRate, 'value' | 'formula' | 'problem'>;

const unusable = (problem: Problem): PlainRate => ({ value: null, formula: null, problem });

/** What a rate of the book is multiplied by to be the one that is paid in the project's currency. */
export const factorOf = ({ exchange, steps }: Pick<ItemRate, 'exchange' | 'steps'>): number =>
  steps.reduce((f, s) => f * s.factor, exchange ? Number(exchange.rate) : 1);

/** True if the rate goes by what the whole project takes of the item. */
export const isRateByTotal = ({ formula }: Pick<ItemRate, 'formula'>): boolean =>
  formula?.slots.some((s) => s.source === 'total') === true;

/** True if every element has a rate of its own. */
export const isRateByElement = (rate: Pick<ItemRate, 'formula'>): boolean =>
  rate.formula !== null && !rate.formula.isConstant && !isRateByTotal(rate);

/** A rate worked out in SI brought to the item's unit. @example 28 EUR/m3 for an item in l: 0.028 */
export const rateToUnit = (rate: number, unit: Unit): number => rate * unit.factor;

/**
 * Reads or compiles the rate of an item. Errors, kept as its problem: `rate-missing`, `rate-unreadable`, `rate-negative`,
 * `rate-currency-unknown`, `currency-without-rate`, those of the formula.
 */
export function compileRate(item: CostItem, unit: Unit, names: FormulaNames, terms: RateTerms): ItemRate {
  const { steps, shares } = listRateSteps(terms.factors ?? [], listShares(item));
  const isForeign = item.currency !== undefined && item.currency !== terms.currency;
  const exchange = isForeign ? (terms.exchange?.find((e) => e.currency === item.currency) ?? null) : null;
  if (isForeign && !exchange)
    return {
      ...unusable({
        code: 'currency-without-rate',
        message: `${item.code} is bought in ${item.currency}; this project has no rate for it.`,
        remedy: 'Give the rate of the currency in the settings.',
      }),
      exchange,
      steps,
      shares,
    };
  return { ...compilePlainRate(item, unit, names, item.currency ?? terms.currency), exchange, steps, shares };
}

function compilePlainRate(item: CostItem, unit: Unit, names: FormulaNames, currency: string): PlainRate {
  if (item.rateFormula !== undefined) return compileRateFormula(item, item.rateFormula, unit, names, currency);
  const { pack, packPrice } = item.soldAs ?? {};
  if (pack !== undefined && packPrice !== undefined) {
    const price = parseRate(packPrice);
    if (!price.ok) return unusable(price.problem);
    if (price.value < 0) return unusable(negative(item));
    return pack > 0 ? { value: price.value / pack, formula: null, problem: null } : unusable(noPack(item));
  }
  const { lengths, lengthPrices } = item.soldAs ?? {};
  if (lengths !== undefined && lengthPrices !== undefined) {
    const longest = Math.max(...lengths);
    const price = parseRate(lengthPrices[lengths.indexOf(longest)] ?? '');
    if (!price.ok) return unusable(price.problem);
    if (lengthPrices.some((p) => Number(p) < 0)) return unusable(negative(item));
    return { value: price.value / longest, formula: null, problem: null };
  }
  if (item.rate === null)
    return unusable({
      code: 'rate-missing',
      message: `${item.code} ${item.description} has no rate.`,
      remedy: 'Give it a rate in the book.',
    });
  const rate = parseRate(item.rate);
  if (!rate.ok) return unusable(rate.problem);
  return rate.value < 0 && !item.isDeduction
    ? unusable(negative(item))
    : { value: rate.value, formula: null, problem: null };
}

export const negative = ({ code }: CostItem): Problem => ({
  code: 'rate-negative',
  message: `The rate of ${code} is less than nothing.`,
  remedy: 'Correct it, or say that the item is a deduction.',
});

const noPack = ({ code }: CostItem): Problem => ({
  code: 'pack-size-zero',
  message: `A pack of ${code} holds nothing.`,
  remedy: 'Give its size in the unit of the item.',
});

function compileRateFormula(
  item: CostItem,
  text: string,
  unit: Unit,
  names: FormulaNames,
  currency: string,
): PlainRate {
  const money = findSimpleUnit(currency);
  if (!money)
    return unusable({
      code: 'rate-currency-unknown',
      message: `Rates in ${currency} cannot be worked out by a formula.`,
      remedy: 'Give the item a plain rate.',
    });
  const needed: Unit = {
    symbol: `${currency}/${unit.symbol}`,
    factor: 1 / unit.factor,
    dimension: multiplyDimensions(money.dimension, unit.dimension, -1),
  };
  const total: FormulaName = { name: ITEM_TOTAL, dimension: unit.dimension, source: 'total' };
  const formula = compileFormula(text, nameItem(item, names).with([total]), needed);
  if (!formula.ok) return unusable({ ...formula.problem, path: `rate of ${item.code}` });
  if (isRateByTotal({ formula: formula.value })) {
    const { slots, readsElement } = formula.value;
    const own = slots.find((s) => s.source !== 'total' && s.value === undefined);
    if (own || readsElement)
      return unusable({
        code: 'rate-total-alone',
        message: `The rate of ${item.code} goes by the total of the project, so it is one for all; it cannot read ${own?.name ?? 'a single element'} too.`,
        remedy: 'Take one of them out.',
      });
  }
  if (!formula.value.isConstant) return { value: null, formula: formula.value, problem: null };
  const value = rateToUnit(
    formula.value.evaluate({ values: [], property: () => undefined, problem: null }) as number,
    unit,
  );
  return value < 0 && !item.isDeduction ? unusable(negative(item)) : { value, formula: formula.value, problem: null };
}
