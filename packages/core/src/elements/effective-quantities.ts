import type { SiUnit } from '../units/branded.ts';
import { readText } from './columns.ts';
import type { ElementTable } from './element-table.ts';
import type { Basis, QuantityMethod } from './model-element.ts';

/** The figures used for pricing under one quantity name: the measured one of a row, else the stated one. NaN is absent. */
export interface EffectiveColumn {
  readonly name: string;
  readonly unit: SiUnit;
  readonly values: Float64Array;
}

const cache = new WeakMap<ElementTable, Map<string, EffectiveColumn>>();

/** Quantity columns used for pricing, by lower-case name. Computed once per table. */
export function listEffectiveQuantities(table: ElementTable): ReadonlyMap<string, EffectiveColumn> {
  let columns = cache.get(table);
  if (columns) return columns;
  columns = new Map();
  for (const basis of ['measured', 'stated'] as const) {
    for (const q of table.quantities) {
      if (q.basis !== basis) continue;
      const known = columns.get(q.name.toLowerCase());
      if (!known) columns.set(q.name.toLowerCase(), { name: q.name, unit: q.unit, values: q.values.slice() });
      else if (known.unit === q.unit) {
        for (let row = 0; row < table.count; row++)
          if (Number.isNaN(known.values[row]!)) known.values[row] = q.values[row]!;
      }
    }
  }
  cache.set(table, columns);
  return columns;
}

/** Where the used figure of a row comes from; null if the row has none. */
export function findQuantityOrigin(
  table: ElementTable,
  row: number,
  name: string,
): { basis: Basis; method: QuantityMethod } | null {
  for (const basis of ['measured', 'stated'] as const) {
    const column = table.quantities.find(
      (q) => q.basis === basis && q.name.toLowerCase() === name.toLowerCase() && !Number.isNaN(q.values[row]!),
    );
    if (column) return { basis, method: readText(column.methods, row) as QuantityMethod };
  }
  return null;
}
