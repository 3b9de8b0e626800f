import { compileFormula, describeFormulaType, listQuantityNames, parseUnit } from '@tally/core';

/** `formula 'EXPR' --unit UNIT`: whether the formula fits the unit, and what it gives. */
export function formula(text: string, unitText: string): { ok: boolean; unit: string | null; problem?: unknown } {
  const unit = parseUnit(unitText);
  if (!unit.ok) return { ok: false, unit: null, problem: unit.problem };
  const names = listQuantityNames();
  const free = compileFormula(text, names);
  if (!free.ok) return { ok: false, unit: null, problem: free.problem };
  const fitted = compileFormula(text, names, unit.value);
  const gives = describeFormulaType(free.value.type);
  return fitted.ok ? { ok: true, unit: gives } : { ok: false, unit: gives, problem: fitted.problem };
}
