import {
  type ChangeDto,
  decodeElementTable,
  type ElementChangesDto,
  type ElementCostDto,
  type ElementStatesDto,
  type ElementTable,
  type GroupField,
  type PastRate,
  type PlanDto,
  type PriceFileDto,
  type ProjectListDto,
  type ProjectStateDto,
  type PurchaseDto,
  type TablePartsDto,
} from '@tally/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { getBytes, getJson } from './client.ts';

/** Keys of everything that follows a project's changes start with this. */
export const projectKey = (id: string) => ['project', id] as const;

/** Price lists that lie in the price folder. */
export const usePriceFolder = (projectId: string) =>
  useQuery({
    queryKey: [...projectKey(projectId), 'price-folder'],
    queryFn: () => getJson<PriceFileDto[]>(`/projects/${projectId}/price-folder`),
  });

export const useProjects = () =>
  useQuery({ queryKey: ['projects'], queryFn: () => getJson<ProjectListDto[]>('/projects') });

/** State of a project that pages start from. */
export const projectQuery = (id: string) => ({
  queryKey: [...projectKey(id), 'state'],
  queryFn: () => getJson<ProjectStateDto>(`/projects/${id}`),
});

export const useProject = (id: string) => useQuery(projectQuery(id));

export const usePlan = (id: string, by: readonly GroupField[]) =>
  useQuery({
    queryKey: [...projectKey(id), 'plan', by.join()],
    queryFn: () => getJson<PlanDto>(`/projects/${id}/plan?by=${by.join()}`),
    placeholderData: keepPreviousData,
  });

/** What has to be bought, by item. */
export const usePurchases = (id: string) =>
  useQuery({
    queryKey: [...projectKey(id), 'purchases'],
    queryFn: () => getJson<PurchaseDto[]>(`/projects/${id}/purchases`),
    placeholderData: keepPreviousData,
  });

/** Rates an item had, oldest first. */
export const useRateHistory = (id: string, code: string) =>
  useQuery({
    queryKey: [...projectKey(id), 'rates', code],
    queryFn: () => getJson<PastRate[]>(`/projects/${id}/items/${encodeURIComponent(code)}/rates`),
  });

export const useChanges = (id: string) =>
  useQuery({
    queryKey: [...projectKey(id), 'changes'],
    queryFn: () => getJson<ChangeDto[]>(`/projects/${id}/changes?limit=200`),
  });

export const useStates = (id: string) =>
  useQuery({
    queryKey: [...projectKey(id), 'states'],
    queryFn: () => getJson<ElementStatesDto[]>(`/projects/${id}/elements/states`),
    placeholderData: keepPreviousData,
  });

export const useElementCost = (id: string, key: number | null) =>
  useQuery({
    queryKey: [...projectKey(id), 'cost', key],
    queryFn: () => getJson<ElementCostDto>(`/projects/${id}/elements/${key}/cost`),
    enabled: key !== null,
    placeholderData: keepPreviousData,
  });

export const useChangedElements = (id: string, seq: number | null) =>
  useQuery({
    queryKey: [...projectKey(id), 'changed-elements', seq],
    queryFn: () => getJson<ElementChangesDto>(`/projects/${id}/changes/${seq}/elements`),
    enabled: seq !== null,
  });

/** What is measured of shapes because the project asks for it, by revision. */
export const useParts = (id: string, isAsked: boolean) =>
  useQuery({
    queryKey: [...projectKey(id), 'parts'],
    queryFn: () => getJson<TablePartsDto[]>(`/projects/${id}/parts`),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });

/** The element table of a revision; it never changes. */
export const elementTableQuery = (projectId: string, revisionId: string) => ({
  queryKey: ['elements', revisionId],
  queryFn: async (): Promise<ElementTable> => {
    const table = decodeElementTable(await getBytes(`/projects/${projectId}/revisions/${revisionId}/elements`));
    if (!table.ok) throw new Error(`${table.problem.message} ${table.problem.remedy ?? ''}`);
    return table.value;
  },
  staleTime: Number.POSITIVE_INFINITY,
});
