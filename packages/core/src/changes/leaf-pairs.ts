import { type EvaluatedLine, LineState } from '../cells/cell-line.ts';
import type { PricedLine } from '../pricing/price-lines.ts';
import { isRateByElement } from '../recipes/item-rate.ts';
import { listLineTraits } from '../recipes/line-traits.ts';
import { formulaSignature, type RecipeItem, type RecipeStep } from '../recipes/recipe.ts';
import type { PlacedBlock } from './pair-units.ts';

/** A line of the recipe of before and the one of now that is the same line, by their places in their blocks; -1 where there is none. */
export interface LeafPair {
  readonly old: number;
  readonly now: number;
}

/** Pairs the lines of two recipes by what they come through: ids of lines, codes of assemblies, their item. */
export function pairLeaves(old: PlacedBlock | null, now: PlacedBlock | null): LeafPair[] {
  const nameAll = (placed: PlacedBlock | null) => {
    const names = new Map<string, number>();
    for (const [i, { lines, path, code }] of (placed?.block.lines ?? []).entries()) {
      const name = JSON.stringify([lines, path, code]);
      let id = name;
      for (let n = 2; names.has(id); n++) id = `${name}#${n}`;
      names.set(id, i);
    }
    return names;
  };
  const [before, after] = [nameAll(old), nameAll(now)];
  return [
    ...[...before].map(([name, i]) => ({ old: i, now: after.get(name) ?? -1 })),
    ...[...after].flatMap(([name, i]) => (before.has(name) ? [] : [{ old: -1, now: i }])),
  ];
}

/** Whether two lines measure the same on the same element. */
export const isSameRecipe = (old: PlacedBlock, now: PlacedBlock, { old: a, now: b }: LeafPair): boolean =>
  listLineTraits(old.block.recipe)[a]!.signature === listLineTraits(now.block.recipe)[b]!.signature;

/** What decides the rate of an item before any factor, as text: two of the same text give the same rate on the same element. */
export function rateSignature(item: RecipeItem | null): string {
  if (!item) return '';
  const { value, formula } = item.rate;
  return `${formula && !formula.isConstant ? formulaSignature(formula) : value}|${item.started ?? ''}`;
}

/** A recipe whose leaf lines have the rates of others. @param rateOf by place; null to leave it as it is */
export function withRates(recipe: RecipeStep, rateOf: (leaf: number) => RecipeItem | null): RecipeStep {
  let leaf = 0;
  const change = (step: RecipeStep): RecipeStep => {
    if (step.kind === 'assembly') return { ...step, steps: step.steps.map(change) };
    const other = rateOf(leaf++);
    return step.kind === 'item' && other ? { ...step, rate: other.rate } : step;
  };
  return change(recipe);
}

/** Rate of an element, or of all, before factors; null where it is not known. */
export function readBaseRate(item: RecipeItem, line: EvaluatedLine, at: number): number | null {
  if (!isRateByElement(item.rate)) return item.rate.value;
  const rate = line.rates?.[at] ?? Number.NaN;
  return Number.isNaN(rate) ? null : rate;
}

/** Net quantity at a position; null where there is none, or it is not known. */
export const readNet = (line: EvaluatedLine, at: number): number | null =>
  at < 0 || line.state[at] === LineState.skipped || Number.isNaN(line.net[at]!) ? null : line.net[at]!;

/** Amount at a position, as the plan has it; 0 where there is no line or it is not known. */
export const readAmount = (line: PricedLine | null, at: number): number => (line && at >= 0 ? line.amounts[at]! : 0);
