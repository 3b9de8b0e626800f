import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import {
  ByCode,
  findListProfile,
  guessListProfile,
  type JobDto,
  type ListFileDto,
  type ListPreviewDto,
  type ListProfile,
} from '@tally/core';
import { startWorker } from '@tally/ifc';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound } from '../../http/http-problem.ts';
import { askWorker } from '../../importers/ask-worker.ts';
import type { FileStore } from '../../importers/file-store.ts';
import type { ListOrder, ListReply } from '../../importers/import-messages.ts';
import { readSheetsApart } from '../../importers/read-sheets-apart.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ChangeService } from '../changes/change-service.ts';
import { readProject } from '../projects/read-project.ts';
import { fileStem } from './file-stem.ts';
import type { ImportService } from './import-service.ts';
import type { ImportSteps } from './import-steps.ts';

const SHOWN_ROWS = 60;
const LONGEST_MS = 180_000;

/** A list whose columns are chosen. */
export interface ListWanted {
  readonly profile: ListProfile;
  readonly sourceId: string | null;
  readonly name: string;
  readonly fileName: string;
}

/** Lists made elsewhere: looked at, their columns chosen, and taken as a source. */
export class ListService {
  constructor(
    private readonly db: DbClient,
    private readonly store: FileStore,
    private readonly shelf: BookShelf,
    private readonly changes: ChangeService,
    private readonly steps: ImportSteps,
    private readonly imports: ImportService,
  ) {}

  /** Takes a list into the originals and reads it: its first rows, and the columns as they are known or guessed. */
  async describe(projectId: string, path: string, fileName: string): Promise<ListFileDto> {
    const { contents } = await readProject(this.db, this.shelf, projectId);
    const fileHash = await this.store.keepOriginal(path);
    const read = await readSheetsApart(this.store.originalPath(fileHash));
    if (!read.ok) throw new HttpProblem(400, read.problem);
    const name = listStem(fileName);
    const source = (await this.db.sources.list(projectId)).find((s) => s.kind === 'list' && listStem(s.name) === name);
    const before = source && contents.listProfiles[source.id];
    const known = before ? findListProfile(before, read.value) : null;
    return {
      fileHash,
      fileName,
      name,
      sourceId: source?.id ?? null,
      sheets: read.value.map(({ name: sheet, rows }) => ({
        name: sheet,
        rows: rows.slice(0, SHOWN_ROWS),
        count: rows.length,
      })),
      profile: known ?? guessListProfile(read.value),
      isKnown: known !== null,
    };
  }

  /** What taking a list would do. Errors: 404, 400 with the list's own problems. */
  async preview(projectId: string, hash: string, { profile, sourceId }: ListWanted): Promise<ListPreviewDto> {
    const { contents } = await readProject(this.db, this.shelf, projectId);
    const filePath = this.findFile(hash);
    if (sourceId !== null) await this.requireList(projectId, sourceId);
    const never = { isStopped: () => false, follow: () => undefined, tell: () => undefined };
    const identity = await this.steps.findIdentity(projectId, sourceId ?? '', never);
    const reply = await readApart({ filePath, storeRoot: this.store.root, profile, identity, isPreview: true });
    if (reply.kind === 'failed') throw new HttpProblem(400, reply.problem);
    const { codes, ...preview } = reply.preview;
    const items = new ByCode(contents.basis.items);
    const assemblies = new ByCode(contents.basis.assemblies);
    return { ...preview, known: codes.filter((c) => items.get(c) || assemblies.get(c)).length };
  }

  /** Takes a list as the next version of a source, or as a new one: the columns are kept, the lines are read by an import. */
  async takeList(projectId: string, hash: string, wanted: ListWanted, author: string): Promise<JobDto> {
    const { project, contents } = await readProject(this.db, this.shelf, projectId);
    this.findFile(hash);
    const name = wanted.name.trim();
    const named = (await this.db.sources.list(projectId)).find((s) => s.name === name);
    if (wanted.sourceId === null && named)
      throw new HttpProblem(409, {
        code: 'source-named-so',
        message: `There is a source called ${name} already.`,
        remedy: 'Give the list another name, or bring it as its next version.',
      });
    const sourceId = wanted.sourceId ?? randomUUID();
    if (wanted.sourceId === null) await this.db.sources.create({ id: sourceId, projectId, name, kind: 'list' });
    else await this.requireList(projectId, sourceId);
    const isAnew = await this.keepProfile(
      projectId,
      project.seq,
      sourceId,
      name,
      contents.listProfiles[sourceId],
      wanted.profile,
      author,
    );
    return this.imports.enqueue({
      projectId,
      fileName: wanted.fileName,
      fileHash: hash,
      author,
      sourceId,
      isAgain: isAnew,
    });
  }

  /** Keeps the columns of a source's lists; true if they are others than before. */
  private async keepProfile(
    projectId: string,
    base: number,
    sourceId: string,
    name: string,
    before: ListProfile | undefined,
    profile: ListProfile,
    author: string,
  ): Promise<boolean> {
    if (JSON.stringify(before) === JSON.stringify(profile)) return false;
    const entry = { kind: 'listProfile', id: sourceId };
    const diff = before
      ? { added: [], updated: [{ ...entry, from: before, to: profile }], removed: [] }
      : { added: [{ ...entry, body: profile }], updated: [], removed: [] };
    await this.changes.commit(projectId, { base, author, cause: `Columns of the list ${name}`, diff });
    return true;
  }

  private findFile(hash: string): string {
    const path = this.store.originalPath(hash);
    if (!/^[0-9a-f]{64}$/.test(hash) || !existsSync(path)) throw notFound('list');
    return path;
  }

  private async requireList(projectId: string, sourceId: string): Promise<void> {
    if ((await this.db.sources.find(projectId, sourceId))?.kind !== 'list') throw notFound('source of lists');
  }
}

/** Name of a list without what tells its versions apart: a number, a date, R2. @example `yard-2026-03.csv` -> yard */
const listStem = (fileName: string): string => {
  const stem = fileStem(fileName);
  return stem.replace(/(?:[\s_.-]+(?:v|r|rev)?\d+)+$/i, '') || stem;
};

/** Asks a worker about a list, for as long as a list may take. */
function readApart(order: ListOrder): Promise<ListReply> {
  const worker = startWorker(import.meta.url, '../../importers/list-worker', order);
  return askWorker<ListReply>(worker, 'The reader of the list ended without a word.', {
    ms: LONGEST_MS,
    answer: { kind: 'failed', problem: { code: 'sheet-too-large', message: 'The list takes too long to be read.', remedy: 'Save only the sheet with the lines.' } }, // biome-ignore format: one answer
  });
}
