import type { Assembly, BuildUpLine } from '../book/assembly.ts';
import { compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import { type Problem, success } from '../result/result.ts';
import { parseUnit } from '../units/unit.ts';
import { compileRecipe } from './compile-recipe.ts';
import { listRecipeLeaves } from './evaluate-recipe.ts';
import { nameItem } from './item-rate.ts';
import { checkRun, compileWhen, nameRun, onlyOuter, writeQuantity } from './line-formulas.ts';
import { nameResults } from './line-results.ts';
import { type BookContents, buildBookWith } from './recipe.ts';
import { prepareShared } from './shared-lines.ts';

/** What is wrong with one line while it is typed, and what its consumption means. */
export interface LineCheck {
  /** Of what it runs over. */
  readonly run: Problem | null;
  readonly quantity: Problem | null;
  readonly when: Problem | null;
  readonly piece: Problem | null;
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
const OF_THE_WHOLE: readonly string[] = ['formula-cycle', 'assembly-cycle', 'line-name-twice'];

/** Checks an assembly line by line, so that each fault is shown where it stands. */
export function checkAssembly(assembly: Assembly, contents: BookContents, quantities: FormulaNames): AssemblyCheck {
  const book = buildBookWith(assembly, contents);
  const unit = parseUnit(assembly.unit);
  const dimensionOf = (text: string) => {
    const read = parseUnit(text);
    return read.ok ? read.value.dimension : {};
  };
  const outer = onlyOuter(book.names.with(quantities.list())).with([
    { name: 'Driver', dimension: unit.ok ? unit.value.dimension : {}, source: 'driver' },
  ]);
  const named = (assembly.parameters ?? []).map(
    (p): FormulaName => ({ name: p.name, dimension: dimensionOf(p.unit), source: 'parameter' }),
  );
  const inside = outer.with(named);
  const formulas = (assembly.parameters ?? []).map((p) => {
    const needed = parseUnit(p.unit);
    return needed.ok ? compileFormula(p.value, inside, needed.value) : needed;
  });
  const parameters = formulas.map((f, i): Problem | null => {
    if (!f.ok) return f.problem;
    const { choices = [], unit: text } = assembly.parameters![i]!;
    const needed = parseUnit(text);
    const checked = choices.map((c) => (needed.ok ? compileFormula(c, inside, needed.value) : needed));
    const fault = checked.findIndex((c) => !c.ok);
    if (fault < 0) return null;
    const { problem } = checked[fault] as { problem: Problem };
    return { ...problem, message: `"${choices[fault]}" cannot be chosen: ${problem.message}`, span: undefined };
  });
  const base = outer.with(named.map((n, i) => ({ ...n, isConstant: formulas[i]!.ok && formulas[i].value.isConstant })));
  const names = base.with(nameResults(assembly, book));
  const unitOf = ({ item, assembly: nested }: BuildUpLine): string | null =>
    (item === undefined ? book.assemblies.get(nested?.toLowerCase() ?? '') : book.items.get(item.toLowerCase()))
      ?.unit ?? null;
  const lines = assembly.lines.map((line): LineCheck => {
    const item = line.item === undefined ? undefined : book.items.get(line.item.toLowerCase());
    const run = nameRun(line.per, names);
    const own = item ? nameItem(item, run) : run;
    const gives = unitOf(line);
    const when = compileWhen(line.when, own);
    const needed = parseUnit(gives ?? 'number');
    const piece = line.piece && needed.ok ? compileFormula(line.piece, own, needed.value) : success(null);
    const missing: Problem = {
      code: 'item-unknown',
      message: `There is no ${line.item ?? line.assembly ?? 'item'} in the book.`,
      remedy: 'Choose another.',
    };
    const text = needed.ok ? writeQuantity(line, own, needed.value) : needed;
    const formula = text.ok && needed.ok ? compileFormula(text.value, own, needed.value) : null;
    const shared = formula?.ok ? prepareShared(line.per, '', formula.value, when.ok ? when.value : null) : formula;
    const fault = text.ok ? (shared && !shared.ok ? shared.problem : null) : text.problem;
    return {
      run: checkRun(line),
      quantity: gives === null ? missing : fault,
      when: when.ok ? null : when.problem,
      piece: piece.ok ? null : piece.problem,
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
