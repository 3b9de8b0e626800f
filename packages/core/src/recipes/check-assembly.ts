import type { Assembly, AssemblyParameter, BuildUpLine } from '../book/assembly.ts';
import { type CompiledFormula, compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaNames } from '../formulas/formula-types.ts';
import { type Problem, type Result, success } from '../result/result.ts';
import { parseUnit, type Unit } from '../units/unit.ts';
import { compileSetting, matchOverrides, nameParameters } from './compile-parameters.ts';
import { compileRecipe } from './compile-recipe.ts';
import { nameItem } from './item-rate.ts';
import { checkRun, compileWhen, nameRun, onlyOuter, writeQuantity } from './line-formulas.ts';
import { nameResults } from './line-results.ts';
import { type Book, type BookContents, buildBookWith, findUsed, listRecipeLeaves } from './recipe.ts';
import { prepareShared } from './shared-line.ts';

/** What is wrong with one line while it is typed, and what its consumption means. */
export interface LineCheck {
  /** Of what it runs over. */
  readonly run: Problem | null;
  readonly quantity: Problem | null;
  readonly when: Problem | null;
  readonly piece: Problem | null;
  /** Of what it hands to its assembly, by the names that are written. */
  readonly parameters: Readonly<Record<string, Problem>>;
  /** The formula behind a consumption; null for a plain formula. */
  readonly meaning: string | null;
  /** Unit the line must give; null while its item is not known. */
  readonly unit: string | null;
  /** Names the line may use. */
  readonly names: FormulaNames;
}

export interface AssemblyCheck {
  /** Of the whole: lines, parameters or assemblies that need each other. */
  readonly problem: Problem | null;
  readonly parameters: readonly (Problem | null)[];
  readonly lines: readonly LineCheck[];
  /** Names its parameters may use. */
  readonly names: FormulaNames;
}

/** Problems that no single line has for itself. */
const OF_THE_WHOLE: readonly string[] = ['formula-cycle', 'assembly-cycle', 'line-name-twice', 'parameter-choice'];

/** What is wrong with a parameter: its value, or one that can be chosen; and whether it is the same for all elements. */
function checkParameter(
  { name, unit, value, choices = [] }: AssemblyParameter,
  names: FormulaNames,
): { readonly name: string; readonly problem: Problem | null; readonly isConstant: boolean } {
  const formula = compileSetting(value, names, unit);
  if (!formula.ok) return { name, problem: formula.problem, isConstant: false };
  for (const choice of choices) {
    const chosen = compileSetting(choice, names, unit);
    if (chosen.ok) continue;
    const message = `"${choice}" cannot be chosen: ${chosen.problem.message}`;
    return { name, problem: { ...chosen.problem, message, span: undefined }, isConstant: formula.value.isConstant };
  }
  return { name, problem: null, isConstant: formula.value.isConstant };
}

/** What is wrong with how much a line takes: the text, its unit, or what it may read where it runs once for several elements. */
function findFault(
  { per }: BuildUpLine,
  text: Result<string>,
  when: Result<CompiledFormula | null>,
  names: FormulaNames,
  needed: Result<Unit>,
): Problem | null {
  if (!text.ok) return text.problem;
  const formula = needed.ok ? compileFormula(text.value, names, needed.value) : needed;
  if (!formula.ok) return formula.problem;
  const shared = prepareShared(per, '', formula.value, when.ok ? when.value : null);
  return shared.ok ? null : shared.problem;
}

/** What is wrong with the parameters that a line hands to its assembly, by the names that are written. */
function checkHanded(
  { assembly, parameters = {} }: BuildUpLine,
  book: Book,
  names: FormulaNames,
): Record<string, Problem> {
  const nested = assembly === undefined ? undefined : book.assemblies.get(assembly);
  if (!nested) return {};
  const faults: Record<string, Problem> = {};
  for (const [name, text] of Object.entries(parameters)) {
    const own = matchOverrides(nested, { [name]: text });
    const [as] = own.ok ? [...own.value.keys()] : [];
    const unit = nested.parameters?.find((p) => p.name === as)?.unit ?? 'number';
    const made = own.ok ? compileSetting(text, names, unit) : own;
    if (!made.ok) faults[name] = made.problem;
  }
  return faults;
}

/** Checks an assembly line by line, so that each fault is shown where it stands. */
export function checkAssembly(assembly: Assembly, contents: BookContents, quantities: FormulaNames): AssemblyCheck {
  const book = buildBookWith(assembly, contents);
  const unit = parseUnit(assembly.unit);
  const inside = nameParameters(assembly, onlyOuter(book.names.with(quantities.list())));
  const checked = (assembly.parameters ?? []).map((p) => checkParameter(p, inside));
  const parameters = checked.map((c) => c.problem);
  const base = inside.with(checked.flatMap(({ name, isConstant }) => ({ ...inside.find(name)!, isConstant })));
  const names = base.with(nameResults(assembly, book));
  const lines = assembly.lines.map((line): LineCheck => {
    const item = line.item === undefined ? undefined : book.items.get(line.item);
    const run = nameRun(line.per, names);
    const own = item ? nameItem(item, run) : run;
    const gives = findUsed(line, book)?.unit ?? null;
    const when = compileWhen(line.when, own);
    const needed = parseUnit(gives ?? 'number');
    const piece = line.piece && needed.ok ? compileFormula(line.piece, own, needed.value) : success(null);
    const missing: Problem = {
      code: 'item-unknown',
      message: `There is no ${line.item ?? line.assembly ?? 'item'} in the book.`,
      remedy: 'Choose another.',
    };
    const text = needed.ok ? writeQuantity(line, own, needed.value) : needed;
    return {
      run: checkRun(line),
      quantity: gives === null ? missing : findFault(line, text, when, own, needed),
      when: when.ok ? null : when.problem,
      piece: piece.ok ? null : piece.problem,
      parameters: checkHanded(line, book, own),
      meaning: line.consumption !== undefined && text.ok ? text.value : null,
      unit: gives,
      names: own,
    };
  });
  // A figure for the driver that always fits, to see the whole put together.
  const recipe = compileRecipe(
    { assembly: assembly.code, driver: unit.ok ? `1 ${assembly.unit}` : '1' },
    book,
    quantities,
  );
  const whole = listRecipeLeaves(recipe).map((leaf) => leaf.problem);
  // What stands at a line already is not said of the whole.
  const codes = lines.some((l) => l.run) ? OF_THE_WHOLE : [...OF_THE_WHOLE, 'line-run'];
  const problem = whole.find((p) => p !== null && codes.includes(p.code));
  return { problem: unit.ok ? (problem ?? null) : unit.problem, parameters, lines, names: base };
}
