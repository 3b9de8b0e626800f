import { entryKey } from '../units/code-key.ts';
import type { Entry, EntryDiff } from './entry-diff.ts';

/** Kinds whose codes and names people type, so that two alike would be taken for each other. */
const TYPED_KINDS = ['item', 'assembly', 'value', 'scale', 'classification', 'rule', 'section', 'scope'];

/** Whether a change adds anything that could be too alike to something else. */
export const addsTyped = ({ added }: EntryDiff): boolean => added.some((a) => TYPED_KINDS.includes(a.kind));

/** An entry that a change adds, and one of another code that nobody could tell from it: `a` beside `A`. Null if there is none. */
export function findTooAlike(
  entries: readonly Pick<Entry, 'kind' | 'id'>[],
  { added, removed }: EntryDiff,
): { readonly added: Entry; readonly other: string } | null {
  const wanted = added.filter((a) => TYPED_KINDS.includes(a.kind));
  if (wanted.length === 0) return null;
  const gone = new Set(removed.map((r) => `${r.kind}/${r.id}`));
  const keyOf = ({ kind, id }: Pick<Entry, 'kind' | 'id'>) => `${kind}/${entryKey(kind, id)}`;
  const known = new Map<string, string>();
  for (const e of entries) if (!gone.has(`${e.kind}/${e.id}`)) known.set(keyOf(e), e.id);
  for (const entry of wanted) {
    const other = known.get(keyOf(entry));
    if (other !== undefined && other !== entry.id) return { added: entry, other };
    known.set(keyOf(entry), entry.id);
  }
  return null;
}
