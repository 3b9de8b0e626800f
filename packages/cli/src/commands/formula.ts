import {
  type CompiledFormula,
  compileFormula,
  describeFormulaType,
  type ElementTable,
  evaluateOnElement,
  listEffectiveQuantities,
  listQuantityNames,
  type Problem,
  parseUnit,
  type Result,
  siToUnit,
  success,
  type Unit,
} from '@tally/core';
import { findElement, readModel, toTable } from '../input.ts';

/** Answer to a formula: whether it fits, what it gives, and its figure in the unit where an element was named. */
export interface FormulaAnswer {
  readonly ok: boolean;
  readonly unit: string | null;
  readonly value?: number | null;
  readonly problem?: Problem;
}

/** `formula 'EXPR' --unit UNIT [--model M.ifc --element GLOBALID]`: whether the formula fits the unit, and what it gives. */
export async function formula(
  text: string,
  unitText: string,
  on?: { model: string; element: string },
): Promise<FormulaAnswer> {
  const unit = parseUnit(unitText);
  if (!unit.ok) return { ok: false, unit: null, problem: unit.problem };
  const element = on ? await readElement(on.model, on.element) : null;
  if (element && !element.ok) return { ok: false, unit: null, value: null, problem: element.problem };
  const names = listQuantityNames(element ? listEffectiveQuantities(element.value.table).values() : []);
  const free = compileFormula(text, names);
  if (!free.ok) return { ok: false, unit: null, problem: free.problem };
  const fitted = compileFormula(text, names, unit.value);
  const gives = describeFormulaType(free.value.type);
  if (!fitted.ok) return { ok: false, unit: gives, problem: fitted.problem };
  return element ? answer(fitted.value, gives, unit.value, element.value) : { ok: true, unit: gives };
}

interface FoundElement {
  readonly table: ElementTable;
  readonly row: number;
}

async function readElement(path: string, globalId: string): Promise<Result<FoundElement>> {
  const read = await readModel(path);
  if (!read.ok) return read;
  const table = toTable(read.value);
  const row = findElement(table, globalId, path);
  return row.ok ? success({ table, row: row.value }) : row;
}

function answer(formula: CompiledFormula, gives: string, unit: Unit, { table, row }: FoundElement): FormulaAnswer {
  const value = evaluateOnElement(formula, table, row);
  return value.ok
    ? { ok: true, unit: gives, value: siToUnit(value.value as number, unit) }
    : { ok: false, unit: gives, value: null, problem: value.problem };
}
