import { isSameBody } from '@tally/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { FieldConflict, OtherChanges } from '../ui/other-change.tsx';
import { mergeFields } from './merge-fields.ts';

const NOTHING = { taken: [], conflicts: [] };
const isSame = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Watches a record that a form is open on. What somebody else changes in it meanwhile is taken into the form where one has not written
 * oneself; where both wrote, it is asked.
 * @param opened the record as the form was opened on it
 * @param now the record as the project has it; null if it is gone
 * @param isQuiet what comes while one has written nothing oneself is taken in without a word
 */
export function useOtherChange<T extends object>(
  opened: T,
  now: T | null,
  draft: T,
  setDraft: (draft: T) => void,
  isQuiet = false,
): OtherChanges & {
  /** What one sends oneself is no change of another's when it comes back, however one has gone on writing. */
  readonly noteSent: (sent: T) => void;
} {
  const [base, setBase] = useState(opened);
  const [told, setTold] = useState<{ taken: readonly string[]; conflicts: readonly FieldConflict[] }>(NOTHING);
  const sent = useRef<T | null>(null);
  const isMoved = now !== null && !isSame(now, base);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each state that the project comes to
  useEffect(() => {
    if (!isMoved) return;
    const isOwn = sent.current !== null && isSameBody(sent.current, now);
    if (isOwn || (isQuiet && isSame(draft, base))) {
      setBase(now);
      if (isOwn) sent.current = null;
      else setDraft(now);
      return;
    }
    const { merged, taken, conflicts } = mergeFields(base, now, draft);
    setBase(now);
    setDraft(merged);
    // What was asked before and is not chosen yet stays asked.
    const open = (before: readonly FieldConflict[]) =>
      before.filter((c) => !taken.includes(c.field) && !conflicts.some((other) => other.field === c.field));
    setTold((before) => ({
      taken: [...new Set([...before.taken, ...taken])],
      conflicts: [...open(before.conflicts), ...conflicts],
    }));
  }, [isMoved, now]);
  const choose = useCallback(
    (conflict: FieldConflict, isTheirs: boolean) => {
      if (isTheirs) setDraft({ ...draft, [conflict.field]: conflict.theirs });
      setTold((before) => ({ ...before, conflicts: before.conflicts.filter((c) => c !== conflict) }));
    },
    [draft, setDraft],
  );
  const noteSent = useCallback((own: T) => {
    sent.current = own;
  }, []);
  return { ...told, choose, noteSent };
}
