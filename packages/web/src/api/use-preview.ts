import { type EntryDiff, type MoveDto, settleDiff } from '@tally/core';
import { useIsFetching, useQuery } from '@tanstack/react-query';
import { postJson } from './client.ts';
import { useProjectState } from './project-context.tsx';
import { planKey, projectKey } from './slices.ts';

/** How a change would move the plan, before it is made; nothing is asked while there is no change. */
export function usePreview(projectId: string, diff: Partial<EntryDiff> | null): MoveDto | undefined {
  const { book } = useProjectState();
  const isSettling = useIsFetching({ queryKey: [...projectKey(projectId), 'slice'] }) > 0;
  const whole = diff && settleDiff(diff, book);
  const { data } = useQuery({
    queryKey: [...planKey(projectId), 'preview', JSON.stringify(whole)],
    queryFn: ({ signal }) => postJson<MoveDto>(`/projects/${projectId}/preview`, { diff: whole }, signal),
    // What is asked of a state that is being fetched anew may be of the one before.
    enabled: whole !== null && !isSettling,
    retry: false,
  });
  return whole === null ? undefined : data;
}
