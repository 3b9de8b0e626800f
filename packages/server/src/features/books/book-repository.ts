import type { BookDto, BookVersionDto, Entry } from '@tally/core';
import { and, desc, eq } from 'drizzle-orm';
import type { Database } from '../../db/database.ts';
import { books, bookVersions } from '../../db/schema.ts';

export interface NewVersion {
  readonly bookId: string;
  readonly hash: string;
  readonly entries: readonly Entry[];
  readonly note: string;
  readonly author: string;
}

/** Books with their newest version, or only one of them. */
function selectNewest(db: Database, id?: string): Promise<BookDto[]> {
  return db
    .selectDistinctOn([books.id], {
      id: books.id,
      name: books.name,
      version: bookVersions.number,
      hash: bookVersions.hash,
    })
    .from(books)
    .innerJoin(bookVersions, eq(bookVersions.bookId, books.id))
    .where(id === undefined ? undefined : eq(books.id, id))
    .orderBy(books.id, desc(bookVersions.number));
}

/** Shared books and their versions. */
export const bookRepository = {
  /** All books with their newest version. */
  list(db: Database): Promise<BookDto[]> {
    return selectNewest(db);
  },

  async find(db: Database, id: string): Promise<BookDto | null> {
    return (await selectNewest(db, id))[0] ?? null;
  },

  /** Versions without their contents, newest first. */
  async listVersions(db: Database, bookId: string): Promise<BookVersionDto[]> {
    const { number, hash, note, author, createdAt } = bookVersions;
    return db
      .select({ number, hash, note, author, at: createdAt })
      .from(bookVersions)
      .where(eq(bookVersions.bookId, bookId))
      .orderBy(desc(number));
  },

  async findVersion(db: Database, bookId: string, number: number): Promise<{ hash: string; entries: Entry[] } | null> {
    const [row] = await db
      .select({ hash: bookVersions.hash, entries: bookVersions.entries })
      .from(bookVersions)
      .where(and(eq(bookVersions.bookId, bookId), eq(bookVersions.number, number)));
    return row ?? null;
  },

  async create(db: Database, row: { id: string; name: string }): Promise<void> {
    await db.insert(books).values(row);
  },

  /** Adds the version after `after`; returns its number, or null if somebody else was there first. */
  async addVersion(db: Database, version: NewVersion, after: number): Promise<number | null> {
    return db.transaction(async (tx) => {
      const [book] = await tx.select().from(books).where(eq(books.id, version.bookId)).for('update');
      if (!book) throw new Error(`There is no book ${version.bookId}.`);
      const [newest] = await tx
        .select({ number: bookVersions.number })
        .from(bookVersions)
        .where(eq(bookVersions.bookId, version.bookId))
        .orderBy(desc(bookVersions.number))
        .limit(1);
      if ((newest?.number ?? 0) !== after) return null;
      const number = after + 1;
      await tx.insert(bookVersions).values({ ...version, entries: [...version.entries], number });
      return number;
    });
  },
};
