import { type EntryDiff, isBookKind, type ProjectStateDto } from '@tally/core';

/**
 * A change of prices as it is made in a project that stands on a shared book: what the project has not of its own yet is added beside
 * the book's, which stays as it is. A text says what cannot be done here.
 */
export function settleDiff(diff: Partial<EntryDiff>, book: ProjectStateDto['book']): EntryDiff | string {
  const whole: EntryDiff = { added: diff.added ?? [], updated: diff.updated ?? [], removed: diff.removed ?? [] };
  if (!book) return whole;
  const own = new Set(book.own);
  const isOfBook = ({ kind, id }: { readonly kind: string; readonly id: string }) =>
    isBookKind(kind) && !own.has(`${kind}/${id}`);
  const kept = whole.removed.find(isOfBook);
  if (kept)
    return `${kept.id} belongs to the book ${book.name}; it can only be changed here, not taken out or renamed.`;
  return {
    added: [...whole.added, ...whole.updated.filter(isOfBook).map(({ kind, id, to }) => ({ kind, id, body: to }))],
    updated: whole.updated.filter((u) => !isOfBook(u)),
    removed: whole.removed,
  };
}
