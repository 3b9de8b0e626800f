import { entryKey } from '../units/code-key.ts';
import type { Entry } from './entry-diff.ts';

/** Kinds of entries that a book has and projects share. */
export const BOOK_KINDS = ['item', 'assembly', 'value', 'scale', 'classification', 'band'] as const;

export const isBookKind = (kind: string): boolean => BOOK_KINDS.includes(kind as (typeof BOOK_KINDS)[number]);

/** A `kind/id` as own entries and those of a book are compared: in whatever case their codes are written. */
export const foldName = (name: string) =>
  nameOf({ kind: name.slice(0, name.indexOf('/')), id: name.slice(name.indexOf('/') + 1) });

const nameOf = ({ kind, id }: Pick<Entry, 'kind' | 'id'>) => `${kind}/${entryKey(kind, id)}`;

/** Kind of the entries that say what of its book a project does without; their ids are `kind/id` of the book's. */
export const TAKEN_OUT = 'takenOut';

const listTakenOut = (own: readonly Entry[]): readonly string[] =>
  own.filter((e) => e.kind === TAKEN_OUT).map((e) => e.id);

/** Entries of a project over those of its book: what the project has of its own stands in place of the book's, what it took out is gone. */
export function overlayEntries(book: readonly Entry[], own: readonly Entry[]): Entry[] {
  const names = new Set([...own.map(nameOf), ...listTakenOut(own).map(foldName)]);
  return [...book.filter((e) => !names.has(nameOf(e))), ...own];
}

/** What a project has otherwise than its book, each `kind/id`. */
export interface OwnEntries {
  /** Beside or in place of the book's. */
  readonly own: string[];
  /** Those of them that the book has too. */
  readonly overrides: string[];
  /** What it took out of the book's. */
  readonly takenOut: string[];
}

/** What a project has otherwise than its book. */
export function listOwnEntries(book: readonly Entry[], own: readonly Entry[]): OwnEntries {
  const inBook = new Set(book.map(nameOf));
  const mine = own.filter((e) => isBookKind(e.kind));
  const replaced = new Set(mine.map(nameOf));
  const toName = ({ kind, id }: Entry) => `${kind}/${id}`;
  return {
    own: mine.map(toName),
    overrides: mine.filter((e) => inBook.has(nameOf(e))).map(toName),
    takenOut: listTakenOut(own).filter((id) => inBook.has(foldName(id)) && !replaced.has(foldName(id))),
  };
}

/** Entries of a book in a fixed order, so that equal books are equal to the letter. */
export function orderBook(entries: readonly Entry[]): Entry[] {
  return entries
    .filter((e) => isBookKind(e.kind))
    .map(({ kind, id, body }) => ({ kind, id, body }))
    .sort((a, b) => (a.kind + a.id < b.kind + b.id ? -1 : 1));
}
