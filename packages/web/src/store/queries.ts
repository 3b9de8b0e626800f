import {
  type BehindDto,
  type ChangeDto,
  type CheckedDto,
  type ComparedElementDto,
  type ComparisonDto,
  decodeElementTable,
  type ElementCostDto,
  type ElementStatesDto,
  type ElementTable,
  type Finding,
  type FindingsPageDto,
  type GroupField,
  type HeldBand,
  type HeldTarget,
  type ItemCut,
  type ListedFinding,
  type PastRate,
  type PlanDto,
  type PlanView,
  type PriceFileDto,
  type ProjectListDto,
  type ProjectPractice,
  type PurchaseDto,
  type TablePartsDto,
} from '@tally/core';
import { hashKey, keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { getBytes, getJson, postJson } from './client.ts';
import { keepStates } from './keep-states.ts';
import { changesKey, findingsKey, planKey, projectKey } from './slices.ts';

/** Price lists that lie in the price folder. */
export const usePriceFolder = (projectId: string) =>
  useQuery({
    queryKey: [...projectKey(projectId), 'price-folder'],
    queryFn: () => getJson<PriceFileDto[]>(`/projects/${projectId}/price-folder`),
  });

export const useProjects = () =>
  useQuery({ queryKey: ['projects'], queryFn: () => getJson<ProjectListDto[]>('/projects') });

/** A view of the plan as it stands in an address. */
export const planQuery = (view: PlanView): string => `view=${encodeURIComponent(JSON.stringify(view))}`;

/** A plan with the view that it is of: while another is on its way, the one before stays, and its rows mean what that view says. */
export type SeenPlan = PlanDto & { readonly view: PlanView };

export const usePlan = (id: string, view: PlanView) =>
  useQuery({
    queryKey: [...planKey(id), 'plan', JSON.stringify(view)],
    queryFn: async (): Promise<SeenPlan> => ({
      ...(await getJson<PlanDto>(`/projects/${id}/plan?${planQuery(view)}`)),
      view,
    }),
    placeholderData: keepPreviousData,
  });

/** What groups of the plan by a field are called; none while that is not known, and none without a field. */
export function usePlanLabels(id: string, by: GroupField | ''): readonly string[] {
  const view = useMemo(() => ({ by: by === '' ? [] : [by] }), [by]);
  const { data } = usePlan(id, view);
  return useMemo(() => (by === '' || data?.view.by[0] !== by ? [] : data.groups.map((g) => g.label)), [by, data]);
}

/** The elements behind a line or group of a plan; nothing is asked while there is none, and none stand for those of another row. */
export const useBehind = (id: string, view: PlanView, line: string | null) =>
  useQuery({
    queryKey: [...planKey(id), 'behind', JSON.stringify(view), line],
    queryFn: () => getJson<BehindDto>(`/projects/${id}/plan/behind?${planQuery(view)}&id=${encodeURIComponent(line!)}`),
    enabled: line !== null,
  });

/** Targets held against the plan, the one for the whole first. */
export const useTargets = (id: string, isAsked = true) =>
  useQuery({
    queryKey: [...planKey(id), 'targets'],
    queryFn: () => getJson<HeldTarget[]>(`/projects/${id}/targets`),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });

/** What classes and element codes cost per unit, against what is usual. */
export const useBands = (id: string, isAsked = true) =>
  useQuery({
    queryKey: [...planKey(id), 'bands'],
    queryFn: () => getJson<HeldBand[]>(`/projects/${id}/bands`),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });

/** What was checked and what was not. */
export const useChecked = (id: string, isAsked = true) =>
  useQuery({
    queryKey: [...planKey(id), 'checked'],
    queryFn: () => getJson<CheckedDto>(`/projects/${id}/checked`),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });

/** Items that are sold in lengths. */
export const useCutItems = (id: string) =>
  useQuery({
    queryKey: [...planKey(id), 'cutting'],
    queryFn: () => getJson<{ code: string; description: string; isByList: boolean }[]>(`/projects/${id}/cutting`),
    placeholderData: keepPreviousData,
  });

/** How the pieces of an item are cut. */
export const useCut = (id: string, code: string | null) =>
  useQuery({
    queryKey: [...planKey(id), 'cutting', code],
    queryFn: () => getJson<{ lists: ItemCut[] }>(`/projects/${id}/cutting/${encodeURIComponent(code!)}`),
    enabled: code !== null,
    retry: false,
    meta: { isTold: true },
  });

/** What earlier projects of this server price their elements with. */
export const usePractice = (id: string) =>
  useQuery({
    queryKey: [...projectKey(id), 'practice'],
    queryFn: () => getJson<{ projects: ProjectPractice[] }>(`/projects/${id}/practice`),
    staleTime: 60_000,
  });

/** What has to be bought, by item. */
export const usePurchases = (id: string) =>
  useQuery({
    queryKey: [...planKey(id), 'purchases'],
    queryFn: () => getJson<PurchaseDto[]>(`/projects/${id}/purchases`),
    placeholderData: keepPreviousData,
    meta: { isTold: true },
  });

/** Rates an item had, oldest first. */
export const useRateHistory = (id: string, code: string) =>
  useQuery({
    queryKey: [...changesKey(id), 'rates', code],
    queryFn: () => getJson<PastRate[]>(`/projects/${id}/items/${encodeURIComponent(code)}/rates`),
  });

/** The newest changes, so many of them. */
export const useChanges = (id: string, limit: number, isAsked = true) =>
  useQuery({
    queryKey: [...changesKey(id), limit],
    queryFn: () => getJson<ChangeDto[]>(`/projects/${id}/changes?limit=${limit}`),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });

/** State and amount of every element. */
export const statesQuery = (id: string) => ({
  queryKey: [...planKey(id), 'states'],
  queryFn: () => getJson<ElementStatesDto[]>(`/projects/${id}/elements/states`),
  structuralSharing: (held: unknown, read: unknown) =>
    keepStates(held as readonly ElementStatesDto[] | undefined, read as readonly ElementStatesDto[]),
});

export const useStates = (id: string, isAsked = true) =>
  useQuery({ ...statesQuery(id), enabled: isAsked, placeholderData: keepPreviousData });

/** What the selected elements cost, in 1/10,000 of a minor unit; nothing is asked while none is selected. */
export const useSelectionAmount = (id: string, keys: ReadonlySet<number>) =>
  useQuery({
    queryKey: [...planKey(id), 'amount', [...keys].join()],
    queryFn: () => postJson<{ amount: number }>(`/projects/${id}/elements/amount`, { keys: [...keys] }),
    enabled: keys.size > 0,
    placeholderData: keepPreviousData,
  });

/** Findings of a page that the server gives at once, and of a project that are read at most. */
const [FINDINGS_AT_ONCE, MOST_FINDINGS] = [2000, 20_000];

/** Findings of the revisions that count or wait. */
export const useFindings = (id: string) =>
  useQuery({
    queryKey: findingsKey(id),
    queryFn: async (): Promise<{ readonly total: number; readonly findings: readonly ListedFinding[] }> => {
      const findings: ListedFinding[] = [];
      for (;;) {
        const range = `from=${findings.length}&limit=${FINDINGS_AT_ONCE}`;
        const page = await getJson<FindingsPageDto>(`/projects/${id}/findings?${range}`);
        findings.push(...page.findings);
        const isWhole = page.findings.length === 0 || findings.length >= Math.min(page.total, MOST_FINDINGS);
        if (isWhole) return { total: page.total, findings };
      }
    },
    placeholderData: keepPreviousData,
  });

/** Findings of one revision. */
export const useRevisionFindings = (id: string, revisionId: string, isAsked: boolean) =>
  useQuery({
    queryKey: [...findingsKey(id), revisionId],
    queryFn: () => getJson<Finding[]>(`/projects/${id}/revisions/${revisionId}/findings`),
    enabled: isAsked,
  });

/** What an element costs; undefined until it is known of that element. */
export const useElementCost = (id: string, key: number | null) =>
  useQuery({
    queryKey: [...planKey(id), 'cost', key],
    queryFn: () => getJson<ElementCostDto>(`/projects/${id}/elements/${key}/cost`),
    enabled: key !== null,
  });

/** The name under which a comparison is held. */
export const comparisonKey = (id: string, from: string | null, to: string | null, by: string) => [...planKey(id), 'compare', from, to, by] as const; // biome-ignore format: one key

/** The reading of a comparison, by its name. */
export const comparisonOf = (id: string, from: string, to: string, by: string) => ({
  queryKey: comparisonKey(id, from, to, by),
  queryFn: ({ signal }: { readonly signal: AbortSignal }) => getJson<ComparisonDto>(`/projects/${id}/compare?${comparisonQuery(from, to)}&by=${encodeURIComponent(by)}`, signal), // biome-ignore format: one question
});

/** How two states of a project differ; nothing is asked while one of them is not chosen. @param from @param to as the server names states */
export const useComparison = (id: string, from: string | null, to: string | null, by = 'section') =>
  useQuery({
    ...comparisonOf(id, from!, to!, by),
    enabled: from !== null && to !== null,
    // Until it is there by another field the one of the same two stays; that of two others would be taken for theirs.
    placeholderData: (held: ComparisonDto | undefined, before) =>
      before && hashKey(before.queryKey) === hashKey([...comparisonKey(id, from, to, by).slice(0, -1), before.queryKey.at(-1)]) ? held : undefined, // biome-ignore format: one test
    retry: false,
    meta: { isTold: true },
  });

/** An element on both sides of a comparison. */
export const useComparedElement = (id: string, from: string | null, to: string | null, key: number | null) =>
  useQuery({
    queryKey: [...planKey(id), 'compare', from, to, 'element', key],
    queryFn: () =>
      getJson<ComparedElementDto>(`/projects/${id}/compare/elements/${key}?${comparisonQuery(from!, to!)}`),
    enabled: from !== null && to !== null && key !== null,
  });

const comparisonQuery = (from: string, to: string) => `from=${encodeURIComponent(from)}&to=${encodeURIComponent(to)}`;

/** What is measured of shapes because the project asks for it, by revision. */
export const useParts = (id: string, isAsked: boolean) =>
  useQuery({
    queryKey: [...planKey(id), 'parts'],
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
