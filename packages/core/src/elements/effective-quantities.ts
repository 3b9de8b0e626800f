import { appendToList } from '../result/append-to-list.ts';
import type { SiUnit } from '../units/branded.ts';
import { readText } from './columns.ts';
import { type ElementTable, type QuantityColumn, readExactness } from './element-table.ts';
import type { Basis, Exactness, QuantityChoice, QuantityMethod } from './model-element.ts';

/** The figures used under one quantity name. NaN is absent. */
export interface EffectiveColumn {
  readonly name: string;
  readonly unit: SiUnit;
  readonly values: Float64Array;
  /** The column that the figure of a row comes from; null where there is none. */
  readonly originOf: (row: number) => QuantityColumn | null;
}

const cache = new WeakMap<ElementTable, Map<string, EffectiveColumn>>();

/**
 * Quantity columns used for pricing, by lower-case name, computed once per table: by default the measured figure where it is
 * exact, else the stated one, else the one from the mesh; a table may choose otherwise by name. A figure given here beats both.
 */
export function listEffectiveQuantities(table: ElementTable): ReadonlyMap<string, EffectiveColumn> {
  let columns = cache.get(table);
  if (columns) return columns;
  columns = new Map();
  const byName = new Map<string, QuantityColumn[]>();
  for (const q of table.quantities) {
    const key = q.name.toLowerCase();
    appendToList(byName, key, q);
  }
  for (const [key, list] of byName) {
    // Columns of one name but of another kind of unit cannot stand for each other: the measured kind counts.
    const unit = (list.find((q) => q.basis === 'measured') ?? list[0]!).unit;
    const usable = list.filter((q) => q.unit === unit);
    columns.set(key, chooseOnce(table, usable, table.choices?.[key] ?? 'best', table.rowChoices?.[key]));
  }
  cache.set(table, columns);
  return columns;
}

type RowChoices = readonly (QuantityChoice | undefined)[] | undefined;
interface Chosen {
  readonly columns: readonly QuantityColumn[];
  readonly general: QuantityChoice;
  readonly byRow: RowChoices;
  readonly effective: EffectiveColumn;
}
/** What was chosen from columns, with the first of them: tables that share columns share what is chosen. */
const chosen = new WeakMap<QuantityColumn, Chosen>();

function chooseOnce(
  table: ElementTable,
  columns: readonly QuantityColumn[],
  general: QuantityChoice,
  byRow: RowChoices,
): EffectiveColumn {
  const known = chosen.get(columns[0]!);
  const isSame =
    known?.general === general &&
    known.byRow === byRow &&
    known.columns.length === columns.length &&
    columns.every((c, i) => c === known.columns[i]);
  if (isSame) return known.effective;
  const effective = chooseFigures(table, columns, general, byRow);
  chosen.set(columns[0]!, { columns, general, byRow, effective });
  return effective;
}

function chooseFigures(
  table: ElementTable,
  columns: readonly QuantityColumn[],
  general: QuantityChoice,
  byRow: RowChoices,
): EffectiveColumn {
  const find = (basis: Basis) => columns.filter((q) => q.basis === basis);
  const [measured, stated, given] = [find('measured'), find('stated'), find('given')];
  const { name, unit } = measured[0] ?? stated[0] ?? given[0]!;
  if (columns.length === 1) {
    // Nothing to choose from: most quantities of a model are known in one way only.
    const only = columns[0]!;
    return { name, unit, values: only.values, originOf: (row) => (Number.isNaN(only.values[row]!) ? null : only) };
  }
  const values = new Float64Array(table.count).fill(Number.NaN);
  /** Number of the chosen column, 1 for the first; 0 for none. */
  const origins = new Uint16Array(table.count);
  const at = (list: readonly QuantityColumn[], row: number) => {
    for (let i = 0; i < list.length; i++) if (!Number.isNaN(list[i]!.values[row]!)) return list[i];
    return undefined;
  };
  for (let row = 0; row < table.count; row++) {
    const [m, s] = [at(measured, row), at(stated, row)];
    const choice = byRow?.[row] ?? general;
    const isExact = m !== undefined && readExactness(m, row) === 'exact';
    const found = choice === 'stated' || (choice === 'best' && !isExact) ? (s ?? m) : (m ?? s);
    const used = at(given, row) ?? found;
    if (!used) continue;
    values[row] = used.values[row]!;
    origins[row] = columns.indexOf(used) + 1;
  }
  return { name, unit, values, originOf: (row) => columns[origins[row]! - 1] ?? null };
}

/** Where the used figure of a row comes from; null if the row has none. */
export function findQuantityOrigin(
  table: ElementTable,
  row: number,
  name: string,
): { basis: Basis; method: QuantityMethod; exactness: Exactness | null } | null {
  const column = listEffectiveQuantities(table).get(name.toLowerCase())?.originOf(row);
  if (!column) return null;
  const { basis, methods } = column;
  return { basis, method: readText(methods, row) as QuantityMethod, exactness: readExactness(column, row) };
}
