import { type CostItem, compileRate, type EntryDiff, type FormulaNames, type ItemRate, parseUnit } from '@tally/core';
import { askFigure, editFigure, readFigure } from '../ui/format.ts';

/** Rate of an item as it is typed: a figure or a formula. */
export const rateText = ({ rate, rateFormula, currency }: CostItem): string =>
  rateFormula ?? (rate === null ? '' : currency === undefined ? editFigure(rate) : `${editFigure(rate)} ${currency}`);

/** A figure with a currency behind it. */
const WITH_CURRENCY = /^(.*\d)\s*([A-Z]{3})$/;

/** Rate of an item in its own currency, worked out as far as it can be without an element. */
export function workOutRate(item: CostItem, names: FormulaNames, currency: string): ItemRate {
  const unit = parseUnit(item.unit);
  return unit.ok
    ? compileRate({ ...item, currency: undefined }, unit.value, names, { currency: item.currency ?? currency })
    : { value: null, formula: null, problem: unit.problem, exchange: null, steps: [], shares: [] };
}

/**
 * The change that gives an item another rate, as a figure (`12.50`, `12.50 USD`) or as a formula of named values, scales and quantities; a text says why
 * it cannot be taken.
 */
export function changeRate(
  item: CostItem,
  text: string,
  names: FormulaNames,
  currency: string,
): { cause: string; diff: Partial<EntryDiff> } | string {
  const typed = text.trim();
  const [, amount, code] = WITH_CURRENCY.exec(typed) ?? [];
  const unclear = askFigure(amount ?? typed);
  if (unclear) return unclear;
  const figure = typed === '' ? null : readFigure(amount ?? typed);
  if (figure !== null && Math.abs(figure) > 1e9) return 'A rate lies between 0 and 1,000,000,000.';
  if (figure !== null && (item.isDeduction ? figure > 0 : figure < 0))
    return item.isDeduction
      ? 'The rate of a deduction is not above 0.'
      : 'A rate is not below 0. Say first that the item is a deduction.';
  const { packPrice, lengthPrices } = item.soldAs ?? {};
  if (packPrice !== undefined || lengthPrices !== undefined)
    return `The rate follows from the price of ${packPrice === undefined ? 'the lengths' : 'the pack'}; change what it is sold in.`;
  const { rateFormula: _, currency: own, ...rest } = item;
  const foreign = figure === null ? own : code;
  const plain = foreign === undefined || foreign === currency ? rest : { ...rest, currency: foreign };
  const isFormula = figure === null && typed !== '';
  const to: CostItem = isFormula
    ? { ...plain, rate: null, rateFormula: typed }
    : { ...plain, rate: figure === null ? null : String(figure) };
  if (isFormula) {
    const { problem } = workOutRate(to, names, currency);
    if (problem)
      return /\p{L}/u.test(typed)
        ? `${problem.message} ${problem.remedy ?? ''}`.trim()
        : `"${text}" is no rate. Write a figure such as 12.50.`;
  }
  return {
    cause: `Rate of ${item.code} ${rateText(item) || 'none'} > ${typed === '' ? 'none' : rateText(to)}`,
    diff: { updated: [{ kind: 'item', id: item.code, from: item, to }] },
  };
}
