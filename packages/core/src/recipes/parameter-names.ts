import { TEXT_UNIT } from '../book/assembly.ts';
import type { FormulaName } from '../formulas/formula-types.ts';
import { type Result, success } from '../result/result.ts';
import { parseUnit, type Unit } from '../units/unit.ts';

/** Unit of a parameter; null for a text. */
export const readParameterUnit = (unit: string): Result<Unit | null> =>
  unit.trim() === TEXT_UNIT ? success(null) : parseUnit(unit);

/** A parameter as formulas see it. A unit that is none counts as a number. */
export function asParameter(name: string, unit: string): FormulaName {
  const read = readParameterUnit(unit);
  const isText = read.ok && read.value === null;
  return { name, dimension: (read.ok && read.value?.dimension) || {}, source: 'parameter', isText };
}
