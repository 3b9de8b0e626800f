import { compileFormula } from '../formulas/compile-formula.ts';
import { type FormulaName, FormulaNames, type FormulaScale } from '../formulas/formula-types.ts';
import { appendToList } from '../result/append-to-list.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { nameKey } from '../units/code-key.ts';
import { parseUnit, type Unit } from '../units/unit.ts';

/** A figure or price with a name, written once and used in many formulas. */
export interface NamedValue {
  readonly name: string;
  readonly unit: string;
  /** A figure in `unit`, or a formula of figures and other named values. */
  readonly value: string;
  readonly note?: string;
}

const PLAIN = /^\s*-?\d+(?:\.\d+)?\s*$/;

/** The formula behind a named value: a plain figure is one in its unit. @example '380' in EUR/day -> '380 EUR/day' */
export function valueToFormula({ value, unit }: Pick<NamedValue, 'value' | 'unit'>): string {
  return PLAIN.test(value) && unit !== 'number' ? `${value.trim()} ${unit}` : value;
}

/**
 * Works out named values, which may stand on each other. One that cannot be worked out stays known with its problem, so that what
 * uses it says why. Errors in it: those of the formula, `value-twice`, `formula-cycle` with the names in the circle.
 */
export function compileValues(values: readonly NamedValue[], scales: Iterable<FormulaScale> = []): FormulaName[] {
  const byName = new Map(values.map((v) => [nameKey(v.name), v]));
  const alike = new Map<string, NamedValue[]>();
  for (const v of values) appendToList(alike, nameKey(v.name), v);
  const done = new Map<NamedValue, FormulaName>();
  const scaleList = [...scales];
  const visit = (value: NamedValue, trail: readonly NamedValue[]): FormulaName => {
    const known = done.get(value);
    if (known) return known;
    const unit = parseUnit(value.unit);
    const other = alike.get(nameKey(value.name))!.find((v) => v !== value);
    const outcome = other ? twice(value, other) : unit.ok ? workOut(value, unit.value, [...trail, value]) : unit;
    const name: FormulaName = {
      name: value.name,
      dimension: unit.ok ? unit.value.dimension : {},
      source: 'value',
      ...(outcome.ok ? { value: outcome.value } : { problem: outcome.problem }),
    };
    done.set(value, name);
    return name;
  };
  const workOut = (value: NamedValue, unit: Unit, trail: readonly NamedValue[]): Result<number> => {
    const text = valueToFormula(value);
    const others: FormulaName[] = [];
    for (const word of text.match(/[\p{L}_][\p{L}\p{M}\p{N}_]*/gu) ?? []) {
      const other = byName.get(nameKey(word));
      if (!other) continue;
      const start = trail.indexOf(other);
      if (start >= 0) return circle([...trail.slice(start), other]);
      others.push(visit(other, trail));
    }
    const formula = compileFormula(text, new FormulaNames(others, scaleList), unit);
    if (!formula.ok) return formula;
    if (!formula.value.isConstant)
      return failure(
        'value-not-constant',
        `${value.name} reads something of an element; a named value is one for all.`,
        {
          remedy: 'Use it in a formula of the assembly instead.',
        },
      );
    return success(formula.value.evaluate({ values: [], property: () => undefined, problem: null }) as number);
  };
  return values.map((v) => visit(v, []));
}

function twice(value: NamedValue, other: NamedValue): { ok: false; problem: Problem } {
  return failure('value-twice', `${value.name} and ${other.name} are one name in formulas.`, {
    remedy: 'Rename one of them.',
  }) as { ok: false; problem: Problem };
}

function circle(trail: readonly NamedValue[]): { ok: false; problem: Problem } {
  return failure('formula-cycle', `Named values need each other: ${trail.map((v) => v.name).join(' > ')}.`, {
    remedy: 'Give one of them a figure.',
  }) as { ok: false; problem: Problem };
}
