import {
  type ChangeDto,
  ENTRY_SLICES,
  type EntryDiff,
  type EntrySlice,
  forgetResolved,
  type GiveAttributeRequest,
  listDiffSlices,
  settleDiff,
} from '@tally/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { ApiProblem, isUnreachable, postJson } from './client.ts';
import { readBase, refreshSlices } from './slices.ts';
import { tellChange } from './tell-change.ts';

/** Why something was refused, in words. */
export const describeError = (error: unknown): string =>
  error instanceof ApiProblem
    ? [error.problem.detail, error.problem.remedy].filter(Boolean).join(' ')
    : error instanceof Error
      ? error.message
      : String(error);

/** What a cell is told of a change: null when it is done, else why it was refused, so that it keeps what was typed. */
export const refusalOf = (done: Promise<unknown>): Promise<string | null> => done.then(() => null, describeError);

/** Shows a failed action where the user is looking, with what to do. */
export function useProblemNotice(): (error: unknown) => void {
  const { enqueueSnackbar } = useSnackbar();
  return (error) => void enqueueSnackbar(describeError(error), { variant: 'error' });
}

/**
 * What was typed while nobody answers waits, and is sent again: one that had arrived after all fits no more and is refused, so that
 * nothing is done twice. After some minutes it is refused like anything else, and stays where it was typed.
 */
const WAITING = {
  retry: (times: number, error: Error) => isUnreachable(error) && times < 150,
  retryDelay: 2000,
  networkMode: 'always',
} as const;

/** What can be committed: changes of entries under a cause, or one attribute for many elements (null takes it away). */
type Commit =
  | { readonly cause: string; readonly diff: Partial<EntryDiff> }
  | (Pick<GiveAttributeRequest, 'name' | 'value'> & { readonly keys: readonly number[] });

/**
 * Commits what is asked, based on the state on screen. What is refused is told, and the newest state is read: it was made on what is not there any
 * more. `mutateAsync` rejects with the refusal, so that a cell or a form keeps what was typed.
 */
export function useCommit(projectId: string) {
  const client = useQueryClient();
  const notice = useProblemNotice();
  const send = async (commit: Commit): Promise<readonly [ChangeDto, readonly EntrySlice[]]> => {
    const { seq: base, book } = readBase(client, projectId);
    const post = (what: string, body: object) =>
      postJson<ChangeDto>(`/projects/${projectId}/${what}`, { base, ...body });
    if ('diff' in commit) {
      const diff = settleDiff(forgetResolved(commit.diff), book);
      return [await post('changes', { cause: commit.cause, diff }), listDiffSlices(diff)];
    }
    const { name, value, keys } = commit;
    return [await post('attributes', { name, value, of: { keys } }), ['layer']];
  };
  return useMutation({
    ...WAITING,
    mutationFn: async (commit: Commit) => {
      const [change, slices] = await send(commit);
      await tellChange(client, change, slices);
      return change;
    },
    onError: (error) => {
      notice(error);
      // Beside it: what was typed can be sent again at once.
      void refreshSlices(client, projectId, ENTRY_SLICES);
    },
  });
}

/** Takes back or redoes one's own last change. */
export function useUndo(projectId: string) {
  const client = useQueryClient();
  const notice = useProblemNotice();
  return useMutation({
    mutationFn: (direction: 'undo' | 'redo') => postJson<ChangeDto>(`/projects/${projectId}/${direction}`, {}),
    onSuccess: (change) => tellChange(client, change, ENTRY_SLICES),
    onError: notice,
  });
}
