import { listEffectiveQuantities } from './elements/effective-quantities.ts';
import type { ElementTable } from './elements/element-table.ts';
import { mapElements } from './mapping/map-elements.ts';
import type { Pin, PricingRule, WorkSection } from './mapping/pricing-rule.ts';
import { joinPlan, judgeCompleteness, type Plan, type PlanPart, sumElementAmounts } from './plan/plan.ts';
import { type EvaluatedLine, evaluateRecipe, listRecipeLeaves } from './pricing/evaluate-recipe.ts';
import { currencyToMinorDigits } from './pricing/money.ts';
import { type PricedBlock, priceLine } from './pricing/price-lines.ts';
import {
  type BookContents,
  buildBook,
  compileRecipe,
  listQuantityNames,
  type RecipeStep,
  recipeSignature,
} from './pricing/recipe.ts';

/** Version of the calculation: raised whenever the same input may give another figure. */
export const ENGINE_VERSION = '2';

/** Everything that turns elements into money. */
export interface PricingBasis extends BookContents {
  readonly sections: readonly WorkSection[];
  readonly rules: readonly PricingRule[];
  readonly pins: readonly Pin[];
}

export interface SourceTable {
  readonly sourceId: string;
  readonly table: ElementTable;
}

/**
 * What earlier runs worked out: net quantities by rule, kept while the table, the rule's elements and its formulas stay
 * the same. Prices are always applied anew.
 */
export class PipelineMemory {
  private kept = new Map<string, Evaluated>();
  private next = new Map<string, Evaluated>();
  /** Element x line combinations evaluated so far, to judge how much a change recomputes. */
  evaluatedCells = 0;

  /** The kept lines of a rule if nothing they depend on has changed, else fresh ones. */
  evaluate(key: string, recipe: RecipeStep, table: ElementTable, rows: Int32Array): EvaluatedLine[] {
    const signature = recipeSignature(recipe);
    const known = this.kept.get(key);
    const isSame = known && known.table === table && known.signature === signature && isSameRows(known.rows, rows);
    const lines = isSame ? known.lines : evaluateRecipe(recipe, table, rows);
    if (!isSame) this.evaluatedCells += lines.length * rows.length;
    this.next.set(key, { table, signature, rows, lines });
    return lines;
  }

  /** Forgets rules that the last run did not use. */
  turn(): void {
    this.kept = this.next;
    this.next = new Map();
  }
}

interface Evaluated {
  readonly table: ElementTable;
  readonly signature: string;
  readonly rows: Int32Array;
  readonly lines: EvaluatedLine[];
}

const isSameRows = (a: Int32Array, b: Int32Array) => a.length === b.length && a.every((row, i) => row === b[i]);

/** elements -> quantities -> mapped lines -> priced lines -> plan. */
export function runPipeline(basis: PricingBasis, sources: readonly SourceTable[], memory = new PipelineMemory()): Plan {
  const minorDigits = currencyToMinorDigits(basis.currency);
  const book = buildBook(basis);
  const parts = sources.map(({ sourceId, table }): PlanPart => {
    const names = listQuantityNames(listEffectiveQuantities(table).values());
    const mapping = mapElements(table, basis.rules, basis.pins);
    const blocks = mapping.mapped.flatMap((mapped): PricedBlock[] => {
      const decision = mapped.rule ?? mapped.pin!;
      if (decision.leaveOut !== undefined) return [];
      const recipe = compileRecipe(decision, book, names);
      const leaves = listRecipeLeaves(recipe);
      const evaluated = memory.evaluate(`${sourceId}/${decision.id}`, recipe, table, mapped.rows);
      // The kept quantities may be older than the item: its rate and waste are taken from the recipe of now.
      const lines = evaluated.map((line, i) => priceLine({ ...line, item: leaves[i]!.item }, minorDigits));
      return [{ mapped, recipe, lines }];
    });
    const completeness = judgeCompleteness(table, mapping, blocks);
    return { sourceId, table, mapping, blocks, completeness, elementAmounts: sumElementAmounts(table, blocks) };
  });
  memory.turn();
  return joinPlan(basis.currency, minorDigits, parts);
}
