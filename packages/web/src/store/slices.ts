import {
  composeProject,
  ENTRY_SLICES,
  type EntrySlice,
  type EntrySliceDto,
  type HeldSlice,
  mergeSlice,
  type ProjectSourcesDto,
  type ProjectStateDto,
  type ProjectSummaryDto,
} from '@tally/core';
import { type QueryClient, useQueries, useQuery } from '@tanstack/react-query';
import { useMemo, useRef } from 'react';
import { getJson } from './client.ts';

/** Keys of everything that is read of a project start with this. */
export const projectKey = (id: string) => ['project', id] as const;
export const summaryKey = (id: string) => [...projectKey(id), 'summary'] as const;
export const sourcesKey = (id: string) => [...projectKey(id), 'sources'] as const;
const sliceKey = (id: string, slice: EntrySlice) => [...projectKey(id), 'slice', slice] as const;
/** Keys of what is read of the plan start with this. */
export const planKey = (id: string) => [...projectKey(id), 'of-plan'] as const;
/** What follows each change: the tape, lists of changes. */
export const changesKey = (id: string) => [...projectKey(id), 'changes'] as const;

const summaryQuery = (id: string) => ({
  queryKey: summaryKey(id),
  queryFn: () => getJson<ProjectSummaryDto>(`/projects/${id}`),
});
const sourcesQuery = (id: string) => ({
  queryKey: sourcesKey(id),
  queryFn: () => getJson<ProjectSourcesDto>(`/projects/${id}/sources`),
});

/** A slice is read whole once, then brought up to date by what changed in it. */
const sliceQuery = (id: string, slice: EntrySlice) => ({
  queryKey: sliceKey(id, slice),
  queryFn: async ({ client }: { client: QueryClient }): Promise<HeldSlice> => {
    const held = client.getQueryData<HeldSlice>(sliceKey(id, slice));
    const since = held ? `?since=${held.seq}` : '';
    return mergeSlice(held, await getJson<EntrySliceDto>(`/projects/${id}/slices/${slice}${since}`));
  },
  structuralSharing: false,
});

/** Everything of a project, put together of its parts; undefined until all of them are here. */
export function useProject(
  id: string,
  enabled = true,
): { readonly data: ProjectStateDto | undefined; readonly error: Error | null; readonly isLoading: boolean } {
  const summary = useQuery({ ...summaryQuery(id), enabled });
  const sources = useQuery({ ...sourcesQuery(id), enabled });
  const slices = useQueries({ queries: ENTRY_SLICES.map((slice) => ({ ...sliceQuery(id, slice), enabled })) });
  const held = slices.map((s) => s.data);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the slices are named one by one
  const data = useMemo(() => {
    if (!summary.data || !sources.data || held.some((h) => !h)) return undefined;
    const named = Object.fromEntries(ENTRY_SLICES.map((slice, i) => [slice, held[i]!]));
    return composeProject(summary.data, named as Record<EntrySlice, HeldSlice>, sources.data);
  }, [summary.data, sources.data, ...held]);
  const error = summary.error ?? sources.error ?? slices.find((s) => s.error)?.error ?? null;
  // While parts of it are on their way, what is shown stays: all of a change comes on screen at once.
  const isOnItsWay = summary.isFetching || slices.some((s) => s.isFetching);
  const shown = useRef<{ readonly id: string; readonly data: ProjectStateDto } | null>(null);
  if (data && !(isOnItsWay && shown.current?.id === id)) shown.current = { id, data };
  return {
    data: shown.current?.id === id ? shown.current.data : undefined,
    error,
    isLoading: enabled && data === undefined && error === null,
  };
}

/** How many findings of a project are open, and the money at stake in them in minor units, as every page tells. */
export function useOpenFindings(id: string): { readonly count: number; readonly stake: number } {
  const { data } = useQuery(summaryQuery(id));
  return { count: data?.openFindings ?? 0, stake: data?.openStake ?? 0 };
}

/** What a change is made on: the state on screen, and the book that the project stands on. */
export function readBase(
  client: QueryClient,
  id: string,
): { readonly seq: number; readonly book: ProjectStateDto['book'] } {
  const summary = client.getQueryData<ProjectSummaryDto>(summaryKey(id));
  // While a slice is on its way, what is on screen of it is older than the summary says.
  const isSettled = client.isFetching({ queryKey: [...projectKey(id), 'slice'] }) === 0;
  const seqs = ENTRY_SLICES.flatMap((slice) => client.getQueryData<HeldSlice>(sliceKey(id, slice))?.seq ?? []);
  return { seq: Math.min(summary?.project.seq ?? 0, ...(isSettled ? [] : seqs)), book: summary?.book ?? null };
}

/** Slices that no plan depends on. */
const APART: ReadonlySet<EntrySlice> = new Set(['notes']);

/** Reads again what a change of some slices may have made otherwise. */
export function refreshSlices(client: QueryClient, id: string, slices: readonly EntrySlice[]): Promise<unknown> {
  const keys: (readonly unknown[])[] = [summaryKey(id), changesKey(id), ...slices.map((slice) => sliceKey(id, slice))];
  if (slices.some((slice) => !APART.has(slice))) keys.push(planKey(id));
  if (slices.includes('settings')) keys.push(sourcesKey(id));
  if (slices.some((slice) => slice !== 'rules')) keys.push(findingsKey(id));
  return Promise.all(keys.map((queryKey) => readAgain(client, queryKey)));
}

/**
 * Reads again what is held under a key. What is on its way for the first time may be of the state before: it is read once more when it has
 * come (a second reading does not take the place of a first one by itself).
 */
export async function readAgain(client: QueryClient, queryKey: readonly unknown[]): Promise<void> {
  const first = client
    .getQueryCache()
    .findAll({ queryKey, fetchStatus: 'fetching', predicate: (query) => query.state.data === undefined });
  await client.invalidateQueries({ queryKey });
  await Promise.allSettled(first.map((query) => query.promise));
  await Promise.all(first.map((query) => client.invalidateQueries({ queryKey: query.queryKey, exact: true })));
}

/** Whether something of the entries may be older than the summary. */
export function isBehind(client: QueryClient, id: string): boolean {
  const seq = client.getQueryData<ProjectSummaryDto>(summaryKey(id))?.project.seq ?? 0;
  return ENTRY_SLICES.some((slice) => (client.getQueryData<HeldSlice>(sliceKey(id, slice))?.seq ?? seq) < seq);
}

export const findingsKey = (id: string) => [...projectKey(id), 'findings'] as const;
