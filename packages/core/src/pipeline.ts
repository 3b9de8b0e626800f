import type { Classification } from './book/cost-class.ts';
import type { PriceBand } from './book/price-band.ts';
import { shareRuns } from './cells/runs.ts';
import type { MoveState } from './changes/move-state.ts';
import { listEffectiveQuantities } from './elements/effective-quantities.ts';
import type { ElementTable } from './elements/element-table.ts';
import type { PricedByThemselves } from './lists/price-listed.ts';
import type { ExpectedSections } from './mapping/expected-sections.ts';
import { mapElements } from './mapping/map-elements.ts';
import { type ItemSwap, joinSwaps, type Pin, type PricingRule, type WorkSection } from './mapping/pricing-rule.ts';
import { PipelineMemory } from './pipeline-memory.ts';
import type { CheckedMark } from './plan/checked-marks.ts';
import type { Target } from './plan/hold-targets.ts';
import { joinPlan, judgeCompleteness, type Plan, type PlanPart, sumElementAmounts } from './plan/plan.ts';
import { sharePercents } from './plan/share-percents.ts';
import { pairWithItems, sumItemTotals, withTotalRate } from './pricing/item-totals.ts';
import { currencyToMinorDigits } from './pricing/money.ts';
import type { PricedBlock } from './pricing/price-lines.ts';
import { type BookContents, listRecipeLeaves } from './recipes/recipe.ts';
import type { NamedScope } from './scopes/named-scope.ts';

/** Version of the calculation: raised whenever the same input may give another figure. */
export const ENGINE_VERSION = '3';

/** Everything that turns elements into money. */
export interface PricingBasis extends BookContents {
  readonly sections: readonly WorkSection[];
  /** Named scopes in them looked up. */
  readonly rules: readonly PricingRule[];
  readonly scopes?: readonly NamedScope[];
  readonly pins: readonly Pin[];
  readonly swaps?: readonly ItemSwap[];
  /** What the client wants to spend. */
  readonly targets?: readonly Target[];
  /** What somebody looked at and found right. */
  readonly checked?: readonly CheckedMark[];
  /** What checks hold the plan against: sections that classes are expected in, and usual prices. */
  readonly expected?: readonly ExpectedSections[];
  readonly bands?: readonly PriceBand[];
  /** What plans are grouped by where they go by class; UNIFORMAT II if absent. */
  readonly classification?: Classification;
}

export interface SourceTable {
  readonly sourceId: string;
  readonly table: ElementTable;
  /** What its elements are priced with by themselves, where no pin and no rule decides, and the items that are only theirs. */
  readonly own?: PricedByThemselves;
}

/** A basis with the items that sources have of their own; itself if there are none. */
function withOwnItems(basis: PricingBasis, sources: readonly SourceTable[]): PricingBasis {
  const items = sources.flatMap((s) => s.own?.items ?? []);
  return items.length > 0 ? { ...basis, items: [...basis.items, ...items] } : basis;
}

/** elements -> quantities -> decisions -> lines -> cells -> amounts -> per cents of them -> plan. */
export function runPipeline(basis: PricingBasis, sources: readonly SourceTable[], memory = new PipelineMemory()): Plan {
  const minorDigits = currencyToMinorDigits(basis.currency);
  const book = memory.recipes.open(withOwnItems(basis, sources));
  const evaluated = sources.map(({ sourceId, table, own }) => {
    const names = memory.recipes.nameQuantities([...listEffectiveQuantities(table).values()]);
    const mapping = mapElements(table, basis.rules, basis.pins, memory.mappingOf(sourceId), own?.decisions);
    const pricing = mapping.mapped.filter((m) => m.decision.leaveOut === undefined);
    const blocks = pricing.map((mapped) => {
      const key = `${sourceId}/${mapped.id}`;
      const swaps = joinSwaps(basis.swaps, mapped);
      const recipe = memory.recipes.compile(
        key,
        { ...mapped.decision, about: mapped.about ?? undefined, swaps },
        book,
        names,
      );
      return { key, mapped, cells: memory.evaluate(key, recipe, table, mapped) };
    });
    return { sourceId, table, mapping, blocks };
  });
  // What runs once for a room or the project, and rates that go by what all of it takes, are known when all elements are.
  const all = evaluated.flatMap((e) => e.blocks.map((b) => b.cells));
  const shared = shareRuns(all.map((cells) => cells.lines));
  const linesOf = new Map(all.map((cells, i) => [cells, shared[i]!]));
  const totals = sumItemTotals(all.flatMap((cells, i) => pairWithItems(shared[i]!, listRecipeLeaves(cells.recipe))));
  const parts = evaluated.map(({ blocks: own, ...part }): PlanPart => {
    const blocks = own.map(({ key, mapped, cells }): PricedBlock => {
      const leaves = listRecipeLeaves(cells.recipe);
      // The kept quantities may be older than the item: its rate and waste are those of the recipe of now.
      const lines = linesOf.get(cells)!.map((line, i) => {
        const origin = line === cells.lines[i] ? cells.origins[i]! : null;
        return memory.prices.price(line, origin, withTotalRate(leaves[i]!.item, totals), minorDigits);
      });
      return { mapped, recipe: cells.recipe, lines: memory.keepLines(key, lines) };
    });
    const completeness = judgeCompleteness(part.table, part.mapping, blocks);
    return { ...part, blocks, completeness, elementAmounts: sumElementAmounts(part.table, blocks) };
  });
  memory.turn();
  return joinPlan(basis.currency, minorDigits, sharePercents(parts, listPercents(sources), basis, minorDigits));
}

/** Per cents of other costs that sources have, by the code of their item. */
const listPercents = (sources: readonly SourceTable[]): MoveState['percents'] =>
  new Map(sources.flatMap((s) => [...(s.own?.percents ?? [])]));

/** A plan with what it was made of, as explaining a move takes it. @param names of its sources */
export const toMoveState = (
  basis: PricingBasis,
  sources: readonly SourceTable[],
  plan: Plan,
  names: MoveState['names']['sources'] = new Map(),
): MoveState => ({
  plan,
  book: withOwnItems(basis, sources),
  names: { sections: basis.sections, classification: basis.classification, sources: names },
  percents: listPercents(sources),
});
