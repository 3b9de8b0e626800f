import { COMPLETENESS_STATES, type CompletenessState } from '@tally/core';
import { useNavigate } from 'react-router';
import { useProjectState } from './project-context.tsx';
import { useStates } from './queries.ts';
import { useSelection } from './selection.tsx';

/** Selects the elements of one state and shows them in the model. */
export function useShowStates(): (state: CompletenessState) => void {
  const { project } = useProjectState();
  const { data: states } = useStates(project.id);
  const { select, frame } = useSelection();
  const navigate = useNavigate();
  return (state) => {
    const code = COMPLETENESS_STATES.indexOf(state);
    select((states ?? []).flatMap((s) => s.keys.filter((_, i) => s.states[i] === code)));
    frame();
    navigate(`/projects/${project.id}/model`);
  };
}
