import {
  type Assembly,
  type BookContents,
  codeKey,
  dimensionToUnitName,
  type ElementTable,
  evaluateScope,
  listEffectiveQuantities,
  type PricingRule,
  readText,
  sayClass,
  type TriedLine,
  tryAssembly,
} from '@tally/core';
import { useMemo, useState } from 'react';
import { useBasis } from '../../store/project-store.tsx';
import { useElements, useFormulaNames, useSample } from '../../store/use-elements.ts';
import { useOtherTables } from '../../store/use-other-tables.ts';
import { showSiText } from '../../ui/format.ts';
import { checkFormula } from '../../ui/formula-field.tsx';
import { useBook } from './use-book.ts';

/** An element that an assembly can be tried on. */
export interface TrialElement {
  readonly table: ElementTable;
  readonly row: number;
  readonly label: string;
}

/** Most elements that are offered; typing finds the others among them. */
const MOST = 2000;

const describe = (table: ElementTable, row: number): string =>
  [
    readText(table.name, row) ?? sayClass(readText(table.ifcClass, row)),
    readText(table.typeName, row),
    readText(table.storey, row),
  ]
    .filter(Boolean)
    .join(' · ');

/** Quantities that usually drive an assembly, by its unit. */
const DRIVERS: Readonly<Record<string, readonly string[]>> = {
  m: ['Length', 'Perimeter'],
  m2: ['NetSideArea', 'NetArea', 'NetFloorArea', 'OuterSurfaceArea'],
  m3: ['NetVolume'],
  kg: ['Weight'],
  each: ['Count'],
};

/** A quantity of the element that fits the assembly, else one of its unit. */
function chooseDriver({ unit }: Assembly, trial: TrialElement | null): string {
  const columns = trial && listEffectiveQuantities(trial.table);
  const found = (DRIVERS[unit] ?? []).find((name) => {
    const value = columns?.get(name.toLowerCase())?.values[trial!.row];
    return value !== undefined && !Number.isNaN(value);
  });
  return found ?? `1 ${unit}`;
}

function countUnknown(assembly: Assembly, driver: string, book: BookContents, { table, row }: TrialElement): number {
  return tryAssembly(assembly, { driver }, book, table, row).filter((l) => l.isPart && l.net === null).length;
}

/** Of one element of each type, the one with the fewest unknown lines. */
function findFitting(
  trials: readonly TrialElement[],
  count: (trial: TrialElement) => number,
): TrialElement | undefined {
  const types = new Map(trials.map((t) => [readText(t.table.typeName, t.row) ?? t.label, t]));
  let best: { trial: TrialElement; unknown: number } | undefined;
  for (const trial of [...types.values()].slice(0, MOST_TYPES)) {
    const unknown = count(trial);
    if (!best || unknown < best.unknown) best = { trial, unknown };
    if (unknown === 0) break;
  }
  return best?.trial;
}

const MOST_TYPES = 60;

/** An assembly tried on an element: what it is tried on, with which driver, and what comes of it. */
export interface Trial {
  /** Project whose elements are offered; null for this one. */
  readonly projectId: string | null;
  readonly setProjectId: (projectId: string | null) => void;
  readonly isLoading: boolean;
  readonly trials: readonly TrialElement[];
  readonly element: TrialElement | null;
  readonly setElement: (element: TrialElement | null) => void;
  readonly driver: string;
  readonly setDriver: (driver: string) => void;
  /** Why the driver cannot stand. */
  readonly problem: string | null;
  /** The rule that prices the element with the assembly: its driver and its parameters hold. */
  readonly rule: PricingRule | null;
  readonly lines: readonly TriedLine[];
  /** Figure of a name for the element at hand, in words; null if it has none. */
  readonly figureOf: (name: string) => string | null;
}

/**
 * The draft of an assembly worked out on an element of this or another project: one its rule catches, one that is selected, or one that
 * fits. The prices are those of this project.
 */
export function useTrial(assembly: Assembly): Trial {
  const basis = useBasis('rules');
  const { tables: own, isLoading: isOwnLoading } = useElements();
  const selected = useSample();
  const [projectId, setProjectId] = useState<string | null>(null);
  const other = useOtherTables(projectId);
  const tables = projectId === null ? own : other.tables;
  const sample = projectId === null ? selected : null;
  const names = useFormulaNames();
  const book = useBook();
  const rules = useMemo(
    () => basis.rules.filter((r) => r.assembly !== undefined && codeKey(r.assembly) === codeKey(assembly.code)),
    [basis.rules, assembly.code],
  );
  const { trials, isCaught } = useMemo(() => {
    const caught: TrialElement[] = [];
    const others: TrialElement[] = [];
    for (const table of tables) {
      const hits = rules.map((r) => evaluateScope(r.scope, table));
      for (let row = 0; row < table.count; row++) {
        const list = hits.some((h) => h[row]) ? caught : others;
        if (list.length < MOST) list.push({ table, row, label: describe(table, row) });
      }
    }
    return { trials: [...caught, ...others].slice(0, MOST), isCaught: caught.length > 0 };
  }, [tables, rules]);
  /** The element that was chosen, by its key: what it is like may come anew with a revision. */
  const [chosenKey, setChosenKey] = useState<number | null>(null);
  const chosen = useMemo(() => {
    for (const table of chosenKey === null ? [] : tables) {
      const row = table.keys.indexOf(chosenKey!);
      if (row >= 0) return { table, row, label: describe(table, row) };
    }
    return null;
  }, [tables, chosenKey]);
  const [typed, setTyped] = useState<string | null>(null);
  // What it is tried on at first should have what the assembly asks for; looked for once, not at every sign that is typed.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the draft changes with every sign
  const first = useMemo(
    () =>
      (isCaught ? trials[0] : findFitting(trials, (t) => countUnknown(assembly, chooseDriver(assembly, t), book, t))) ??
      null,
    [trials, isCaught, assembly.code],
  );
  const [sampleTable, sampleRow] = [sample?.table, sample?.row ?? -1];
  const sampled = useMemo(
    () => (sampleTable ? { table: sampleTable, row: sampleRow, label: describe(sampleTable, sampleRow) } : null),
    [sampleTable, sampleRow],
  );
  const element = chosen ?? sampled ?? first;
  const rule = useMemo(
    () => (element && rules.find((r) => evaluateScope(r.scope, element.table)[element.row])) ?? null,
    [rules, element],
  );
  const driver = typed ?? rule?.driver ?? chooseDriver(assembly, element);
  const problem = checkFormula(driver, assembly.unit, names);
  const lines = useMemo(
    () =>
      element && problem === null
        ? tryAssembly(assembly, { driver, parameters: rule?.parameters }, book, element.table, element.row)
        : [],
    [assembly, driver, rule, book, element, problem],
  );
  const figureOf = (name: string): string | null => {
    const found = names.find(name);
    const column = element && listEffectiveQuantities(element.table).get((found?.name ?? name).toLowerCase());
    const value = found?.value ?? (column && element ? column.values[element.row] : undefined);
    if (!found || value === undefined || Number.isNaN(value)) return null;
    const unit = dimensionToUnitName(found.dimension);
    return showSiText(value, unit, 'metric');
  };
  return {
    projectId,
    setProjectId: (id) => {
      setProjectId(id);
      setChosenKey(null);
    },
    isLoading: projectId === null ? isOwnLoading : other.isLoading,
    trials,
    element,
    setElement: (next) => setChosenKey(next && (next.table.keys[next.row] ?? null)),
    driver,
    setDriver: setTyped,
    problem,
    rule,
    lines,
    figureOf,
  };
}
