import type { Classification } from './book/classification.ts';
import { listEffectiveQuantities } from './elements/effective-quantities.ts';
import type { ElementTable } from './elements/element-table.ts';
import { mapElements } from './mapping/map-elements.ts';
import type { Pin, PricingRule, WorkSection } from './mapping/pricing-rule.ts';
import { joinPlan, judgeCompleteness, type Plan, type PlanPart, sumElementAmounts } from './plan/plan.ts';
import { compileRecipe } from './pricing/compile-recipe.ts';
import { listRecipeLeaves } from './pricing/evaluate-recipe.ts';
import { pairWithItems, sumItemTotals, withTotalRate } from './pricing/item-totals.ts';
import { currencyToMinorDigits } from './pricing/money.ts';
import { PipelineMemory } from './pricing/pipeline-memory.ts';
import type { PricedBlock } from './pricing/price-lines.ts';
import { type BookContents, buildBook, listQuantityNames } from './pricing/recipe.ts';
import { settleSharedLines } from './pricing/shared-lines.ts';

/** Version of the calculation: raised whenever the same input may give another figure. */
export const ENGINE_VERSION = '3';

/** Everything that turns elements into money. */
export interface PricingBasis extends BookContents {
  readonly sections: readonly WorkSection[];
  readonly rules: readonly PricingRule[];
  readonly pins: readonly Pin[];
  /** What plans are grouped by where they go by class; UNIFORMAT II if absent. */
  readonly classification?: Classification;
}

export interface SourceTable {
  readonly sourceId: string;
  readonly table: ElementTable;
}

/** elements -> quantities -> mapped lines -> priced lines -> plan. */
export function runPipeline(basis: PricingBasis, sources: readonly SourceTable[], memory = new PipelineMemory()): Plan {
  const minorDigits = currencyToMinorDigits(basis.currency);
  const book = buildBook(basis);
  const measured = sources.map(({ sourceId, table }) => {
    const names = listQuantityNames(listEffectiveQuantities(table).values());
    const mapping = mapElements(table, basis.rules, basis.pins);
    const blocks = mapping.mapped.flatMap((mapped) => {
      const decision = mapped.rule ?? mapped.pin!;
      if (decision.leaveOut !== undefined) return [];
      const recipe = compileRecipe(decision, book, names);
      const lines = memory.evaluate(`${sourceId}/${decision.id}`, recipe, table, mapped.rows);
      return [{ mapped, recipe, leaves: listRecipeLeaves(recipe), lines }];
    });
    return { sourceId, table, mapping, blocks };
  });
  // What runs once for a room or the project is known when all elements are.
  const allBlocks = measured.flatMap((m) => m.blocks);
  const settled = settleSharedLines(allBlocks.map((b) => b.lines));
  const totals = sumItemTotals(settled.flatMap((lines, i) => pairWithItems(lines, allBlocks[i]!.leaves)));
  const next = settled.values();
  const parts = measured.map(({ blocks: own, ...part }): PlanPart => {
    const blocks = own.map(({ mapped, recipe, leaves }): PricedBlock => {
      // The kept quantities may be older than the item: its rate and waste are those of the recipe of now.
      const lines = next
        .next()
        .value!.map((line, i) => memory.price(line, withTotalRate(leaves[i]!.item, totals), minorDigits));
      return { mapped, recipe, lines };
    });
    const completeness = judgeCompleteness(part.table, part.mapping, blocks);
    return { ...part, blocks, completeness, elementAmounts: sumElementAmounts(part.table, blocks) };
  });
  memory.turn();
  return joinPlan(basis.currency, minorDigits, parts);
}
