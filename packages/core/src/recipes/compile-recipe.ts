import { type BuildUpLine, isSharedRun, type LineRun, listLineIds, type PartRun } from '../book/assembly.ts';
import type { CostItem } from '../book/cost-item.ts';
import type { DecidedPart } from '../elements/decided-parts.ts';
import { compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaNames } from '../formulas/formula-types.ts';
import type { PricedWith } from '../mapping/pricing-rule.ts';
import { type Problem, success } from '../result/result.ts';
import { parseUnit, type Unit } from '../units/unit.ts';
import { compileParameters, type ParameterSetting } from './compile-parameters.ts';
import { compileRate, type ItemRate, nameItem } from './item-rate.ts';
import { checkRun, compileWhen, type ItemLine, nameRun, writeQuantity } from './line-formulas.ts';
import { linkShared, nameResults, orderNamed } from './line-results.ts';
import { PART_NAMES } from './part-names.ts';
import { type Book, type BrokenStep, formulaSignature, type RecipeStep } from './recipe.ts';
import { prepareShared } from './shared-line.ts';

/** Lines that one rule or pin may come to through all its assemblies. */
export const MOST_LINES = 2000;

/** A book while a recipe is made of it, with the lines that may still come. */
interface Building extends Book {
  readonly budget: { left: number };
  /** Names of the element and the book, which all formulas may use. */
  readonly outer: FormulaNames;
}

/**
 * Checks and prepares what a rule or pin prices with. A fault anywhere leaves the rest usable; one that comes to more than `MOST_LINES`
 * lines is refused whole (`assembly-too-long`). One about layers, face styles or finishes may use the figures of these.
 */
export function compileRecipe(
  withWhat: PricedWith & { readonly about?: DecidedPart },
  ofBook: Book,
  quantities: FormulaNames,
): RecipeStep {
  // A quantity of the model hides a named value of the same name.
  const own = ofBook.names.with(quantities.list());
  const names = withWhat.about ? own.with(PART_NAMES[withWhat.about]) : own;
  const book: Building = { ...ofBook, budget: { left: MOST_LINES }, outer: names };
  const driver = withWhat.driver ?? '';
  if (withWhat.item !== undefined)
    return compileItem({ item: withWhat.item, quantity: driver }, book, names, OUTERMOST);
  if (withWhat.assembly !== undefined) {
    const code = withWhat.assembly;
    const setting = { texts: withWhat.parameters ?? {}, names: null };
    const step = compileAssembly({ code, driver, per: null }, setting, book, names, OUTERMOST);
    return book.budget.left >= 0 ? step : broken(code, OUTERMOST, tooLong(code));
  }
  return broken('', OUTERMOST, {
    code: 'rule-without-price',
    message: 'Nothing says what this is priced with.',
    remedy: 'Choose an item or an assembly, or leave it out with a reason.',
  });
}

const tooLong = (code: string): Problem => ({
  code: 'assembly-too-long',
  message: `${code} comes to more than ${MOST_LINES} lines with the assemblies inside it.`,
  remedy: 'Nest fewer assemblies in one another.',
});

/** Where a step stands: codes of the assemblies and ids of the lines it comes through. */
interface StepPlace {
  readonly path: readonly string[];
  readonly lines: readonly string[];
}
const OUTERMOST: StepPlace = { path: [], lines: [] };

function broken(code: string, { path, lines }: StepPlace, problem: Problem): BrokenStep {
  return { kind: 'broken', code, path, lines, problem };
}

function compileItem(
  line: ItemLine & { readonly item: string },
  book: Building,
  names: FormulaNames,
  at: StepPlace,
): RecipeStep {
  const { path, lines } = at;
  if (--book.budget.left < 0) return broken(line.item, at, tooLong(line.item));
  const item = book.items.get(line.item);
  if (!item)
    return broken(line.item, at, {
      code: 'item-unknown',
      message: `There is no cost item ${line.item} in the book.`,
      remedy: 'Add it, or choose another.',
    });
  const unit = parseUnit(item.unit);
  if (!unit.ok) return broken(item.code, at, unit.problem);
  const misfit = checkRun(line);
  if (misfit) return broken(item.code, at, misfit);
  const own = nameItem(item, nameRun(line.per, names));
  const text = writeQuantity(line, own, unit.value);
  if (!text.ok) return broken(item.code, at, text.problem);
  const quantity = compileFormula(text.value, own, unit.value);
  if (!quantity.ok) return broken(item.code, at, quantity.problem);
  const when = compileWhen(line.when, own);
  if (!when.ok) return broken(item.code, at, when.problem);
  const lengths = [...(item.soldAs?.lengths ?? [])].sort((a, b) => a - b);
  const piece = line.piece && lengths.length > 0 ? compileFormula(line.piece, own, unit.value) : success(null);
  if (!piece.ok) return broken(item.code, at, piece.problem);
  const lineId = [path.at(-1), lines.at(-1), item.code, formulaSignature(quantity.value)].join('|');
  const shared = prepareShared(line.per, lineId, quantity.value, when.value);
  if (!shared.ok) return broken(item.code, at, shared.problem);
  const rate = compileLineRate(item, unit.value, isSharedRun(line.per) ? names : own, book);
  return {
    kind: 'item',
    item,
    unit: unit.value,
    quantity: quantity.value,
    when: when.value,
    // What is cut by a list has the waste of that list.
    wastePercent: item.soldAs?.cut ? 0 : (line.wastePercent ?? item.wastePercent ?? 0),
    rate,
    started: line.per ? null : findStarted(rate, quantity.value.quantity, unit.value),
    lengths,
    piece: piece.value,
    per: toPartRun(line.per),
    shared: shared.value,
    path,
    lines,
  };
}

