import { type EntryDiff, isSameBody, type MoveDto } from '@tally/core';
import { useProjectState } from '../../api/project-context.tsx';
import { useChange } from '../../api/use-change.ts';
import { usePreview } from '../../api/use-preview.ts';

/** What a draft of an entry of the book may do. */
export interface DraftActions {
  readonly isChanged: boolean;
  readonly isPending: boolean;
  /** Move of the total by the draft; undefined while there is none or it is being calculated. */
  readonly move: MoveDto | undefined;
  readonly keep: () => void;
  readonly remove: () => void;
}

/** The way a draft of a named value or a scale is kept, renamed or removed, with its effect on the total before. */
export function useDraft<T extends { readonly name: string }>(
  kind: 'value' | 'scale',
  words: string,
  original: T | null,
  draft: T,
  isUsable: boolean,
  onKept: (name: string | null) => void,
): DraftActions {
  const { project } = useProjectState();
  const change = useChange(project.id);
  const entry = { kind, id: draft.name, body: draft };
  const isChanged = original === null || !isSameBody(original, draft);
  const diff: Partial<EntryDiff> =
    original === null
      ? { added: [entry] }
      : original.name === draft.name
        ? { updated: [{ kind, id: draft.name, from: original, to: draft }] }
        : { removed: [{ kind, id: original.name, body: original }], added: [entry] };
  const move = usePreview(project.id, isChanged && isUsable ? diff : null);
  return {
    isChanged,
    isPending: change.isPending,
    move,
    keep: () =>
      change.mutate(
        { cause: `${words} ${original === null ? 'added' : 'changed'}: ${draft.name}`, diff },
        { onSuccess: () => onKept(draft.name) },
      ),
    remove: () =>
      original &&
      change.mutate(
        {
          cause: `${words} removed: ${original.name}`,
          diff: { removed: [{ kind, id: original.name, body: original }] },
        },
        { onSuccess: () => onKept(null) },
      ),
  };
}
