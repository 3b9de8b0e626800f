import { readText } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { StateOf } from './list-element-kinds.ts';
import { COMPLETENESS_STATES, type CompletenessState, countNothing } from './plan.ts';

/** What completeness can be told by: elements, the volume of their bodies, their side areas. */
export const COMPLETENESS_MEASURES = ['count', 'volume', 'sideArea'] as const;
export type CompletenessMeasure = (typeof COMPLETENESS_MEASURES)[number];

/** Quantities that a measure is read from, the first that an element has. */
const QUANTITIES: Readonly<Record<Exclude<CompletenessMeasure, 'count'>, readonly string[]>> = {
  volume: ['netvolume', 'grossvolume'],
  sideArea: ['netsidearea', 'grosssidearea'],
};

/** How much of one group is priced, in part, not, and left out. */
export interface CompletenessRow {
  /** Class, as it is told, or name of the storey; null for elements without one. */
  readonly group: string | null;
  readonly counts: Readonly<Record<CompletenessState, number>>;
  readonly volumes: Readonly<Record<CompletenessState, number>>;
  readonly sideAreas: Readonly<Record<CompletenessState, number>>;
}

/**
 * How complete a plan is by class or by storey: elements, m3 and m2 of side area in each state. What has no volume or side area adds nothing to these; lists and
 * allowances have neither class nor storey and are left to the plan.
 * @param nameClass what classes are told as: those of one name are one group
 */
export function measureCompleteness(
  tables: readonly ElementTable[],
  stateOf: StateOf,
  by: 'class' | 'storey',
  nameClass: (ifcClass: string) => string = (ifcClass) => ifcClass,
): CompletenessRow[] {
  const rows = new Map<string | null, { group: string | null; counts: Record<CompletenessState, number>; volumes: Record<CompletenessState, number>; sideAreas: Record<CompletenessState, number> }>(); // biome-ignore format: one record
  for (const table of tables) {
    if (table.origin) continue;
    const columns = listEffectiveQuantities(table);
    const read = (names: readonly string[], row: number): number => {
      for (const name of names) {
        const value = columns.get(name)?.values[row] ?? Number.NaN;
        if (!Number.isNaN(value)) return value;
      }
      return 0;
    };
    for (let row = 0; row < table.count; row++) {
      const text = readText(by === 'class' ? table.ifcClass : table.storey, row);
      const group = by === 'class' && text !== null ? nameClass(text) : text;
      const of = rows.get(group) ?? {
        group,
        counts: countNothing(),
        volumes: countNothing(),
        sideAreas: countNothing(),
      };
      rows.set(group, of);
      const state = table.excluded?.[row] ? 'leftOut' : (stateOf(table.keys[row]!)?.state ?? 'unpriced');
      of.counts[state]++;
      of.volumes[state] += read(QUANTITIES.volume, row);
      of.sideAreas[state] += read(QUANTITIES.sideArea, row);
    }
  }
  return [...rows.values()].sort((a, b) => (a.group ?? '~') < (b.group ?? '~') ? -1 : 1); // biome-ignore format: one order
}

/** Share of a measure that is priced, of all that is to be priced; null where there is nothing to price. */
export function sharePriced(states: Readonly<Record<CompletenessState, number>>): number | null {
  const all = COMPLETENESS_STATES.reduce((sum, s) => sum + (s === 'leftOut' ? 0 : states[s]), 0);
  return all > 0 ? states.priced / all : null;
}
