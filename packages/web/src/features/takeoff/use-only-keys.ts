import type { CompletenessState, TakeoffView } from '@tally/core';
import { useMemo } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { useChanges, useComparison, useStates } from '../../store/queries.ts';
import { readStates } from '../../store/read-states.ts';

type Only = NonNullable<TakeoffView['only']>;

/** What a table may be limited to, in words. */
export const ONLY_WORDS: Readonly<Record<Only, string>> = {
  open: 'Not fully priced',
  priced: 'Priced',
  leftOut: 'Left out',
  came: 'New in the last revision',
  changed: 'Changed in the last revision',
};
const STATES: Readonly<Partial<Record<Only, readonly CompletenessState[]>>> = {
  open: ['unpriced', 'partly'],
  priced: ['priced'],
  leftOut: ['leftOut'],
};
/** Changes that the last revision is looked for among. */
const MOST_CHANGES = 500;

/** ElementKeys that a table is limited to by the state of the plan or by the last revision; undefined for all, null until they are known. */
export function useOnlyKeys(only: Only | undefined): ReadonlySet<number> | undefined | null {
  const { project } = useProjectState('project');
  const wanted = only && STATES[only];
  const isOfRevision = only === 'came' || only === 'changed';
  const { data: states } = useStates(project.id, wanted !== undefined);
  const { data: changes } = useChanges(project.id, MOST_CHANGES, isOfRevision);
  const revision = isOfRevision ? (changes?.find((c) => c.isRevision)?.seq ?? null) : null;
  const { data: moved } = useComparison(project.id, revision === null ? null : `seq:${revision - 1}`, revision === null ? null : `seq:${revision}`); // biome-ignore format: one question
  return useMemo(() => {
    if (only === undefined) return undefined;
    // Where there is no revision yet, nothing came with it.
    const isKnown = wanted ? states !== undefined : moved !== undefined || (changes !== undefined && revision === null);
    if (!isKnown) return null;
    const keys = new Set<number>();
    if (wanted) {
      for (const [key, { state }] of readStates(states)) if (wanted.includes(state)) keys.add(key);
    } else for (const e of moved?.elements ?? []) if (e.what === only) keys.add(e.key);
    return keys;
  }, [only, wanted, states, moved, changes, revision]);
}
