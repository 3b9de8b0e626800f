import { applyAdditions, type ElementTable, readAdditions } from '@tally/core';
import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { elementTableQuery } from './queries.ts';
import { useProject } from './slices.ts';

/** Elements of another project's counting revisions, with what that project adds to them; none while nothing is asked. */
export function useOtherTables(projectId: string | null): { tables: readonly ElementTable[]; isLoading: boolean } {
  const state = useProject(projectId ?? '', projectId !== null);
  const counting = state.data?.sources.flatMap((s) => s.revisions.filter((r) => r.state === 'counting')) ?? [];
  const results = useQueries({ queries: counting.map((r) => elementTableQuery(projectId!, r.id)) });
  const loaded = results.flatMap((r) => r.data ?? []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: tables never change, only more of them come
  const tables = useMemo(() => {
    if (!state.data) return [];
    const { layer, basis } = state.data;
    const additions = readAdditions(layer, basis.settings);
    return loaded.map((table) => applyAdditions(table, additions, null));
  }, [state.data, loaded.length]);
  return { tables, isLoading: projectId !== null && (state.isLoading || results.some((r) => r.isLoading)) };
}
