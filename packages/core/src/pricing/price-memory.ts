import type { EvaluatedLine } from '../cells/cell-line.ts';
import type { LineOrigin } from '../cells/evaluate-lines.ts';
import { factorOf } from '../recipes/item-rate.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import { type PricedLine, priceLine } from './price-lines.ts';

/** Amounts of earlier runs, kept with the lines they are of. */
export class PriceMemory {
  private readonly known = new WeakMap<EvaluatedLine, { readonly line: PricedLine; readonly minorDigits: number }>();
  /** Cells that were priced; the amounts of the others were taken over. */
  pricedCells = 0;

  /**
   * A line with its money: the kept one where its quantities, rate and waste are the same; where only some of its cells are others,
   * those are priced.
   * @param item the item as the recipe has it now
   */
  price(line: EvaluatedLine, origin: LineOrigin | null, item: RecipeItem | null, minorDigits: number): PricedLine {
    const known = this.known.get(line);
    if (known && known.minorDigits === minorDigits && isSamePrice(known.line.item, item)) {
      if (isSameItem(known.line.item, item)) return known.line;
      const renamed = { ...known.line, item };
      this.known.set(line, { line: renamed, minorDigits });
      return renamed;
    }
    const before = origin && this.known.get(origin.from);
    const usable =
      before && before.minorDigits === minorDigits && isSamePrice(before.line.item, item) ? before.line : null;
    const priced = priceLine({ ...line, item }, minorDigits, usable && { ...origin!, line: usable });
    this.pricedCells += usable ? countFresh(origin!) : line.net.length;
    this.known.set(line, { line: priced, minorDigits });
    return priced;
  }
}

const countFresh = ({ isFresh }: LineOrigin): number => isFresh?.reduce((sum, n) => sum + n, 0) ?? 0;

/** True if two items of one price tell the same of themselves and of how their rate came about. */
function isSameItem(a: RecipeItem | null, b: RecipeItem | null): boolean {
  const tell = ({ rate: { steps, exchange, shares, total } }: RecipeItem) =>
    JSON.stringify([steps, exchange, shares, total]);
  return a === b || (a?.item === b?.item && tell(a!) === tell(b!));
}

function isSamePrice(a: RecipeItem | null, b: RecipeItem | null): boolean {
  if (a === b) return true;
  if (a === null || b === null) return false;
  return (
    a.rate.value === b.rate.value &&
    a.wastePercent === b.wastePercent &&
    a.started === b.started &&
    factorOf(a.rate) === factorOf(b.rate) &&
    a.rate.problem?.message === b.rate.problem?.message
  );
}
