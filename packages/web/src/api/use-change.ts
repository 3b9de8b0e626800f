import {
  type ChangeDto,
  ENTRY_SLICES,
  type EntryDiff,
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

/** Commits changes of a project's entries, based on the state on screen. */
export function useChange(projectId: string) {
  const client = useQueryClient();
  const notice = useProblemNotice();
  return useMutation({
    ...WAITING,
    mutationFn: async ({ cause, diff }: { cause: string; diff: Partial<EntryDiff> }) => {
      const { seq, book } = readBase(client, projectId);
      const settled = settleDiff(diff, book);
      const change = await postJson<ChangeDto>(`/projects/${projectId}/changes`, { base: seq, cause, diff: settled });
      await tellChange(client, change, listDiffSlices(settled));
      return change;
    },
    // What was refused was made on what is not there any more.
    onError: (error) => {
      notice(error);
      // Beside it: what was typed can be sent again at once.
      void refreshSlices(client, projectId, ENTRY_SLICES);
    },
  });
}

/** Gives one attribute to elements, many at once too; null takes it away. */
export function useGiveAttribute(projectId: string) {
  const client = useQueryClient();
  const notice = useProblemNotice();
  return useMutation({
    ...WAITING,
    mutationFn: async (gift: Pick<GiveAttributeRequest, 'name' | 'value'> & { readonly keys: readonly number[] }) => {
      const { name, value, keys } = gift;
      const { seq: base } = readBase(client, projectId);
      const change = await postJson<ChangeDto>(`/projects/${projectId}/attributes`, {
        base,
        name,
        value,
        of: { keys },
      });
      await tellChange(client, change, ['layer']);
      return change;
    },
    onError: (error) => {
      notice(error);
      void refreshSlices(client, projectId, ['layer']);
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
