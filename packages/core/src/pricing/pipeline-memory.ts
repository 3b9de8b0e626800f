import type { ElementTable } from '../elements/element-table.ts';
import { type EvaluatedLine, evaluateRecipe } from './evaluate-recipe.ts';
import { factorOf } from './item-rate.ts';
import { type PricedLine, priceLine } from './price-lines.ts';
import { type RecipeItem, type RecipeStep, recipeSignature } from './recipe.ts';

/**
 * What earlier runs worked out: net quantities by rule, kept while the table, the rule's elements and its formulas stay
 * the same, and amounts while the price is the same too.
 */
export class PipelineMemory {
  private kept = new Map<string, Evaluated>();
  private next = new Map<string, Evaluated>();
  private readonly priced = new WeakMap<EvaluatedLine, { readonly line: PricedLine; readonly minorDigits: number }>();
  /** Element x line combinations evaluated and priced so far, to judge how much a change recomputes. */
  evaluatedCells = 0;
  pricedCells = 0;

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

  /** The kept amounts of a line if neither its quantities nor its rate and waste have changed, else fresh ones. */
  price(line: EvaluatedLine, item: RecipeItem | null, minorDigits: number): PricedLine {
    const known = this.priced.get(line);
    if (known && known.minorDigits === minorDigits && isSamePrice(known.line.item, item))
      return item === known.line.item ? known.line : { ...known.line, item };
    const priced = priceLine({ ...line, item }, minorDigits);
    this.priced.set(line, { line: priced, minorDigits });
    this.pricedCells += line.net.length;
    return priced;
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

function isSamePrice(a: RecipeItem | null, b: RecipeItem | null): boolean {
  if (a === null || b === null) return a === b;
  return (
    a.rate.value === b.rate.value &&
    a.wastePercent === b.wastePercent &&
    factorOf(a.rate) === factorOf(b.rate) &&
    a.rate.problem?.message === b.rate.problem?.message
  );
}

const isSameRows = (a: Int32Array, b: Int32Array) => a.length === b.length && a.every((row, i) => row === b[i]);
