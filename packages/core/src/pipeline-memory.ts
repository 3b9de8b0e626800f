import { type EvaluatedBlock, evaluateLines, isSamePlaces } from './cells/evaluate-lines.ts';
import { TableChange } from './cells/table-change.ts';
import type { ElementTable } from './elements/element-table.ts';
import { type MappedRows, MappingMemory } from './mapping/map-elements.ts';
import type { PricedLine } from './pricing/price-lines.ts';
import { PriceMemory } from './pricing/price-memory.ts';
import type { RecipeStep } from './recipes/recipe.ts';
import { RecipeMemory } from './recipes/recipe-memory.ts';

/**
 * What earlier runs worked out, stage by stage. A run takes over what nothing of its own has changed: recipes by what they are made of,
 * cells by the fields that their lines read, amounts by their rates. Forgetting it changes nothing but the time.
 */
export class PipelineMemory {
  private blocks = new Map<string, EvaluatedBlock>();
  private next = new Map<string, EvaluatedBlock>();
  private readonly changes = new WeakMap<
    ElementTable,
    { readonly before: ElementTable; readonly change: TableChange | null }
  >();
  private linesOf = new Map<string, readonly PricedLine[]>();
  private readonly mappings = new Map<string, MappingMemory>();
  recipes = new RecipeMemory();
  prices = new PriceMemory();
  /** Cells (element x line) that were worked out so far, to judge how much a change recomputes. */
  evaluatedCells = 0;

  /** @param onStep called before each block is worked out and priced; what it throws ends the run, and changes nothing that is kept elsewhere */
  constructor(private readonly onStep: () => void = () => undefined) {}

  /** Cells that were priced so far. */
  get pricedCells(): number {
    return this.prices.pricedCells;
  }

  mappingOf(sourceId: string): MappingMemory {
    const known = this.mappings.get(sourceId) ?? new MappingMemory();
    this.mappings.set(sourceId, known);
    return known;
  }

  /** The cells of a block; those are taken over that are the same. */
  evaluate(key: string, recipe: RecipeStep, table: ElementTable, mapped: MappedRows): EvaluatedBlock {
    this.onStep();
    const before = this.blocks.get(key) ?? null;
    const { rows, about, parts } = mapped;
    const of = about && parts && { about, parts };
    const isSame = before?.recipe === recipe && before.table === table && isSamePlaces(before, { rows, of });
    const change = before && before.table !== table ? this.changeOf(before.table, table) : null;
    const block = isSame ? before : evaluateLines(recipe, table, rows, before, change, of);
    if (!isSame) this.evaluatedCells += block.fresh;
    this.next.set(key, block);
    return block;
  }

  /** The priced lines of a block: the very list of before if all of it is the same. */
  keepLines(key: string, lines: readonly PricedLine[]): readonly PricedLine[] {
    this.onStep();
    const known = this.linesOf.get(key);
    if (known?.length === lines.length && lines.every((line, i) => line === known[i])) return known;
    this.linesOf.set(key, lines);
    return lines;
  }

  /** Forgets what the last run did not use. */
  turn(): void {
    this.blocks = this.next;
    this.next = new Map();
    for (const key of this.linesOf.keys()) if (!this.blocks.has(key)) this.linesOf.delete(key);
    this.recipes.turn();
  }

  /** A memory that begins with this one's, and leaves it as it is: for trying something out, which `onStep` may end by throwing. */
  fork(onStep?: () => void): PipelineMemory {
    const fork = new PipelineMemory(onStep);
    fork.blocks = new Map(this.blocks);
    fork.linesOf = new Map(this.linesOf);
    fork.recipes = this.recipes.fork();
    fork.prices = this.prices;
    return fork;
  }

  private changeOf(before: ElementTable, after: ElementTable): TableChange | null {
    const known = this.changes.get(after);
    if (known?.before === before) return known.change;
    const change = TableChange.between(before, after);
    this.changes.set(after, { before, change });
    return change;
  }
}
