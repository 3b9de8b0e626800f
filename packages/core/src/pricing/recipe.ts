import type { Assembly } from '../book/assembly.ts';
import type { CostItem } from '../book/cost-item.ts';
import { type CompiledFormula, compileFormula } from '../formulas/compile-formula.ts';
import { type FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import type { PricedWith } from '../mapping/pricing-rule.ts';
import { QUANTITY_DEFINITIONS } from '../quantities/quantity-names.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import type { SiUnit } from '../units/branded.ts';
import { siUnitToDimension } from '../units/si-units.ts';
import { parseUnit, type Unit } from '../units/unit.ts';

/** Items and assemblies by code; codes are found in any case. */
export interface Book {
  readonly items: ReadonlyMap<string, CostItem>;
  readonly assemblies: ReadonlyMap<string, Assembly>;
}

export function buildBook(items: readonly CostItem[], assemblies: readonly Assembly[]): Book {
  return {
    items: new Map(items.map((i) => [i.code.toLowerCase(), i])),
    assemblies: new Map(assemblies.map((a) => [a.code.toLowerCase(), a])),
  };
}

/** What is priced at the end of a path through assemblies: one item with its checked formula. */
export interface RecipeItem {
  readonly kind: 'item';
  readonly item: CostItem;
  readonly unit: Unit;
  readonly quantity: CompiledFormula;
  readonly when: CompiledFormula | null;
  readonly wastePercent: number;
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
}

/** A step that cannot be calculated, with the reason; it stays in the plan as unknown. */
export interface BrokenStep {
  readonly kind: 'broken';
  readonly code: string;
  readonly path: readonly string[];
  readonly problem: Problem;
}

export type RecipeStep = RecipeItem | RecipeAssembly | BrokenStep;

/** Names every formula may use: the standard quantities and those that a model states under names of its own. */
export function listQuantityNames(extra: Iterable<{ name: string; unit: SiUnit }> = []): FormulaNames {
  const toName = ({ name, unit }: { name: string; unit: SiUnit }): FormulaName => ({
    name,
    dimension: siUnitToDimension(unit),
    source: 'quantity',
  });
  return new FormulaNames([...extra, ...QUANTITY_DEFINITIONS].map(toName));
}

/** Checks and prepares what a rule or pin prices with. A fault anywhere leaves the rest usable. */
export function compileRecipe(withWhat: PricedWith, book: Book, names: FormulaNames): RecipeStep {
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

function compileWhen(when: string | undefined, names: FormulaNames): Result<CompiledFormula | null> {
  if (!when?.trim()) return success(null);
  const formula = compileFormula(when, names);
  if (formula.ok && formula.value.type.kind !== 'truth')
    return failure('formula-dimension', `"${when}" is no condition.`, {
      remedy: 'Compare two figures, e.g. Height > 3 m.',
    });
  return formula;
}

function compileItem(
  line: { item: string; quantity: string; when?: string; wastePercent?: number },
  book: Book,
  names: FormulaNames,
  path: readonly string[],
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
  const quantity = compileFormula(line.quantity, names, unit.value);
  if (!quantity.ok) return broken(item.code, path, quantity.problem);
  const when = compileWhen(line.when, names);
  if (!when.ok) return broken(item.code, path, when.problem);
  return {
    kind: 'item',
    item,
    unit: unit.value,
    quantity: quantity.value,
    when: when.value,
    wastePercent: line.wastePercent ?? item.wastePercent ?? 0,
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
  const base = listOuterQuantities(outer).with([{ name: 'Driver', dimension: unit.value.dimension, source: 'driver' }]);
  const parameters = compileParameters(assembly, overrides, base);
  if (!parameters.ok) return broken(code, path, parameters.problem);
  const names = base.with(parameters.value.map((p) => p.asName));
  const steps = assembly.lines.map(
    (line): RecipeStep =>
      line.assembly !== undefined
        ? compileAssembly(line.assembly, line.quantity, line.when ?? null, {}, book, names, inner)
        : compileItem({ ...line, item: line.item ?? '' }, book, names, inner),
  );
  return { kind: 'assembly', assembly, driver: driver.value, when: when.value, parameters: parameters.value, steps };
}

/** Only quantities go on into an assembly: parameters of the one outside are not seen. */
function listOuterQuantities(outer: FormulaNames): FormulaNames {
  return new FormulaNames(outer.list().filter((n) => n.source === 'quantity'));
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
    done.push({ name, formula: formula.value, asName: asName(name) });
    return null;
  };
  for (const p of wanted) {
    const problem = visit(p.name, []);
    if (problem) return { ok: false, problem };
  }
  return success(done);
}

/** Everything that decides the net quantities of a recipe, as text: two recipes with the same signature measure the same. */
export function recipeSignature(step: RecipeStep): string {
  if (step.kind === 'broken') return `!${step.code}:${step.problem.message}`;
  const when = step.when ? `?${step.when.text}` : '';
  if (step.kind === 'item')
    return `${step.path.join('>')}:${step.item.code}[${step.unit.symbol}]=${step.quantity.text}${when}`;
  const parameters = step.parameters.map((p) => `${p.name}=${p.formula.text}`).join(';');
  return `${step.assembly.code}[${step.assembly.unit}](${step.driver.text}${when};${parameters}){${step.steps.map(recipeSignature).join('|')}}`;
}
