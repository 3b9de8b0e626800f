import type { Assembly } from '../book/assembly.ts';
import { compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { nameKey } from '../units/code-key.ts';
import { parseUnit, type Unit } from '../units/unit.ts';
import type { RecipeAssembly } from './recipe.ts';

export type CompiledParameter = RecipeAssembly['parameters'][number] & { readonly asName: FormulaName };

/** Names that the parameters of an assembly may use: those outside it, its driver, each other. A unit that is none counts as a number. */
export function nameParameters({ unit, parameters = [] }: Assembly, outer: FormulaNames): FormulaNames {
  const dimensionOf = (text: string) => {
    const read = parseUnit(text);
    return read.ok ? read.value.dimension : {};
  };
  return outer.with([
    { name: 'Driver', dimension: dimensionOf(unit), source: 'driver' },
    ...parameters.map((p): FormulaName => ({ name: p.name, dimension: dimensionOf(p.unit), source: 'parameter' })),
  ]);
}

/**
 * What a rule sets, by the names of the assembly's own parameters, found however they are written. Errors: `parameter-twice` where two
 * names are one, `parameter-unknown` for a name that the assembly does not have.
 */
function matchOverrides(
  { code, parameters = [] }: Assembly,
  overrides: Readonly<Record<string, string>>,
): Result<Map<string, string>> {
  const names = new Map<string, string>();
  for (const { name } of parameters) {
    const other = names.get(nameKey(name));
    if (other !== undefined)
      return failure('parameter-twice', `${code} has the parameters ${other} and ${name}, which are one name.`, {
        remedy: 'Rename one of them.',
      });
    names.set(nameKey(name), name);
  }
  const found = new Map<string, string>();
  for (const [typed, text] of Object.entries(overrides)) {
    const name = names.get(nameKey(typed));
    if (name === undefined)
      return failure('parameter-unknown', `${code} has no parameter "${typed}".`, {
        remedy: names.size > 0 ? `It has ${[...names.values()].join(', ')}.` : 'It has none: take it out of the rule.',
      });
    if (found.has(name))
      return failure('parameter-twice', `${name} of ${code} is set twice.`, { remedy: 'Take one of them out.' });
    found.set(name, text);
  }
  return success(found);
}

/**
 * Compiles parameters in the order of their dependence on each other. Errors: `formula-cycle` with the names in the circle,
 * `parameter-choice`, `parameter-twice`, `parameter-unknown`.
 */
export function compileParameters(
  assembly: Assembly,
  overrides: Readonly<Record<string, string>>,
  base: FormulaNames,
): Result<CompiledParameter[]> {
  const wanted = assembly.parameters ?? [];
  const set = matchOverrides(assembly, overrides);
  if (!set.ok) return set;
  const texts = new Map(wanted.map((p) => [p.name.toLowerCase(), set.value.get(p.name) ?? p.value]));
  const units = new Map<string, Unit>();
  for (const p of wanted) {
    const chosen = set.value.get(p.name)?.trim();
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
