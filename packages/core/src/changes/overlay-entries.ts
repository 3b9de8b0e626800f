import type { Entry } from './entry-diff.ts';

/** Kinds of entries that a book has and projects share. */
export const BOOK_KINDS = ['item', 'assembly', 'value', 'scale', 'classification'] as const;

export const isBookKind = (kind: string): boolean => BOOK_KINDS.includes(kind as (typeof BOOK_KINDS)[number]);

const nameOf = ({ kind, id }: Pick<Entry, 'kind' | 'id'>) => `${kind}/${id.toLowerCase()}`;

/** Entries of a project over those of its book: what the project has of its own stands in place of the book's. */
export function overlayEntries(book: readonly Entry[], own: readonly Entry[]): Entry[] {
  const names = new Set(own.map(nameOf));
  return [...book.filter((e) => !names.has(nameOf(e))), ...own];
}

/** What a project has of its own beside or in place of its book, `kind/id`; `overrides` are those that the book has too. */
export function listOwnEntries(book: readonly Entry[], own: readonly Entry[]): { own: string[]; overrides: string[] } {
  const inBook = new Set(book.map(nameOf));
  const mine = own.filter((e) => isBookKind(e.kind));
  const toName = ({ kind, id }: Entry) => `${kind}/${id}`;
  return { own: mine.map(toName), overrides: mine.filter((e) => inBook.has(nameOf(e))).map(toName) };
}

/** Entries of a book in a fixed order, so that equal books are equal to the letter. */
export function orderBook(entries: readonly Entry[]): Entry[] {
  return entries
    .filter((e) => isBookKind(e.kind))
    .map(({ kind, id, body }) => ({ kind, id, body }))
    .sort((a, b) => (a.kind + a.id < b.kind + b.id ? -1 : 1));
}
