import {
  applyAdditions,
  buildDrawnRooms,
  buildProjectAllowances,
  type Classification,
  chooseClassification,
  compileScales,
  compileValues,
  type ElementTable,
  type FormulaName,
  FormulaNames,
  listEffectiveQuantities,
  listQuantityNames,
  listRateNames,
  type ProjectAdditions,
  type ProjectStateDto,
  type RevisionDto,
  readAdditions,
  receiveParts,
  type TablePartsDto,
} from '@tally/core';
import { useQueries } from '@tanstack/react-query';
import { createContext, useContext, useMemo } from 'react';
import { elementTableQuery, useParts } from './queries.ts';
import { useSelection } from './selection.tsx';

const ProjectContext = createContext<ProjectStateDto | null>(null);
export const ProjectProvider = ProjectContext.Provider;

/** State of the project that the page is about. */
export function useProjectState(): ProjectStateDto {
  const state = useContext(ProjectContext);
  if (!state) throw new Error('useProjectState needs a project page above it.');
  return state;
}

/** A counting revision with its elements; `offset` numbers its rows among all models'. */
export interface LoadedModel {
  readonly revision: RevisionDto;
  readonly table: ElementTable;
  /** The same table as the file has it. */
  readonly plain: ElementTable;
  readonly offset: number;
}

export interface LoadedModels {
  readonly models: readonly LoadedModel[];
  readonly isLoading: boolean;
  readonly error: Error | null;
  /** Model and row of an ElementKey. */
  readonly find: (key: number) => { model: LoadedModel; row: number } | null;
}

/** Stands for the rooms drawn here among the revisions of models. */
const DRAWN: RevisionDto = {
  id: 'drawn',
  sourceId: 'drawn',
  number: 0,
  fileName: '',
  state: 'counting',
  elements: 0,
  matched: 0,
  schema: '',
  lengthUnit: '',
  findingLines: 0,
  geometryState: 'done',
  chunks: 0,
  createdAt: '',
};

/** Stands for the costs without an object among the revisions of models. */
const ALLOWANCES: RevisionDto = { ...DRAWN, id: 'allowances', sourceId: 'allowances' };

/** Tables as the project sees them: every component gets the same one, and with it what was worked out about it. */
const seen = new WeakMap<ElementTable, { readonly by: readonly unknown[]; readonly table: ElementTable }>();

function seeTable(
  plain: ElementTable,
  additions: ProjectAdditions,
  parts: TablePartsDto | undefined,
  by: readonly unknown[],
): ElementTable {
  const known = seen.get(plain);
  if (known?.by.every((part, i) => part === by[i])) return known.table;
  const table = applyAdditions(plain, additions, parts ? receiveParts(parts) : null);
  seen.set(plain, { by, table });
  return table;
}

/** Elements of all counting revisions of the project, with what the project adds to them. */
export function useModels(): LoadedModels {
  const { project, sources, layer, basis } = useProjectState();
  const counting = sources.flatMap((s) => s.revisions.filter((r) => r.state === 'counting'));
  const results = useQueries({ queries: counting.map((r) => elementTableQuery(project.id, r.id)) });
  const isAsked = layer.limits.length > 0 || Object.keys(layer.chosenFaces).length > 0;
  const { data } = useParts(project.id, isAsked);
  const parts = isAsked ? data : undefined;
  const { quantityChoices, quantityOverrides, functionalUnits } = basis.settings;
  const signature = counting.map((r, i) => `${r.id}/${r.chunks}/${r.geometryState}/${results[i]?.data ? 1 : 0}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the signature stands for revisions and tables
  return useMemo(() => {
    let offset = 0;
    const additions = readAdditions(layer, { quantityChoices, quantityOverrides, functionalUnits });
    const models = counting.flatMap((revision, i): LoadedModel[] => {
      const plain = results[i]?.data;
      if (!plain) return [];
      const own = parts?.find((p) => p.revisionId === revision.id);
      const table = seeTable(plain, additions, own, [layer, quantityChoices, quantityOverrides, own]);
      offset += table.count;
      return [{ revision, table, plain, offset: offset - table.count }];
    });
    const drawn = buildDrawnRooms(
      additions.drawnRooms,
      models.flatMap((m) => m.table.wallOpenings),
    );
    const ownParts = parts?.find((p) => p.revisionId === DRAWN.id);
    if (drawn)
      models.push({
        revision: DRAWN,
        table: applyAdditions(drawn, additions, ownParts ? receiveParts(ownParts) : null),
        plain: drawn,
        offset,
      });
    const allowances = buildProjectAllowances(
      additions,
      models.map((m) => m.table),
    );
    if (allowances) {
      const { table: last, offset: from } = models.at(-1) ?? { table: { count: 0 }, offset: 0 };
      const table = applyAdditions(allowances, additions);
      models.push({ revision: ALLOWANCES, table, plain: allowances, offset: from + last.count });
    }
    const places = new Map<number, { model: LoadedModel; row: number }>();
    for (const model of models) model.table.keys.forEach((key, row) => void places.set(key, { model, row }));
    return {
      models,
      isLoading: results.some((r) => r.isLoading),
      error: results.find((r) => r.error)?.error ?? null,
      find: (key) => places.get(key) ?? null,
    };
  }, [signature, layer, parts, quantityChoices, quantityOverrides, functionalUnits]);
}

/** Names that formulas may use beyond the standard quantities: what models state, and what was given here. */
export function useQuantityNames(): readonly FormulaName[] {
  const { models } = useModels();
  return useMemo(
    () => listQuantityNames(models.flatMap((m) => [...listEffectiveQuantities(m.table).values()])).list(),
    [models],
  );
}

/** Names that formulas of the book may use: the quantities, the named values, and the scales beside them. */
export function useFormulaNames(): FormulaNames {
  const quantities = useQuantityNames();
  const { basis } = useProjectState();
  const { values, scales } = basis;
  return useMemo(() => {
    const looked = compileScales(scales);
    return new FormulaNames([...compileValues(values, looked), ...quantities], looked);
  }, [quantities, values, scales]);
}

/** Names that the rate of an item may use. */
export function useRateNames(): FormulaNames {
  const names = useFormulaNames();
  const { assemblies } = useProjectState().basis;
  return useMemo(() => listRateNames(names, assemblies), [names, assemblies]);
}

/** The classification in use: that of the settings, else the one that comes with the application. */
export function useClassification(): Classification {
  const { basis, classifications } = useProjectState();
  return chooseClassification(basis.settings.classification, classifications);
}

/** The selected element with its table, if exactly one is selected. */
export function useSample(): { readonly table: ElementTable; readonly row: number } | null {
  const { find } = useModels();
  const { keys } = useSelection();
  const place = keys.size === 1 ? find([...keys][0]!) : null;
  return place && { table: place.model.table, row: place.row };
}
