import { type BuildUpLine, isSharedRun, type LineRun, type PartRun } from '../book/assembly.ts';
import { compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaNames } from '../formulas/formula-types.ts';
import type { PricedWith } from '../mapping/pricing-rule.ts';
import { type Problem, success } from '../result/result.ts';
import { parseUnit } from '../units/unit.ts';
import { compileParameters } from './compile-parameters.ts';
import { compileRate, nameItem } from './item-rate.ts';
import { checkRun, compileWhen, type ItemLine, nameRun, onlyOuter, writeQuantity } from './line-formulas.ts';
import { nameResults, orderNamed } from './line-results.ts';
import { type Book, type BrokenStep, formulaSignature, type RecipeStep } from './recipe.ts';
import { prepareShared } from './shared-lines.ts';

/** Checks and prepares what a rule or pin prices with. A fault anywhere leaves the rest usable. */
export function compileRecipe(withWhat: PricedWith, book: Book, quantities: FormulaNames): RecipeStep {
  // A quantity of the model hides a named value of the same name.
  const names = book.names.with(quantities.list());
  const driver = withWhat.driver ?? '';
  if (withWhat.item !== undefined) return compileItem({ item: withWhat.item, quantity: driver }, book, names, []);
  if (withWhat.assembly !== undefined)
    return compileAssembly({ code: withWhat.assembly, driver, per: null }, withWhat.parameters ?? {}, book, names, []);
  return broken('', [], {
    code: 'rule-without-price',
    message: 'Nothing says what this is priced with.',
    remedy: 'Choose an item or an assembly, or leave it out with a reason.',
  });
}

function broken(code: string, path: readonly string[], problem: Problem): BrokenStep {
  return { kind: 'broken', code, path, problem };
}

function compileItem(
  line: ItemLine & { readonly item: string },
  book: Book,
  names: FormulaNames,
  path: readonly string[],
  place = 0,
): RecipeStep {
  const item = book.items.get(line.item.toLowerCase());
  if (!item)
    return broken(line.item, path, {
      code: 'item-unknown',
      message: `There is no cost item ${line.item} in the book.`,
      remedy: 'Add it, or choose another.',
    });
  const unit = parseUnit(item.unit);
  if (!unit.ok) return broken(item.code, path, unit.problem);
  const misfit = checkRun(line);
  if (misfit) return broken(item.code, path, misfit);
  const own = nameItem(item, nameRun(line.per, names));
  const text = writeQuantity(line, own, unit.value);
  if (!text.ok) return broken(item.code, path, text.problem);
  const quantity = compileFormula(text.value, own, unit.value);
  if (!quantity.ok) return broken(item.code, path, quantity.problem);
  const when = compileWhen(line.when, own);
  if (!when.ok) return broken(item.code, path, when.problem);
  const lengths = [...(item.soldAs?.lengths ?? [])].sort((a, b) => a - b);
  const piece = line.piece && lengths.length > 0 ? compileFormula(line.piece, own, unit.value) : success(null);
  if (!piece.ok) return broken(item.code, path, piece.problem);
  const lineId = [path.at(-1), place, item.code, formulaSignature(quantity.value)].join('|');
  const shared = prepareShared(line.per, lineId, quantity.value, when.value);
  if (!shared.ok) return broken(item.code, path, shared.problem);
  return {
    kind: 'item',
    item,
    unit: unit.value,
    quantity: quantity.value,
    when: when.value,
    wastePercent: line.wastePercent ?? item.wastePercent ?? 0,
    rate: compileRate(item, unit.value, onlyOuter(names), book.terms),
    lengths,
    piece: piece.value,
    per: toPartRun(line.per),
    shared: shared.value,
    path,
  };
}

const toPartRun = (run: LineRun | undefined): PartRun | null => (run === undefined || isSharedRun(run) ? null : run);

/** How an assembly is used: by a rule or pin, or by a line of another. */
interface AssemblyUse {
  readonly code: string;
  readonly driver: string;
  readonly when?: string;
  readonly per: PartRun | null;
}

function compileAssembly(
  { code, driver: driverText, when: whenText, per }: AssemblyUse,
  overrides: Readonly<Record<string, string>>,
  book: Book,
  outer: FormulaNames,
  path: readonly string[],
): RecipeStep {
  const assembly = book.assemblies.get(code.toLowerCase());
  if (!assembly)
    return broken(code, path, {
      code: 'assembly-unknown',
      message: `There is no assembly ${code} in the book.`,
      remedy: 'Add it, or choose another.',
    });
  const inner = [...path, assembly.code];
  if (path.includes(assembly.code)) {
    return broken(code, path, {
      code: 'assembly-cycle',
      message: `Assemblies go in a circle: ${inner.join(' > ')}.`,
      remedy: 'Take one of them out of the other.',
    });
  }
  const unit = parseUnit(assembly.unit);
  if (!unit.ok) return broken(code, path, unit.problem);
  const around = nameRun(per ?? undefined, outer);
  const driver = compileFormula(driverText, around, unit.value);
  if (!driver.ok) return broken(code, path, driver.problem);
  const when = compileWhen(whenText, around);
  if (!when.ok) return broken(code, path, when.problem);
  const base = onlyOuter(outer).with([{ name: 'Driver', dimension: unit.value.dimension, source: 'driver' }]);
  const parameters = compileParameters(assembly, overrides, base);
  if (!parameters.ok) return broken(code, path, parameters.problem);
  const names = base.with(parameters.value.map((p) => p.asName)).with(nameResults(assembly, book));
  const steps = assembly.lines.map((line, place): RecipeStep => compileLine(line, place, book, names, inner));
  const order = orderNamed(assembly, steps);
  if (!order.ok) return broken(code, path, order.problem);
  const named = order.value.map((i) => ({ name: assembly.lines[i]!.name!, step: steps[i]! }));
  return {
    kind: 'assembly',
    assembly,
    driver: driver.value,
    when: when.value,
    per,
    parameters: parameters.value,
    steps,
    named,
  };
}

function compileLine(
  line: BuildUpLine,
  place: number,
  book: Book,
  names: FormulaNames,
  path: readonly string[],
): RecipeStep {
  if (line.assembly === undefined) return compileItem({ ...line, item: line.item ?? '' }, book, names, path, place);
  const misfit = checkRun(line);
  if (misfit) return broken(line.assembly, path, misfit);
  const nested = book.assemblies.get(line.assembly.toLowerCase());
  const unit = parseUnit(nested?.unit ?? 'each');
  const text = unit.ok ? writeQuantity(line, nameRun(line.per, names), unit.value) : unit;
  if (!text.ok) return broken(line.assembly, path, text.problem);
  const per = toPartRun(line.per);
  const step = compileAssembly(
    { code: line.assembly, driver: text.value, when: line.when, per },
    {},
    book,
    names,
    path,
  );
  return per && runsShared(step)
    ? broken(line.assembly, path, {
        code: 'line-run',
        message: `Lines of ${line.assembly} run once for several elements; it cannot run once per ${per}.`,
        remedy: 'Let it run once per element, or the lines inside it.',
      })
    : step;
}

/** Whether anything in a step runs once for a room or the project. */
function runsShared(step: RecipeStep): boolean {
  if (step.kind === 'assembly') return step.steps.some(runsShared);
  return step.kind === 'item' && step.shared !== null;
}
