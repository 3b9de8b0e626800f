import { showFormulaWithFigures } from '../formulas/explain-formula.ts';
import { dimensionToUnitName } from '../units/dimension.ts';
import type { FormulaTrace } from './row-reader.ts';

/** One formula on the way to an amount: as written, with its figures, and its result in SI. */
export interface ExplainedStep {
  /** What is said before the figures, where they are not those of the element alone. */
  readonly lead?: string;
  readonly formula: string;
  readonly figures: string;
  readonly result: number;
  readonly unit: string;
}

/** A formula as it ran, in words and figures. */
export function explainStep({ formula, values, result }: FormulaTrace): ExplainedStep {
  return {
    formula: formula.text,
    figures: showFormulaWithFigures(formula, values),
    result,
    unit: formula.type.kind === 'number' ? dimensionToUnitName(formula.type.dimension) : '',
  };
}
