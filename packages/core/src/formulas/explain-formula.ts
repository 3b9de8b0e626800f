import { dimensionToUnitName } from '../units/dimension.ts';
import type { CompiledFormula } from './compile-formula.ts';

/** A figure with at most six significant digits, for reading. */
function showFigure(value: number): string {
  return String(Number(value.toPrecision(6)));
}

/**
 * The formula with its figures in place of the names.
 * @example 'NetSideArea * 60 each/m2' with 12.5 -> '12.5 m2 * 60 each/m2'
 */
export function showFormulaWithFigures(formula: CompiledFormula, values: ArrayLike<number>): string {
  let out = '';
  let at = 0;
  for (const use of [...formula.uses].sort((a, b) => a.start - b.start)) {
    const slot = formula.slots[use.slot]!;
    const value = values[use.slot]!;
    const unit = dimensionToUnitName(slot.dimension);
    out +=
      formula.text.slice(at, use.start) +
      (Number.isNaN(value) ? `${slot.name} (missing)` : `${showFigure(value)}${unit === 'number' ? '' : ` ${unit}`}`);
    at = use.end;
  }
  return out + formula.text.slice(at);
}
