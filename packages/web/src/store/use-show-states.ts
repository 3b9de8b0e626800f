import { COMPLETENESS_STATES, type CompletenessState } from '@tally/core';
import { useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { useProjectState } from './project-store.tsx';
import { statesQuery } from './queries.ts';
import { useSelection } from './selection.tsx';
import { useProblemNotice } from './use-commit.ts';

/** Selects the elements of one state and shows them in the model. */
export function useShowStates(): (state: CompletenessState) => void {
  const { project } = useProjectState('project');
  const client = useQueryClient();
  const notice = useProblemNotice();
  const { select, frame } = useSelection();
  const navigate = useNavigate();
  return (state) => {
    const code = COMPLETENESS_STATES.indexOf(state);
    client.fetchQuery(statesQuery(project.id)).then((states) => {
      select(states.flatMap((s) => s.keys.filter((_, i) => s.states[i] === code)));
      frame();
      navigate(`/projects/${project.id}/model`);
    }, notice);
  };
}
