import type { ElementKind, KindGrouping } from '@tally/core';
import { useMemo } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { useStates } from '../../store/queries.ts';
import { useElements } from '../../store/use-elements.ts';
import { readKinds } from './kind-states.ts';

/** The kinds of the project's elements, what misses most money first. Undefined until elements and plan are read. */
export function useKinds(by: KindGrouping): readonly ElementKind[] | undefined {
  const { project } = useProjectState('project');
  const { tables, isLoading } = useElements();
  const { data: states } = useStates(project.id);
  return useMemo(
    () => (states && !isLoading ? readKinds(tables, states, by) : undefined),
    [tables, isLoading, states, by],
  );
}
