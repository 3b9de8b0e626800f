import type { EntryDiff } from './entry-diff.ts';
import { isBookKind, type OwnEntries, TAKEN_OUT } from './overlay-entries.ts';

/** What a project has otherwise than its book, and how that is called; null where it stands on none. */
type Book = { readonly [K in keyof OwnEntries]: readonly string[] } | null;
interface Named {
  readonly kind: string;
  readonly id: string;
}

const nameOf = ({ kind, id }: Named): string => `${kind}/${id}`;

/**
 * A change of prices as it is made in a project that stands on a shared book: what the project has not of its own yet is added beside
 * the book's, and what is taken out of the book's is noted as that; the book stays as it is.
 */
export function settleDiff(diff: Partial<EntryDiff>, book: Book): EntryDiff {
  const whole: EntryDiff = { added: diff.added ?? [], updated: diff.updated ?? [], removed: diff.removed ?? [] };
  if (!book) return whole;
  const own = new Set(book.own);
  const isOfBook = (entry: Named) => isBookKind(entry.kind) && !own.has(nameOf(entry));
  // What is there again is no longer taken out.
  const back = new Set(whole.added.map(nameOf));
  return {
    added: [
      ...whole.added,
      ...whole.updated.filter(isOfBook).map(({ kind, id, to }) => ({ kind, id, body: to })),
      ...whole.removed.filter(isOfBook).map((entry) => takenOut(entry)),
    ],
    updated: whole.updated.filter((u) => !isOfBook(u)),
    removed: [
      ...whole.removed.filter((r) => !isOfBook(r)),
      ...book.takenOut.filter((name) => back.has(name)).map((id) => ({ kind: TAKEN_OUT, id, body: {} })),
    ],
  };
}

const takenOut = (entry: Named) => ({ kind: TAKEN_OUT, id: nameOf(entry), body: {} });

/** The change that takes an entry out of a project for good: its own, and the one that the book has of the same name. */
export function takeOutDiff(kind: string, id: string, body: unknown, book: Book): Partial<EntryDiff> {
  const entry = { kind, id, body };
  return {
    removed: [entry],
    added: book?.overrides.includes(nameOf(entry)) ? [takenOut(entry)] : [],
  };
}

/** The change that brings back what was taken out of the book's. */
export const bringBackDiff = (name: string): Partial<EntryDiff> => ({
  removed: [{ kind: TAKEN_OUT, id: name, body: {} }],
});
