import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { StateOf } from './list-element-kinds.ts';

/** What the cost of elements is held against: their volume, area, weight, or each by itself. */
export const INTENSITY_UNITS = ['m3', 'm2', 'kg', 'each'] as const;
export type IntensityUnit = (typeof INTENSITY_UNITS)[number];

/** Quantities of a unit, the first that an element has. */
const QUANTITIES: Readonly<Record<Exclude<IntensityUnit, 'each'>, readonly string[]>> = {
  m3: ['netvolume', 'grossvolume'],
  m2: ['netsidearea', 'netarea', 'netfloorarea', 'slopedarea', 'area', 'grosssidearea', 'grossarea'],
  kg: ['netweight', 'grossweight', 'weight'],
};

/** Cost of each element per unit, in 1/10,000 of a minor unit, by ElementKey; those without a cost or without the quantity have none. */
export function measureIntensity(
  tables: readonly ElementTable[],
  stateOf: StateOf,
  unit: IntensityUnit,
): Map<number, number> {
  const found = new Map<number, number>();
  for (const table of tables) {
    if (table.origin) continue;
    const columns = listEffectiveQuantities(table);
    for (let row = 0; row < table.count; row++) {
      const key = table.keys[row]!;
      const amount = stateOf(key)?.amount ?? 0;
      if (amount <= 0) continue;
      const quantity = unit === 'each' ? 1 : readFirst(columns, QUANTITIES[unit], row);
      if (quantity !== null && quantity > 0) found.set(key, amount / quantity);
    }
  }
  return found;
}

function readFirst(
  columns: ReturnType<typeof listEffectiveQuantities>,
  names: readonly string[],
  row: number,
): number | null {
  for (const name of names) {
    const value = columns.get(name)?.values[row] ?? Number.NaN;
    if (!Number.isNaN(value)) return value;
  }
  return null;
}

/** A step of a scale: what is from `from` up to `to`, and how many there are. */
export interface IntensityStep {
  readonly from: number;
  readonly to: number;
  readonly keys: readonly number[];
}

/**
 * Figures in steps that hold about as many each; alike figures are in one step, so there may be fewer steps.
 * @example 1, 1, 1, 2, 3, 9 in three steps: 1 to 1, 2 to 3, 9 to 9
 */
export function stepQuantiles(values: ReadonlyMap<number, number>, most = 5): IntensityStep[] {
  const sorted = [...values].sort(([a, x], [b, y]) => x - y || a - b);
  const steps: IntensityStep[] = [];
  for (let at = 0; at < sorted.length; ) {
    const left = most - steps.length;
    let end = left <= 1 ? sorted.length : at + Math.max(1, Math.round((sorted.length - at) / left));
    while (end < sorted.length && sorted[end]![1] === sorted[end - 1]![1]) end++;
    const own = sorted.slice(at, end);
    steps.push({ from: own[0]![1], to: own.at(-1)![1], keys: own.map(([key]) => key) });
    at = end;
  }
  return steps;
}
