import type { ChangeDto, ProjectEffectDto } from '@tally/core';
import { useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { postJson } from '../../store/client.ts';
import { projectKey } from '../../store/slices.ts';
import { useProblemNotice } from '../../store/use-commit.ts';

/** Takes a change of prices over in other projects, each as a step of its own; says where it could not be. */
export function useTakeOver(): (effects: readonly ProjectEffectDto[], cause: string) => Promise<void> {
  const client = useQueryClient();
  const notice = useProblemNotice();
  const { enqueueSnackbar } = useSnackbar();
  return async (effects, cause) => {
    const done: string[] = [];
    for (const { projectId, name, seq, diff } of effects) {
      try {
        await postJson<ChangeDto>(`/projects/${projectId}/changes`, { base: seq, cause, diff });
        done.push(name);
        await client.invalidateQueries({ queryKey: projectKey(projectId) });
      } catch (failed) {
        notice(failed);
      }
    }
    if (done.length > 0) enqueueSnackbar(`Taken over in ${done.join(', ')} too.`);
  };
}
