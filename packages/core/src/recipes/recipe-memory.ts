import type { Assembly } from '../book/assembly.ts';
import type { CostItem } from '../book/cost-item.ts';
import type { DecidedPart } from '../elements/decided-parts.ts';
import type { FormulaNames } from '../formulas/formula-types.ts';
import type { PricedWith } from '../mapping/pricing-rule.ts';
import type { SiUnit } from '../units/branded.ts';
import { codeKey } from '../units/code-key.ts';
import { compileRecipe } from './compile-recipe.ts';
import { type Book, type BookContents, buildBook, listQuantityNames, type RecipeStep } from './recipe.ts';

type Used = ReadonlyMap<string, CostItem | Assembly | undefined>;
interface Kept {
  readonly decision: string;
  readonly names: FormulaNames;
  readonly book: Pick<Book, 'names' | 'terms'>;
  /** What was looked up, with what was found. */
  readonly items: Used;
  readonly assemblies: Used;
  readonly recipe: RecipeStep;
}

/** Recipes of earlier runs: one is kept while all it is made of is the very same, as objects. */
export class RecipeMemory {
  private kept = new Map<string, Kept>();
  private next = new Map<string, Kept>();
  private book: { readonly contents: BookContents; readonly text: string; readonly built: Book } | null = null;
  private readonly names = new Map<string, FormulaNames>();

  /** A book ready for use; its terms and its named values and scales are the ones of before while they are the same. */
  open(contents: BookContents): Book {
    const { items: _, assemblies: __, values = [], scales = [], ...terms } = contents;
    const text = JSON.stringify([terms.currency, terms.exchange, terms.factors, values, scales]);
    const before = this.book;
    if (before?.contents.items === contents.items && before.contents.assemblies === contents.assemblies && before.text === text) return before.built; // biome-ignore format: one test
    const fresh = buildBook(contents);
    const built = before?.text === text ? { ...fresh, names: before.built.names, terms: before.built.terms } : fresh;
    this.book = { contents, text, built };
    return built;
  }

  /** Names of quantities; the same while they are called and measured alike. */
  nameQuantities(columns: readonly { readonly name: string; readonly unit: SiUnit }[]): FormulaNames {
    const text = JSON.stringify(columns.map(({ name, unit }) => [name, unit]));
    const names = this.names.get(text) ?? listQuantityNames(columns);
    this.names.set(text, names);
    return names;
  }

  /** The recipe of a decision. @param key tells decisions apart */
  compile(
    key: string,
    decision: PricedWith & { readonly about?: DecidedPart },
    book: Book,
    names: FormulaNames,
  ): RecipeStep {
    const { item, assembly, driver, parameters, about, swaps } = decision;
    const text = JSON.stringify([item, assembly, driver, parameters, about, swaps]);
    const known = this.kept.get(key);
    const isSame =
      known?.decision === text &&
      known.names === names &&
      known.book.names === book.names &&
      known.book.terms === book.terms &&
      isSameUsed(known.items, withSwaps(book.items, swaps)) &&
      isSameUsed(known.assemblies, book.assemblies);
    const kept = isSame ? known : this.make(text, decision, book, names);
    this.next.set(key, kept);
    return kept.recipe;
  }

  private make(
    text: string,
    decision: PricedWith & { readonly about?: DecidedPart },
    book: Book,
    names: FormulaNames,
  ): Kept {
    const items = new Map<string, CostItem | undefined>();
    const assemblies = new Map<string, Assembly | undefined>();
    const recipe = compileRecipe(decision, { ...book, items: noting(withSwaps(book.items, decision.swaps), items), assemblies: noting(book.assemblies, assemblies) }, names); // biome-ignore format: one step
    return { decision: text, names, book: { names: book.names, terms: book.terms }, items, assemblies, recipe };
  }

  /** Forgets recipes that the last run did not use. */
  turn(): void {
    this.kept = this.next;
    this.next = new Map();
  }

  fork(): RecipeMemory {
    const fork = new RecipeMemory();
    fork.kept = new Map(this.kept);
    fork.book = this.book;
    for (const [text, names] of this.names) fork.names.set(text, names);
    return fork;
  }
}

const isSameUsed = (used: Used, now: { get(code: string): CostItem | Assembly | undefined }): boolean => {
  for (const [code, found] of used) if (now.get(code) !== found) return false;
  return true;
};

/** A look-up of items in which some are found in place of others. */
function withSwaps(items: Book['items'], swaps: PricedWith['swaps']): Book['items'] {
  if (!swaps) return items;
  const byKey = new Map(Object.entries(swaps).map(([from, to]) => [codeKey(from), to]));
  return { get: (code) => items.get(byKey.get(codeKey(code)) ?? code) };
}

/** A look-up that notes what it was asked and what it found. */
const noting = <T>(by: { get(code: string): T | undefined }, noted: Map<string, T | undefined>) => ({
  get: (code: string): T | undefined => {
    const found = by.get(code);
    noted.set(code, found);
    return found;
  },
});
