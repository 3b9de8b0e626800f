import { useCallback, useEffect, useState } from 'react';
import type { FieldConflict } from '../ui/other-change.tsx';
import { mergeFields } from './merge-fields.ts';

const NOTHING = { taken: [], conflicts: [] };

/**
 * Watches a record that a form is open on. What somebody else changes in it meanwhile is taken into the form where one has not written
 * oneself; where both wrote, it is asked.
 * @param opened the record as the form was opened on it
 * @param now the record as the project has it; null if it is gone
 */
export function useOtherChange<T extends object>(
  opened: T,
  now: T | null,
  draft: T,
  setDraft: (draft: T) => void,
): {
  readonly taken: readonly string[];
  readonly conflicts: readonly FieldConflict[];
  readonly choose: (conflict: FieldConflict, isTheirs: boolean) => void;
} {
  const [base, setBase] = useState(opened);
  const [told, setTold] = useState<{ taken: readonly string[]; conflicts: readonly FieldConflict[] }>(NOTHING);
  const isMoved = now !== null && JSON.stringify(now) !== JSON.stringify(base);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each state that the project comes to
  useEffect(() => {
    if (!isMoved) return;
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
  return { ...told, choose };
}
