import { type Assembly, type BuildUpLine, isSharedRun, type LineRun } from '../book/assembly.ts';
import { readConsumption } from '../book/consumption.ts';
import type { CostItem } from '../book/cost-item.ts';
import { compileValues, type NamedValue } from '../book/named-value.ts';
import { compileScales, type Scale } from '../book/scale.ts';
import { type CompiledFormula, compileFormula } from '../formulas/compile-formula.ts';
import { type FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import type { PricedWith } from '../mapping/pricing-rule.ts';
import { QUANTITY_DEFINITIONS } from '../quantities/quantity-names.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import type { SiUnit } from '../units/branded.ts';
import { siUnitToDimension } from '../units/si-units.ts';
import { parseUnit, type Unit } from '../units/unit.ts';
import { compileRate, type ItemRate, isRateByElement, nameItem, type RateTerms } from './item-rate.ts';
import { nameResults, orderNamed } from './line-results.ts';
import { PART_NAMES } from './part-names.ts';
import { nameShared, prepareShared, type SharedLine } from './shared-lines.ts';

/** What a recipe is made of. */
export interface BookContents extends RateTerms {
  readonly items: readonly CostItem[];
  readonly assemblies: readonly Assembly[];
  readonly values?: readonly NamedValue[];
  readonly scales?: readonly Scale[];
}

/** A book ready for use. Items and assemblies by code, found in any case; named values and scales as formulas see them. */
export interface Book {
  readonly terms: RateTerms;
  readonly items: ReadonlyMap<string, CostItem>;
  readonly assemblies: ReadonlyMap<string, Assembly>;
  readonly names: FormulaNames;
}

export function buildBook({ items, assemblies, values = [], scales = [], ...terms }: BookContents): Book {
  const looked = compileScales(scales);
  return {
    terms,
    items: new Map(items.map((i) => [i.code.toLowerCase(), i])),
    assemblies: new Map(assemblies.map((a) => [a.code.toLowerCase(), a])),
    names: new FormulaNames(compileValues(values, looked), looked),
  };
}

/** The book with the draft of an assembly in place of the kept one. */
export function buildBookWith(draft: Assembly, contents: BookContents): Book {
  const others = contents.assemblies.filter((a) => a.code.toLowerCase() !== draft.code.toLowerCase());
  return buildBook({ ...contents, assemblies: [...others, draft] });
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
  /** Lengths the item is sold in, in its unit, rising; none if it is sold otherwise. */
  readonly lengths: readonly number[];
  /** Length of one piece; null for a run that is cut anywhere. */
  readonly piece: CompiledFormula | null;
  /** What it runs over, once for each; null for once per element. */
  readonly per: LineRun | null;
  /** Set if it runs once for several elements. */
  readonly shared: SharedLine | null;
  /** Codes of the assemblies it comes through, outermost first. */
  readonly path: readonly string[];
}

/** An assembly on the path: its driver, its parameters in the order they can be calculated, its steps. */
export interface RecipeAssembly {
  readonly kind: 'assembly';
  readonly assembly: Assembly;
  readonly driver: CompiledFormula;
  readonly when: CompiledFormula | null;
  readonly parameters: readonly { readonly name: string; readonly formula: CompiledFormula }[];
  readonly steps: readonly RecipeStep[];
  /** Steps whose results others use, in the order they can be calculated. */
  readonly named: readonly { readonly name: string; readonly step: RecipeStep }[];
}

/** A step that cannot be calculated, with the reason; it stays in the plan as unknown. */
export interface BrokenStep {
  readonly kind: 'broken';
  readonly code: string;
  readonly path: readonly string[];
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

/** Checks and prepares what a rule or pin prices with. A fault anywhere leaves the rest usable. */
export function compileRecipe(withWhat: PricedWith, book: Book, quantities: FormulaNames): RecipeStep {
  // A quantity of the model hides a named value of the same name.
  const names = book.names.with(quantities.list());
  const driver = withWhat.driver ?? '';
  if (withWhat.item !== undefined) return compileItem({ item: withWhat.item, quantity: driver }, book, names, []);
  if (withWhat.assembly !== undefined)
    return compileAssembly(withWhat.assembly, driver, null, withWhat.parameters ?? {}, book, names, []);
  return broken('', [], {
    code: 'rule-without-price',
    message: 'Nothing says what this is priced with.',
    remedy: 'Choose an item or an assembly, or leave it out with a reason.',
  });
}

function broken(code: string, path: readonly string[], problem: Problem): BrokenStep {
  return { kind: 'broken', code, path, problem };
}

export function compileWhen(when: string | undefined, names: FormulaNames): Result<CompiledFormula | null> {
  if (!when?.trim()) return success(null);
  const formula = compileFormula(when, names);
  if (formula.ok && formula.value.type.kind !== 'truth')
    return failure('formula-dimension', `"${when}" is no condition.`, {
      remedy: 'Compare two figures, e.g. Height > 3 m.',
    });
  return formula;
}

export type ItemLine = Omit<BuildUpLine, 'assembly'>;

/** Names that a line may use beside those of its assembly, by what it runs over. */
export function nameRun(run: LineRun | undefined, names: FormulaNames): FormulaNames {
  if (!run) return names;
  return isSharedRun(run) ? nameShared(names) : names.with(PART_NAMES[run]);
}

/** Why a line cannot run over what it says it does; null if it can. Errors: `line-run`. */
export function checkRun({ per, assembly, piece }: BuildUpLine): Problem | null {
  if (per && assembly !== undefined)
    return {
      code: 'line-run',
      message: 'A line with an assembly runs once per element.',
      remedy: 'Let the lines inside that assembly run as you mean, or take an item.',
    };
  if (isSharedRun(per) && piece)
    return {
      code: 'line-run',
      message: 'A line that runs once for several elements has no length of one piece.',
      remedy: 'Take the length of a piece out, or let the line run per element.',
    };
  return null;
}

/** The formula of a line's quantity: as written, or what a consumption means. */
export function writeQuantity(line: ItemLine, names: FormulaNames, unit: Unit): Result<string> {
  const text = ((): Result<string> => {
    if (line.consumption === undefined) return success(line.quantity ?? '');
    const of = compileFormula(line.of ?? 'Driver', names);
    if (!of.ok) return of;
    if (of.value.type.kind !== 'number')
      return failure('formula-dimension', `"${line.of}" is no figure that a consumption can go by.`);
    const base = line.of === undefined ? 'Driver' : `(${line.of})`;
    return readConsumption(line.consumption, of.value.type.dimension, unit, base);
  })();
  if (!text.ok || line.crew === undefined) return text;
  if (unit.dimension.hour !== 1)
    return failure('formula-dimension', `A crew works hours; this line gives ${unit.symbol}.`, {
      remedy: 'Take the crew out, or take an item in hours.',
    });
  // Checked without the crew first, so that a fault is shown where it was typed.
  const alone = compileFormula(text.value, names, unit);
  return alone.ok ? success(`(${text.value}) * ${line.crew}`) : alone;
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
    per: line.per ?? null,
    shared: shared.value,
    path,
  };
}

function compileAssembly(
  code: string,
  driverText: string,
  whenText: string | null,
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
  const driver = compileFormula(driverText, outer, unit.value);
  if (!driver.ok) return broken(code, path, driver.problem);
  const when = compileWhen(whenText ?? undefined, outer);
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
  const text = unit.ok ? writeQuantity(line, names, unit.value) : unit;
  return text.ok
    ? compileAssembly(line.assembly, text.value, line.when ?? null, {}, book, names, path)
    : broken(line.assembly, path, text.problem);
}

/** Only what belongs to the element or the book goes on into an assembly: parameters and results of the one outside are not seen. */
export function onlyOuter(outer: FormulaNames): FormulaNames {
  return outer.only((n) => n.source === 'quantity' || n.source === 'value');
}

type CompiledParameter = RecipeAssembly['parameters'][number] & { readonly asName: FormulaName };

/** Compiles parameters in the order of their dependence on each other. Errors: `formula-cycle` with the names in the circle. */
function compileParameters(
  assembly: Assembly,
  overrides: Readonly<Record<string, string>>,
  base: FormulaNames,
): Result<CompiledParameter[]> {
  const wanted = assembly.parameters ?? [];
  const texts = new Map(wanted.map((p) => [p.name.toLowerCase(), overrides[p.name] ?? p.value]));
  const units = new Map<string, Unit>();
  for (const p of wanted) {
    const chosen = overrides[p.name]?.trim();
    if (chosen !== undefined && p.choices && chosen !== p.value && !p.choices.includes(chosen))
      return failure('parameter-choice', `${p.name} of ${assembly.code} is one of ${p.choices.join(', ')}.`, {
        remedy: 'Choose one of them in the rule.',
      });
    const unit = parseUnit(p.unit);
    if (!unit.ok) return unit;
    units.set(p.name.toLowerCase(), unit.value);
  }
  const asName = (name: string): FormulaName => ({
    name,
    dimension: units.get(name.toLowerCase())!.dimension,
    source: 'parameter',
  });
  const names = base.with(wanted.map((p) => asName(p.name)));
  const done: CompiledParameter[] = [];
  const visit = (name: string, trail: readonly string[]): Problem | null => {
    if (done.some((d) => d.name.toLowerCase() === name.toLowerCase())) return null;
    if (trail.some((t) => t.toLowerCase() === name.toLowerCase())) {
      return {
        code: 'formula-cycle',
        message: `Parameters of ${assembly.code} need each other: ${[...trail, name].join(' > ')}.`,
        remedy: 'Give one of them a figure.',
      };
    }
    const formula = compileFormula(texts.get(name.toLowerCase())!, names, units.get(name.toLowerCase()));
    if (!formula.ok) return { ...formula.problem, path: `parameter ${name}` };
    for (const slot of formula.value.slots) {
      if (slot.source !== 'parameter') continue;
      const problem = visit(slot.name, [...trail, name]);
      if (problem) return problem;
    }
    done.push({ name, formula: formula.value, asName: { ...asName(name), isConstant: formula.value.isConstant } });
    return null;
  };
  for (const p of wanted) {
    const problem = visit(p.name, []);
    if (problem) return { ok: false, problem };
  }
  return success(done);
}

/** Everything that decides what a formula gives beside the element: its text, the named values and the scales it uses. */
function formulaSignature({ text, slots, scales }: CompiledFormula): string {
  const values = slots.flatMap((s) => (s.value === undefined ? [] : [`${s.name}=${s.value}`]));
  return [text, ...values, ...scales.map((s) => s.signature)].join('~');
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
    const rate = isRateByElement(step.rate) ? `@${formulaSignature(step.rate.formula!)}` : '';
    return `${step.path.join('>')}:${step.item.code}[${step.unit.symbol}${step.per ?? ''}${cut}]=${formulaSignature(step.quantity)}${when}${rate}`;
  }
  const parameters = step.parameters.map((p) => `${p.name}=${formulaSignature(p.formula)}`).join(';');
  const named = step.named.map((n) => n.name).join();
  return `${step.assembly.code}[${step.assembly.unit}](${formulaSignature(step.driver)}${when};${parameters};${named}){${step.steps.map(recipeSignature).join('|')}}`;
}
