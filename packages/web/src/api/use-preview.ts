import type { EntryDiff, MoveDto } from '@tally/core';
import { useQuery } from '@tanstack/react-query';
import { postJson } from './client.ts';
import { projectKey } from './queries.ts';

/** How a change would move the plan, before it is made; nothing is asked while there is no change. */
export function usePreview(projectId: string, diff: Partial<EntryDiff> | null): MoveDto | undefined {
  const whole = { added: diff?.added ?? [], updated: diff?.updated ?? [], removed: diff?.removed ?? [] };
  const { data } = useQuery({
    queryKey: [...projectKey(projectId), 'preview', JSON.stringify(whole)],
    queryFn: () => postJson<MoveDto>(`/projects/${projectId}/preview`, { diff: whole }),
    enabled: diff !== null,
    retry: false,
  });
  return diff === null ? undefined : data;
}