/**
 * Rate of an item on a line. What belongs to the element or the book comes first; what that does not know is looked for among the
 * parameters of the assembly and the figures of the opening, layer or junction that the line runs over.
 */
function compileLineRate(item: CostItem, unit: Unit, names: FormulaNames, book: Building): ItemRate {
  const plain = compileRate(item, unit, book.outer, book.terms);
  if (plain.problem?.code !== 'formula-name-unknown') return plain;
  const all = compileRate(item, unit, names.with(book.outer.list()), book.terms);
  return all.problem?.code === 'formula-name-unknown' ? plain : all;
}

/**
 * Started units that a line is charged in: the step of a scale that its rate looks its own quantity up in. A step over another figure
 * moves the look-up only, and a quantity that a formula has rounded is none of the element's any more.
 */
function findStarted({ formula }: ItemRate, quantity: string | null, unit: Unit): number | null {
  if (!formula || quantity === null) return null;
  const steps = formula.lookups.flatMap(({ scale, by }) =>
    by.flatMap((name, i) => (name === quantity && scale.steps[i] != null ? [scale.steps[i]! / unit.factor] : [])),
  );
  return steps.length > 0 ? Math.max(...steps) : null;
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
  setting: ParameterSetting,
  book: Building,
  outer: FormulaNames,
  at: StepPlace,
): RecipeStep {
  const { path } = at;
  if (--book.budget.left < 0) return broken(code, at, tooLong(code));
  const assembly = book.assemblies.get(code);
  if (!assembly)
    return broken(code, at, {
      code: 'assembly-unknown',
      message: `There is no assembly ${code} in the book.`,
      remedy: 'Add it, or choose another.',
    });
  const inner = [...path, assembly.code];
  if (path.includes(assembly.code)) {
    return broken(code, at, {
      code: 'assembly-cycle',
      message: `Assemblies go in a circle: ${inner.join(' > ')}.`,
      remedy: 'Take one of them out of the other.',
    });
  }
  const unit = parseUnit(assembly.unit);
  if (!unit.ok) return broken(code, at, unit.problem);
  const around = nameRun(per ?? undefined, outer);
  const driver = compileFormula(driverText, around, unit.value);
  if (!driver.ok) return broken(code, at, driver.problem);
  const when = compileWhen(whenText, around);
  if (!when.ok) return broken(code, at, when.problem);
  const { dimension } = unit.value;
  const quantity = per === null ? (driver.value.quantity ?? undefined) : undefined;
  const base = book.outer.with([{ name: 'Driver', dimension, source: 'driver', quantity }]);
  const parameters = compileParameters(assembly, setting, base);
  if (!parameters.ok) return broken(code, at, parameters.problem);
  const names = base.with(parameters.value.map((p) => p.asName)).with(nameResults(assembly, book));
  const ids = listLineIds(assembly.lines);
  const linked = linkShared(
    assembly,
    assembly.lines.map(
      (line, place): RecipeStep => compileLine(line, book, names, { path: inner, lines: [...at.lines, ids[place]!] }),
    ),
  );
  if (!linked.ok) return broken(code, at, linked.problem);
  const steps = linked.value;
  const order = orderNamed(assembly, steps);
  if (!order.ok) return broken(code, at, order.problem);
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

function compileLine(line: BuildUpLine, book: Building, names: FormulaNames, at: StepPlace): RecipeStep {
  if (line.assembly === undefined) return compileItem({ ...line, item: line.item ?? '' }, book, names, at);
  const misfit = checkRun(line);
  if (misfit) return broken(line.assembly, at, misfit);
  const nested = book.assemblies.get(line.assembly);
  const unit = parseUnit(nested?.unit ?? 'each');
  const around = nameRun(line.per, names);
  const text = unit.ok ? writeQuantity(line, around, unit.value) : unit;
  if (!text.ok) return broken(line.assembly, at, text.problem);
  const per = toPartRun(line.per);
  const step = compileAssembly(
    { code: line.assembly, driver: text.value, when: line.when, per },
    { texts: line.parameters ?? {}, names: around },
    book,
    names,
    at,
  );
  return per && runsShared(step)
    ? broken(line.assembly, at, {
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
