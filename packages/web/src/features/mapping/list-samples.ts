import { type Caught, caughtBy, compileFormula, type ElementTable, evaluateOnElement, type FormulaNames, parseUnit, readText, TEXT_UNIT } from '@tally/core'; // biome-ignore format: one module

/** What a formula gives for an element: a figure in the wanted unit, a text, or why it gives none. */
export interface Sample {
  readonly label: string;
  readonly value: number | string | null;
  readonly problem: string | null;
}

/** Elements that a formula is shown on, at most. */
export const MOST_SAMPLES = 6;

/** Elements that a rule catches, one of each type or name, in the order of the tables. */
function listPlaces(
  rule: Caught,
  tables: readonly ElementTable[],
): { readonly table: ElementTable; readonly row: number; readonly label: string }[] {
  const places = new Map<string, { table: ElementTable; row: number; label: string }>();
  for (const table of tables) {
    const mask = caughtBy(rule, table);
    for (let row = mask.indexOf(1); row >= 0 && places.size < MOST_SAMPLES; row = mask.indexOf(1, row + 1)) {
      const label = readText(table.typeName, row) ?? readText(table.name, row) ?? '';
      if (!places.has(label)) places.set(label, { table, row, label });
    }
  }
  return [...places.values()];
}

/**
 * What a value of a parameter gives for elements that a rule catches, one of each type; none for one that reads nothing of them, or that is wrong.
 * @param unit of the parameter
 */
export function listSamples(
  value: string,
  unit: string,
  names: FormulaNames,
  rule: Caught,
  tables: readonly ElementTable[],
): Sample[] {
  const wanted = unit === TEXT_UNIT ? null : parseUnit(unit);
  if (wanted && !wanted.ok) return [];
  const formula = compileFormula(value, names, wanted?.value);
  if (!formula.ok || formula.value.reads.length === 0) return [];
  return listPlaces(rule, tables).map(({ table, row, label }) => {
    const given = evaluateOnElement(formula.value, table, row);
    if (!given.ok) return { label, value: null, problem: given.problem.message };
    const { value: found } = given;
    return {
      label,
      value: typeof found === 'number' ? found / (wanted?.value.factor ?? 1) : String(found),
      problem: null,
    };
  });
}
