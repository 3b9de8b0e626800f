import type { ElementTable, ProjectStateDto, RevisionDto } from '@tally/core';
import { useQueries } from '@tanstack/react-query';
import { createContext, useContext, useMemo } from 'react';
import { elementTableQuery } from './queries.ts';

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
  readonly offset: number;
}

export interface LoadedModels {
  readonly models: readonly LoadedModel[];
  readonly isLoading: boolean;
  readonly error: Error | null;
  /** Model and row of an ElementKey. */
  readonly find: (key: number) => { model: LoadedModel; row: number } | null;
}

/** Elements of all counting revisions of the project. */
export function useModels(): LoadedModels {
  const { project, sources } = useProjectState();
  const counting = sources.flatMap((s) => s.revisions.filter((r) => r.state === 'counting'));
  const results = useQueries({ queries: counting.map((r) => elementTableQuery(project.id, r.id)) });
  const signature = counting.map((r, i) => `${r.id}/${r.chunks}/${r.geometryState}/${results[i]?.data ? 1 : 0}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the signature stands for revisions and tables
  return useMemo(() => {
    let offset = 0;
    const models = counting.flatMap((revision, i): LoadedModel[] => {
      const table = results[i]?.data;
      if (!table) return [];
      offset += table.count;
      return [{ revision, table, offset: offset - table.count }];
    });
    const places = new Map<number, { model: LoadedModel; row: number }>();
    for (const model of models) model.table.keys.forEach((key, row) => void places.set(key, { model, row }));
    return {
      models,
      isLoading: results.some((r) => r.isLoading),
      error: results.find((r) => r.error)?.error ?? null,
      find: (key) => places.get(key) ?? null,
    };
  }, [signature]);
}
