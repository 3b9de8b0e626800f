import type { Assembly, BuildUpLine, PartRun, SharedRun } from '../book/assembly.ts';
import type { CostItem } from '../book/cost-item.ts';
import { compileValues, type NamedValue } from '../book/named-value.ts';
import { compileScales, type Scale } from '../book/scale.ts';
import type { CompiledFormula } from '../formulas/compile-formula.ts';
import { type FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import { QUANTITY_DEFINITIONS } from '../quantities/quantity-names.ts';
import type { Problem } from '../result/result.ts';
import type { SiUnit } from '../units/branded.ts';
import { ByCode, codeKey } from '../units/code-key.ts';
import { siUnitToDimension } from '../units/si-units.ts';
import type { Unit } from '../units/unit.ts';
import { type ItemRate, isRateByElement, type RateTerms } from './item-rate.ts';

/** What a recipe is made of. */
export interface BookContents extends RateTerms {
  readonly items: readonly CostItem[];
  readonly assemblies: readonly Assembly[];
  readonly values?: readonly NamedValue[];
  readonly scales?: readonly Scale[];
}

/** A book ready for use. Items and assemblies by code, as written or else in any case; named values and scales as formulas see them. */
export interface Book {
  readonly terms: RateTerms;
  readonly items: Pick<ByCode<CostItem>, 'get'>;
  readonly assemblies: Pick<ByCode<Assembly>, 'get'>;
  readonly names: FormulaNames;
}

export function buildBook({ items, assemblies, values = [], scales = [], ...terms }: BookContents): Book {
  const looked = compileScales(scales);
  return {
    terms,
    items: new ByCode(items),
    assemblies: new ByCode(assemblies),
    names: new FormulaNames(compileValues(values, looked), looked),
  };
}

/** The book with the draft of an assembly in place of the kept one. */
export function buildBookWith(draft: Assembly, contents: BookContents): Book {
  const others = contents.assemblies.filter((a) => codeKey(a.code) !== codeKey(draft.code));
  return buildBook({ ...contents, assemblies: [...others, draft] });
}

/** The item or assembly that a line is of; undefined if the book has none of that code. */
export function findUsed(
  { item, assembly }: Pick<BuildUpLine, 'item' | 'assembly'>,
  { items, assemblies }: Book,
): CostItem | Assembly | undefined {
  return item === undefined ? assemblies.get(assembly ?? '') : items.get(item);
}

/** What is priced at the end of a path through assemblies: one item with its checked formula. */
export interface RecipeItem {
  readonly kind: 'item';
  readonly item: CostItem;
  readonly unit: Unit;
  readonly quantity: CompiledFormula;
  readonly when: CompiledFormula | null;
  readonly wastePercent: number;
  readonly rate: ItemRate;
  /** Where the rate goes by this line's own quantity in started units: how many of the item's unit one is; else null. */
  readonly started: number | null;
  /** Lengths the item is sold in, in its unit, rising; none if it is sold otherwise. */
  readonly lengths: readonly number[];
  /** Length of one piece; null for a run that is cut anywhere. */
  readonly piece: CompiledFormula | null;
  /** What it runs over, once for each; null for once per element. */
  readonly per: PartRun | null;
  /** Set if it runs once for several elements instead. */
  readonly shared: SharedLine | null;
  /** Codes of the assemblies it comes through, outermost first. */
  readonly path: readonly string[];
  /** Ids of the lines it comes through, its own last; none for an item that a rule or pin prices with. */
  readonly lines: readonly string[];
}

/** How a line runs once for all elements of a room or of the project. */
export interface SharedLine {
  readonly run: SharedRun;
  /** Tells the line from others, wherever its assembly is used. */
  readonly id: string;
  /** Names that its condition and its quantity read and that are summed over the elements. */
  readonly summed: readonly FormulaName[];
  /** Those that are the same for all elements of a run. */
  readonly fixed: readonly FormulaName[];
  /** Lines that run for the same and whose results it reads. */
  readonly uses: readonly SharedUse[];
}

/** A line that another reads by its name. */
export interface SharedUse {
  readonly name: string;
  readonly step: RecipeItem;
}

/** A parameter with its formula: of the assembly itself, or handed to it by the line outside (`isHanded`), in whose names it is. */
export interface RecipeParameter {
  readonly name: string;
  readonly formula: CompiledFormula;
  readonly isHanded: boolean;
}

/** An assembly on the path: its driver, its parameters in the order they can be calculated, its steps. */
export interface RecipeAssembly {
  readonly kind: 'assembly';
  readonly assembly: Assembly;
  readonly driver: CompiledFormula;
  readonly when: CompiledFormula | null;
  /** What it runs over, once for each; null for once per element. */
  readonly per: PartRun | null;
  readonly parameters: readonly RecipeParameter[];
  readonly steps: readonly RecipeStep[];
  /** Steps whose results others use, in the order they can be calculated. */
  readonly named: readonly { readonly name: string; readonly step: RecipeStep }[];
}

/** A step that cannot be calculated, with the reason; it stays in the plan as unknown. */
export interface BrokenStep {
  readonly kind: 'broken';
  readonly code: string;
  readonly path: readonly string[];
  readonly lines: readonly string[];
  readonly problem: Problem;
}

export type RecipeStep = RecipeItem | RecipeAssembly | BrokenStep;

/** Names every formula may use: the standard quantities, those that a model states under names of its own. */
export function listQuantityNames(extra: Iterable<{ name: string; unit: SiUnit }> = []): FormulaNames {
  const toName = ({ name, unit }: { name: string; unit: SiUnit }): FormulaName => ({
    name,
    dimension: siUnitToDimension(unit),
    source: 'quantity',
  });
  return new FormulaNames([...extra, ...QUANTITY_DEFINITIONS].map(toName));
}

/** Everything that decides what a formula gives beside the element: its text, the named values and the scales it uses. */
export function formulaSignature({ text, slots, lookups }: CompiledFormula): string {
  const values = slots.flatMap((s) => (s.value === undefined ? [] : [`${s.name}=${s.value}`]));
  return [text, ...values, ...lookups.map((l) => l.scale.signature)].join('~');
}

/**
 * Everything that decides the net quantities of a recipe, and the rates that each element has of its own, as text: two recipes with
 * the same signature measure the same.
 */
export function recipeSignature(step: RecipeStep): string {
  if (step.kind === 'broken') return `!${step.code}:${step.problem.message}`;
  const when = step.when ? `?${formulaSignature(step.when)}` : '';
  if (step.kind === 'item') {
    const cut = `${step.lengths.join('/')}${step.piece ? formulaSignature(step.piece) : ''}`;
    const sign = step.item.isDeduction ? '-' : '';
    const rate = isRateByElement(step.rate) ? `@${sign}${formulaSignature(step.rate.formula!)}` : '';
    return `${step.path.join('>')}:${step.item.code}[${step.unit.symbol}${step.per ?? step.shared?.run ?? ''}${cut}]=${formulaSignature(step.quantity)}${when}${rate}`;
  }
  const parameters = step.parameters
    .map((p) => `${p.name}${p.isHanded ? '<' : '='}${formulaSignature(p.formula)}`)
    .join(';');
  // Lines are known to each other by their names: which of them has which is part of what they give.
  const named = step.assembly.lines.map((l) => l.name ?? '').join();
  return `${step.assembly.code}[${step.assembly.unit}${step.per ?? ''}](${formulaSignature(step.driver)}${when};${parameters};${named}){${step.steps.map(recipeSignature).join('|')}}`;
}

/** A line at the end of a path through assemblies: an item, or one that cannot be calculated. */
export interface RecipeLeaf {
  readonly item: RecipeItem | null;
  readonly code: string;
  readonly path: readonly string[];
  readonly lines: readonly string[];
  readonly problem: Problem | null;
}

const leavesOf = new WeakMap<RecipeStep, readonly RecipeLeaf[]>();

/** The leaf lines of a recipe, in reading order. */
export function listRecipeLeaves(step: RecipeStep): readonly RecipeLeaf[] {
  let leaves = leavesOf.get(step);
  if (!leaves) {
    leaves = findLeaves(step);
    leavesOf.set(step, leaves);
  }
  return leaves;
}

function findLeaves(step: RecipeStep): readonly RecipeLeaf[] {
  if (step.kind === 'assembly') return step.steps.flatMap(listRecipeLeaves);
  const { path, lines } = step;
  if (step.kind === 'item') return [{ item: step, code: step.item.code, path, lines, problem: null }];
  return [{ item: null, code: step.code, path, lines, problem: step.problem }];
}
