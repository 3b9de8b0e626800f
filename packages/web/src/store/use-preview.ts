import { type EntryDiff, forgetResolved, type MoveDto, settleDiff } from '@tally/core';
import { useIsFetching, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { postJson } from './client.ts';
import { useProjectState } from './project-store.tsx';
import { planKey, projectKey } from './slices.ts';

/** Milliseconds without a new sign after which a change is tried out. */
const PAUSE = 150;

/**
 * How a change would move the plan, before it is made; nothing is asked while there is no change, or while it is still being typed. What is asked and
 * no longer wanted is given up. Unknown until the answer to this very change has come.
 */
export function usePreview(projectId: string, diff: Partial<EntryDiff> | null): MoveDto | undefined {
  const { book } = useProjectState('book');
  const isSettling = useIsFetching({ queryKey: [...projectKey(projectId), 'slice'] }) > 0;
  const wanted = diff && JSON.stringify(settleDiff(forgetResolved(diff), book));
  const [asked, setAsked] = useState(wanted);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(wanted), PAUSE);
    return () => clearTimeout(timer);
  }, [wanted]);
  const isSettled = wanted !== null && wanted === asked;
  const { data } = useQuery({
    queryKey: [...planKey(projectId), 'preview', asked],
    queryFn: ({ signal }) => postJson<MoveDto>(`/projects/${projectId}/preview`, { diff: JSON.parse(asked!) }, signal),
    // What is asked of a state that is being fetched anew may be of the one before.
    enabled: isSettled && !isSettling,
    retry: false,
  });
  return isSettled ? data : undefined;
}
