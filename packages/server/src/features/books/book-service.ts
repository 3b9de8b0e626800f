import { createHash, randomUUID } from 'node:crypto';
import {
  type BookDto,
  type ChangeDto,
  diffEntries,
  type Entry,
  type EntryDiff,
  isBookKind,
  listOwnEntries,
  orderBook,
  type PinnedBook,
  type ProjectEffectDto,
  type ProjectStateDto,
  sortFields,
  TAKEN_OUT,
} from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound } from '../../http/http-problem.ts';
import type { ChangeService } from '../changes/change-service.ts';
import { requireProject } from '../projects/require-project.ts';
import { BookShelf } from './book-shelf.ts';

/** SHA-256 of a book's entries, whatever their order. */
function hashBook(entries: readonly Entry[]): string {
  return createHash('sha256')
    .update(JSON.stringify(sortFields(orderBook(entries))))
    .digest('hex');
}

const newer = (name: string, version: number) =>
  new HttpProblem(409, {
    code: 'book-newer',
    message: `Version ${version} of ${name} is newer than the one this project stands on.`,
    remedy: 'Take it over first; what this project has of its own stays.',
  });

/** Sharing the prices of projects as books with immutable versions. */
export class BookService {
  constructor(
    private readonly db: DbClient,
    private readonly shelf: BookShelf,
    private readonly changes: ChangeService,
  ) {}

  /** The book a project stands on, as pages see it. */
  async describe(own: readonly Entry[]): Promise<ProjectStateDto['book']> {
    const pinned = BookShelf.pinnedOf(own);
    if (!pinned) return null;
    const book = await this.db.books.find(pinned.bookId);
    if (!book) throw notFound('book');
    return { ...pinned, name: book.name, newest: book.version, ...listOwnEntries(await this.shelf.read(pinned), own) };
  }

  /** What a version of the book would do to the other projects that stand on another version of it. */
  async listEffects(projectId: string, bookId: string, number: number): Promise<ProjectEffectDto[]> {
    const version = await this.db.books.findVersion(bookId, number);
    if (!version) throw notFound('version of the book');
    const to: PinnedBook = { bookId, version: number, hash: version.hash };
    const effects: ProjectEffectDto[] = [];
    for (const project of await this.db.projects.list()) {
      const from = BookShelf.pinnedOf(await this.db.projects.listEntries(project.id));
      if (project.id === projectId || from?.bookId !== bookId || from.version === number) continue;
      const diff: EntryDiff = { added: [], updated: [{ kind: 'book', id: 'project', from, to }], removed: [] };
      const changed = diffEntries(await this.shelf.read(from), version.entries);
      const prices = changed.added.length + changed.updated.length + changed.removed.length;
      effects.push(await this.changes.previewElsewhere(project, prices, diff));
    }
    return effects;
  }

  /**
   * Makes a new book of a project's prices (`name`), or the next version of the one it stands on; the project then stands on it and
   * keeps nothing of its own. Errors: 400 without a name, 409 if nothing is different or a newer version is there.
   */
  async publish(
    projectId: string,
    author: string,
    { name, note }: { name?: string; note: string },
  ): Promise<ChangeDto> {
    const project = await requireProject(this.db, projectId);
    const own = await this.db.projects.listEntries(projectId);
    const pinned = BookShelf.pinnedOf(own);
    const entries = orderBook(await this.shelf.complete(own));
    const hash = hashBook(entries);
    const book = name === undefined ? await this.findPinned(pinned, hash) : await this.makeBook(name, entries);
    const number = await this.db.books.addVersion({ bookId: book.id, hash, entries, note, author }, book.version);
    if (number === null) throw newer(book.name, book.version + 1);
    const body: PinnedBook = { bookId: book.id, version: number, hash };
    const diff: EntryDiff = {
      added: pinned ? [] : [{ kind: 'book', id: 'project', body }],
      updated: pinned ? [{ kind: 'book', id: 'project', from: pinned, to: body }] : [],
      removed: own.filter((e) => isBookKind(e.kind) || e.kind === TAKEN_OUT),
    };
    const cause = `Shared as version ${number} of the book ${book.name}`;
    return this.changes.commit(projectId, { base: project.seq, author, cause, diff });
  }

  private async makeBook(name: string, entries: readonly Entry[]): Promise<Pick<BookDto, 'id' | 'name' | 'version'>> {
    if (entries.length === 0)
      throw new HttpProblem(409, { code: 'book-empty', message: 'This project has no prices to share.' });
    if ((await this.db.books.list()).some((b) => b.name.toLowerCase() === name.toLowerCase()))
      throw new HttpProblem(409, {
        code: 'book-name-taken',
        message: `There is a book called ${name}.`,
        remedy: 'Take another name, or use that book.',
      });
    const book = { id: randomUUID(), name };
    await this.db.books.create(book);
    return { ...book, version: 0 };
  }

  private async findPinned(pinned: PinnedBook | null, hash: string): Promise<BookDto> {
    const book = pinned && (await this.db.books.find(pinned.bookId));
    if (!pinned || !book) throw new HttpProblem(400, { code: 'request-invalid', message: 'A new book needs a name.' });
    if (book.version !== pinned.version) throw newer(book.name, book.version);
    if (book.hash === hash)
      throw new HttpProblem(409, {
        code: 'book-unchanged',
        message: `Nothing is different from version ${book.version}.`,
      });
    return book;
  }
}
