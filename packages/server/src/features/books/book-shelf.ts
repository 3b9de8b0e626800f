import { type Entry, overlayEntries, type PinnedBook } from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem } from '../../http/http-problem.ts';

const MOST_KEPT = 4;

/** Versions of books as projects read them; they never change, so the last few are kept. */
export class BookShelf {
  private readonly kept = new Map<string, readonly Entry[]>();

  constructor(private readonly db: DbClient) {}

  /** The version of a book among a project's entries; null where there is none. */
  static pinnedOf(entries: readonly Entry[]): PinnedBook | null {
    return (entries.find((e) => e.kind === 'book')?.body as PinnedBook | undefined) ?? null;
  }

  /** Entries of a version. Errors: 400 if there is no such version, or not with this content. */
  async read({ bookId, version, hash }: PinnedBook): Promise<readonly Entry[]> {
    const known = this.kept.get(hash);
    if (known) return known;
    const found = await this.db.books.findVersion(bookId, version);
    if (found?.hash !== hash)
      throw new HttpProblem(400, {
        code: 'book-version-unknown',
        message: `There is no version ${version} of this book with this content.`,
        remedy: 'Choose a version from the list.',
      });
    this.kept.set(hash, found.entries);
    const [oldest] = this.kept.keys();
    if (this.kept.size > MOST_KEPT) this.kept.delete(oldest!);
    return found.entries;
  }

  /** Entries of a project with those of its book below them. */
  async complete(own: readonly Entry[]): Promise<Entry[]> {
    const pinned = BookShelf.pinnedOf(own);
    return pinned ? overlayEntries(await this.read(pinned), own) : [...own];
  }
}
