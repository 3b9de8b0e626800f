import {
  type Entry,
  type EntryDiff,
  foldText,
  isSameBody,
  type MoveDto,
  takeOutDiff,
  type Use,
  writeName,
} from '@tally/core';
import { useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useOtherChange } from '../../store/use-other-change.ts';
import { usePreview } from '../../store/use-preview.ts';
import type { OtherChanges } from '../../ui/other-change.tsx';

/** What a draft of an entry of the book may do. */
export interface DraftActions {
  readonly isChanged: boolean;
  readonly isPending: boolean;
  /** Move of the total by the draft; undefined while there is none or it is being calculated. */
  readonly move: MoveDto | undefined;
  /** What somebody else did to it meanwhile; what both changed must be chosen before it can be kept. */
  readonly other: OtherChanges;
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
  setDraft: (draft: T) => void,
  onKept: (name: string | null) => void,
): DraftActions {
  const { project, book } = useProjectState('project', 'book');
  const change = useCommit(project.id);
  // Compared as it is kept: without what is left empty.
  const other = useOtherChange(original ?? draft, original, JSON.parse(JSON.stringify(draft)) as T, setDraft, true);
  const entry = { kind, id: draft.name, body: draft };
  const isChanged = original === null || !isSameBody(original, draft);
  const diff: Partial<EntryDiff> =
    original === null
      ? { added: [entry] }
      : original.name === draft.name
        ? { updated: [{ kind, id: draft.name, from: original, to: draft }] }
        : renameDiff(takeOutDiff(kind, original.name, original, book), entry);
  const move = usePreview(project.id, isChanged && isUsable && other.conflicts.length === 0 ? diff : null);
  return {
    isChanged,
    isPending: change.isPending,
    move,
    other,
    keep: () => {
      other.noteSent(draft);
      change.mutate(
        { cause: `${words} ${original === null ? 'added' : 'changed'}: ${draft.name}`, diff },
        { onSuccess: () => onKept(draft.name) },
      );
    },
    remove: () =>
      original &&
      change.mutate(
        {
          cause: `${words} removed: ${original.name}`,
          diff: takeOutDiff(kind, original.name, original, book),
        },
        { onSuccess: () => onKept(null) },
      ),
  };
}

const renameDiff = ({ removed, added = [] }: Partial<EntryDiff>, entry: Entry): Partial<EntryDiff> => ({
  removed,
  added: [...added, entry],
});

/** Why a draft cannot have its name: another has it, or the old one is still used. Null if it can. */
export function findNameProblem(
  label: 'value' | 'scale',
  original: string | undefined,
  name: string,
  all: readonly { readonly name: string }[],
  uses: readonly Use[],
): string | null {
  const fold = (text: string) => foldText(label === 'value' ? writeName(text) : text);
  if (all.some((e) => e.name !== original && fold(e.name) === fold(name)))
    return `There is a ${label} of this name already.`;
  if (original !== undefined && uses.length > 0 && fold(original) !== fold(name))
    return `${original} is used by this name; make a new ${label} instead, or take it out there first.`;
  return null;
}
