import type { Assembly } from '../book/assembly.ts';
import { type CompiledFormula, compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { nameKey } from '../units/code-key.ts';
import { parseUnit } from '../units/unit.ts';
import { asParameter, readParameterUnit } from './parameter-names.ts';
import type { RecipeParameter } from './recipe.ts';

export type CompiledParameter = RecipeParameter & { readonly asName: FormulaName };

/** What an assembly is used with: parameters as formulas, and the names that these are in, if they are not its own. */
export interface ParameterSetting {
  readonly texts: Readonly<Record<string, string>>;
  readonly names: FormulaNames | null;
}

/** Names that the parameters of an assembly may use: those outside it, its driver, each other. A unit that is none counts as a number. */
export function nameParameters({ unit, parameters = [] }: Assembly, outer: FormulaNames): FormulaNames {
  const read = parseUnit(unit);
  const driver: FormulaName = { name: 'Driver', dimension: read.ok ? read.value.dimension : {}, source: 'driver' };
  return outer.with([driver, ...parameters.map((p) => asParameter(p.name, p.unit))]);
}

/** A formula for a parameter. Errors: those of the formula, `formula-dimension` where a text is needed. */
export function compileSetting(text: string, names: FormulaNames, unit: string): Result<CompiledFormula> {
  const needed = readParameterUnit(unit);
  if (!needed.ok) return needed;
  if (needed.value) return compileFormula(text, names, needed.value);
  const formula = compileFormula(text, names);
  if (formula.ok && formula.value.type.kind === 'text') return formula;
  return failure('formula-dimension', `${text.trim() === '' ? 'Nothing' : text} is no text.`, {
    remedy: `Put it in quotation marks: "${text.trim().replaceAll('"', '')}"`,
  });
}

/** True if a formula gives the same for all elements: it reads nothing, or only parameters that are so. */
const isSameForAll = (formula: CompiledFormula, isSame: (parameter: FormulaName) => boolean): boolean =>
  formula.isConstant ||
  (!formula.readsElement &&
    formula.slots.every((s) => s.value !== undefined || (s.source === 'parameter' && isSame(s))));

/**
 * What a rule or a line sets, by the names of the assembly's own parameters, found however they are written. Errors: `parameter-twice`
 * where two names are one, `parameter-unknown` for a name that the assembly does not have.
 */
export function matchOverrides(
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
        remedy: names.size > 0 ? `It has ${[...names.values()].join(', ')}.` : 'It has none: take it out there.',
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
 * @param base names that the formulas of the assembly itself may use
 */
export function compileParameters(
  assembly: Assembly,
  { texts, names: settingNames }: ParameterSetting,
  base: FormulaNames,
): Result<CompiledParameter[]> {
  const wanted = assembly.parameters ?? [];
  const set = matchOverrides(assembly, texts);
  if (!set.ok) return set;
  const byKey = new Map(wanted.map((p) => [nameKey(p.name), p]));
  for (const p of wanted) {
    const unit = readParameterUnit(p.unit);
    if (!unit.ok) return unit;
  }
  const names = base.with(wanted.map((p) => asParameter(p.name, p.unit)));
  const done = new Map<string, CompiledParameter>();
  const visit = (key: string, trail: readonly string[]): Problem | null => {
    if (done.has(key)) return null;
    const { name, unit, value, choices } = byKey.get(key)!;
    if (trail.includes(key)) {
      const circle = [...trail, key].map((k) => byKey.get(k)!.name);
      return {
        code: 'formula-cycle',
        message: `Parameters of ${assembly.code} need each other: ${circle.join(' > ')}.`,
        remedy: 'Give one of them a figure.',
      };
    }
    const text = set.value.get(name);
    const isHanded = text !== undefined && settingNames !== null;
    const formula = compileSetting(text ?? value, isHanded ? settingNames : names, unit);
    if (!formula.ok) return { ...formula.problem, path: `parameter ${name}` };
    // What a line works out of its own parameters can only be judged on the element.
    const isWritten = text !== undefined && (!isHanded || formula.value.isConstant);
    if (isWritten && choices && text.trim() !== value && !choices.includes(text.trim()))
      return {
        code: 'parameter-choice',
        message: `${name} of ${assembly.code} is one of ${choices.join(', ')}.`,
        remedy: 'Choose one of them there.',
      };
    if (!isHanded)
      for (const slot of formula.value.slots) {
        const problem = slot.source === 'parameter' ? visit(nameKey(slot.name), [...trail, key]) : null;
        if (problem) return problem;
      }
    const isSame = (p: FormulaName) => (isHanded ? p : done.get(nameKey(p.name))!.asName).isConstant === true;
    const asName = { ...asParameter(name, unit), isConstant: isSameForAll(formula.value, isSame) };
    done.set(key, { name, formula: formula.value, isHanded, asName });
    return null;
  };
  for (const key of byKey.keys()) {
    const problem = visit(key, []);
    if (problem) return { ok: false, problem };
  }
  return success([...done.values()]);
}
