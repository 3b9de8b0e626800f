import type { Assembly } from '../book/assembly.ts';
import { LineState } from '../cells/cell-line.ts';
import { evaluateLines } from '../cells/evaluate-lines.ts';
import { type ExplainedStep, explainStep } from '../cells/explain-step.ts';
import { explainShare, shareRuns } from '../cells/runs.ts';
import { traceLeaf } from '../cells/trace-line.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { PricedWith } from '../mapping/pricing-rule.ts';
import { compileRecipe } from '../recipes/compile-recipe.ts';
import { type BookContents, buildBookWith, listQuantityNames, listRecipeLeaves } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import { pairWithItems, sumItemTotals, withTotalRate } from './item-totals.ts';
import { type Amount, currencyToMinorDigits } from './money.ts';
import { priceLine, rateAt, toCharged } from './price-lines.ts';

/** One line of an assembly worked out on one element. */
export interface TriedLine {
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  /** Codes of the assemblies it comes through. */
  readonly path: readonly string[];
  /** False where its condition does not hold. */
  readonly isPart: boolean;
  /** It runs once for a room or the project: here as if the element were alone there. */
  readonly isShared: boolean;
  readonly net: number | null;
  readonly wastePercent: number;
  readonly toBuy: number | null;
  readonly rate: number | null;
  readonly amount: Amount | null;
  /** Formulas on the way to the net quantity, outermost first. */
  readonly steps: readonly ExplainedStep[];
  readonly problem: Problem | null;
}

/**
 * Works an assembly out on one element as the plan would, whether or not a rule prices the element with it: for looking at a draft.
 * @param by formula of the driver, or a figure with its unit; and parameters set to other formulas
 */
export function tryAssembly(
  assembly: Assembly,
  by: Required<Pick<PricedWith, 'driver'>> & Pick<PricedWith, 'parameters'>,
  contents: BookContents,
  table: ElementTable,
  row: number,
): TriedLine[] {
  const book = buildBookWith(assembly, contents);
  const names = listQuantityNames(listEffectiveQuantities(table).values());
  const recipe = compileRecipe({ assembly: assembly.code, ...by }, book, names);
  const leaves = listRecipeLeaves(recipe);
  const [lines] = shareRuns([evaluateLines(recipe, table, Int32Array.of(row)).lines]);
  const totals = sumItemTotals(pairWithItems(lines!, leaves));
  return lines!.map((evaluated, i): TriedLine => {
    const withRate = { ...evaluated, item: withTotalRate(evaluated.item, totals) };
    const line = priceLine(withRate, currencyToMinorDigits(contents.currency));
    const item = leaves[i]!.item?.item;
    const isKnown = line.state[0] === LineState.known;
    const rate = rateAt(line, 0);
    return {
      code: line.code,
      description: item?.description ?? '',
      unit: item?.unit ?? '',
      path: line.path,
      isPart: line.state[0] !== LineState.skipped,
      isShared: Boolean(line.item?.shared),
      net: isKnown ? line.net[0]! : null,
      wastePercent: line.wastePercent,
      toBuy: isKnown ? toCharged(line.net[0]!, line) : null,
      rate,
      amount: isKnown && rate !== null ? line.amounts[0]! : null,
      steps: isKnown ? [...traceLeaf(recipe, table, row, i).quantity.map(explainStep), ...explainShare(line, 0)] : [],
      problem: line.problems.get(0) ?? line.rateProblem,
    };
  });
}
