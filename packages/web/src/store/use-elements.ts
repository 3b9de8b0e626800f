import {
  type Classification,
  chooseClassification,
  compileScales,
  compileValues,
  type ElementTable,
  type FormulaName,
  FormulaNames,
  listQuantityNames,
  listRateNames,
} from '@tally/core';
import { useMemo } from 'react';
import type { LoadedModels } from './loaded-models.ts';
import { useBasis, useProjectState } from './project-store.tsx';
import { useSelection } from './selection.tsx';

/** Elements of all counting revisions of the project, with what the project adds to them. */
export const useElements = (): LoadedModels => useProjectState('elements').elements;

const derived = new WeakMap<readonly ElementTable[], Map<unknown, unknown>>();

/** What is worked out of all tables: once for all that ask for it by the same function, and again when a table changes. */
export function useFromTables<T>(derive: (tables: readonly ElementTable[]) => T): T {
  const { tables } = useElements();
  const known = derived.get(tables) ?? new Map<unknown, unknown>();
  derived.set(tables, known);
  if (!known.has(derive)) known.set(derive, derive(tables));
  return known.get(derive) as T;
}

/** Names that formulas may use beyond the standard quantities: what models state, and what was given here. */
export function useQuantityNames(): readonly FormulaName[] {
  const { named } = useElements();
  return useMemo(() => listQuantityNames(named).list(), [named]);
}

/** Names that formulas of the book may use: the quantities, the named values, and the scales beside them. */
export function useFormulaNames(): FormulaNames {
  const quantities = useQuantityNames();
  const { values, scales } = useBasis('values', 'scales');
  return useMemo(() => {
    const looked = compileScales(scales);
    return new FormulaNames([...compileValues(values, looked), ...quantities], looked);
  }, [quantities, values, scales]);
}

/** Names that the rate of an item may use. */
export function useRateNames(): FormulaNames {
  const names = useFormulaNames();
  const { assemblies } = useBasis('assemblies');
  return useMemo(() => listRateNames(names, assemblies), [names, assemblies]);
}

/** The classification in use: that of the settings, else the one that comes with the application. */
export function useClassification(): Classification {
  const { settings } = useBasis('settings');
  const { classifications } = useProjectState('classifications');
  return chooseClassification(settings.classification, classifications);
}

/** The selected element with its table, if exactly one is selected. */
export function useSample(): { readonly table: ElementTable; readonly row: number } | null {
  const { find } = useElements();
  const { keys } = useSelection();
  const place = keys.size === 1 ? find([...keys][0]!) : null;
  return place && { table: place.model.table, row: place.row };
}
