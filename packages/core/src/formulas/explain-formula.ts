import { dimensionToUnitName } from '../units/dimension.ts';
import type { CompiledFormula } from './compile-formula.ts';
import type { FormulaName, SlotValue } from './formula-types.ts';

/** A figure with at most six significant digits, for reading. */
function showFigure(value: number): string {
  return String(Number(value.toPrecision(6)));
}

function showSlot({ name, dimension }: FormulaName, value: SlotValue): string {
  if (typeof value === 'string') return `"${value}"`;
  const unit = dimensionToUnitName(dimension);
  return Number.isNaN(value) ? `${name} (missing)` : `${showFigure(value)}${unit === 'number' ? '' : ` ${unit}`}`;
}

/**
 * The formula with its figures in place of the names.
 * @example 'NetSideArea * 60 each/m2' with 12.5 -> '12.5 m2 * 60 each/m2'
 */
export function showFormulaWithFigures(formula: CompiledFormula, values: ArrayLike<SlotValue>): string {
  let out = '';
  let at = 0;
  for (const use of [...formula.uses].sort((a, b) => a.start - b.start)) {
    const slot = formula.slots[use.slot]!;
    const value = values[use.slot]!;
    out += formula.text.slice(at, use.start) + showSlot(slot, value);
    at = use.end;
  }
  return out + formula.text.slice(at);
}
