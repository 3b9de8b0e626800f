import { type CostItem, compileRate, type EntryDiff, type FormulaNames, type ItemRate, parseUnit } from '@tally/core';
import { readFigure } from '../ui/format.ts';

/** Rate of an item as it is typed: a figure or a formula. */
export const rateText = ({ rate, rateFormula }: CostItem): string => rateFormula ?? rate ?? '';

/** Rate of an item worked out as far as it can be without an element. */
export function workOutRate(item: CostItem, names: FormulaNames, currency: string): ItemRate {
  const unit = parseUnit(item.unit);
  return unit.ok
    ? compileRate(item, unit.value, names, currency)
    : { value: null, formula: null, problem: unit.problem };
}

/**
 * The change that gives an item another rate, as a figure or as a formula of named values, scales and quantities; a text says why
 * it cannot be taken.
 */
export function changeRate(
  item: CostItem,
  text: string,
  names: FormulaNames,
  currency: string,
): { cause: string; diff: Partial<EntryDiff> } | string {
  const typed = text.trim();
  const figure = typed === '' ? null : readFigure(typed);
  if (figure !== null && (figure < 0 || figure > 1e9)) return 'A rate lies between 0 and 1,000,000,000.';
  const { rateFormula: _, ...plain } = item;
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
    cause: `Rate of ${item.code} ${rateText(item) || 'none'} > ${typed === '' ? 'none' : (to.rate ?? typed)}`,
    diff: { updated: [{ kind: 'item', id: item.code, from: item, to }] },
  };
}
