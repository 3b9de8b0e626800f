import type { DecidedPart } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { CompiledFormula } from '../formulas/compile-formula.ts';
import { isRateByElement, rateToUnit } from '../recipes/item-rate.ts';
import { listRecipeLeaves, type RecipeItem, type RecipeStep } from '../recipes/recipe.ts';
import type { Result } from '../result/result.ts';
import { findRate } from './net-quantity.ts';
import { type FormulaTrace, RowReader } from './row-reader.ts';
import { walkRecipe } from './walk-recipe.ts';

/** The formulas behind one line of a recipe on one row, each with the figures it met. */
export interface LeafTrace {
  /** Of its quantity, outermost first. */
  readonly quantity: readonly FormulaTrace[];
  /** Of its rate, per unit of its item: one, or one for each opening or layer where they differ. None for a plain rate. */
  readonly rate: readonly FormulaTrace[];
}

/**
 * Works one line of a recipe out again on a row, noting the formulas behind it.
 * @param about what of the row it is of, and its place among those; null for the element itself
 */
export function traceLeaf(
  step: RecipeStep,
  table: ElementTable,
  row: number,
  leaf: number,
  about: DecidedPart | null = null,
  ordinal = 0,
): LeafTrace {
  const reader = new RowReader(table);
  reader.isTracing = true;
  reader.go(row, about, ordinal);
  let at = 0;
  let found: LeafTrace = { quantity: [], rate: [] };
  let from = 0;
  const mark = (item?: RecipeItem) => {
    if (at === leaf && item) {
      const drivers = collectDrivers(step, item);
      const list = (formula: CompiledFormula | null) => {
        const since = reader.traces.slice(from).filter((t) => t.formula === formula);
        // The lines of an assembly that runs over parts are all traced before the first of them is told.
        const own = since.length > 0 ? since : reader.traces.filter((t) => t.formula === formula);
        return own.slice(0, MOST_SHOWN);
      };
      found = {
        quantity: [...reader.traces.filter((t) => drivers.includes(t.formula)), ...list(item.quantity)],
        rate: traceRate(item, list(item.rate.formula)),
      };
    }
    at++;
    from = reader.traces.length;
  };
  const pass = (count: number) => {
    for (let i = 0; i < count; i++) mark();
  };
  walkRecipe(step, null, reader, {
    isWanted: () => true,
    needsResults: () => true,
    pass,
    skip: pass,
    fail: pass,
    know: (_net, item) => mark(item),
    share: (item, frame) => {
      if (isRateByElement(item.rate)) findRate(item, frame, reader);
      mark(item);
    },
  });
  return found;
}

/** Most openings or layers whose figures are shown one by one. */
const MOST_SHOWN = 12;

/** What a formula of quantities gives for one element, in SI. Errors: those of the run. */
export function evaluateOnElement(
  formula: CompiledFormula,
  table: ElementTable,
  row: number,
): Result<number | string | boolean> {
  const reader = new RowReader(table);
  reader.go(row);
  return reader.run(formula, null);
}

/** The formula of an item's rate with the figures it met, each way once; none if it has a plain rate. */
function traceRate({ rate: { formula, value }, unit }: RecipeItem, met: readonly FormulaTrace[]): FormulaTrace[] {
  if (!formula) return [];
  // The same for all elements: nothing was read of this one. What the project takes is added by who knows it.
  if (met.length === 0 && value !== null)
    return [{ formula, values: formula.slots.map((s) => s.value ?? Number.NaN), result: value }];
  const different = new Map(met.map((t) => [t.values.join('|'), t]));
  return [...different.values()].map((t) => ({ ...t, result: rateToUnit(t.result, unit) }));
}

function collectDrivers(step: RecipeStep, item: RecipeItem): CompiledFormula[] {
  if (step.kind !== 'assembly') return [];
  const child = step.steps.find(
    (s) => s === item || (s.kind === 'assembly' && listRecipeLeaves(s).some((l) => l.item === item)),
  );
  return child ? [step.driver, ...collectDrivers(child, item)] : [];
}
