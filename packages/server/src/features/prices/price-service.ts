import { existsSync } from 'node:fs';
import { setImmediate } from 'node:timers/promises';
import {
  acceptPrices,
  type ChangeDto,
  type ClassListDto,
  codeKey,
  comparePrices,
  findProfile,
  guessProfile,
  type MoveDto,
  type PriceComparison,
  type PriceSheetDto,
  type ProjectEffectDto,
  pickSome,
  readClasses,
  type Sheet,
  type SheetProfile,
  settleDiff,
  type WantedPrices,
} from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound } from '../../http/http-problem.ts';
import type { FileStore } from '../../importers/file-store.ts';
import { readSheetsApart } from '../../importers/read-sheets-apart.ts';
import type { BookService } from '../books/book-service.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ChangeService } from '../changes/change-service.ts';
import { type ReadProject, readProject, readProjectRow } from '../projects/read-project.ts';
import { fileStem } from '../sources/file-stem.ts';

/** Rows that are shown for choosing the columns. */
const SHOWN_ROWS = 60;

/** Reads price sheets and says what they do to the projects. */
export class PriceService {
  /** The sheet looked at last: it is compared right after it was brought. */
  private last: { hash: string; sheets: readonly Sheet[] } | null = null;

  constructor(
    private readonly db: DbClient,
    private readonly store: FileStore,
    private readonly shelf: BookShelf,
    private readonly books: BookService,
    private readonly changes: ChangeService,
  ) {}

  readProject(projectId: string): Promise<ReadProject> {
    return readProject(this.db, this.shelf, projectId);
  }

  /** Takes a spreadsheet into the originals and reads it: its first rows, and the columns as they are known or guessed. */
  async describe(projectId: string, path: string, fileName: string): Promise<PriceSheetDto> {
    const { contents } = await this.readProject(projectId);
    const fileHash = await this.store.keepOriginal(path);
    const sheets = await this.readSheets(fileHash);
    const known = findKnownSheet(contents.priceSheets, sheets);
    return {
      fileHash,
      fileName,
      source: known?.source ?? fileStem(fileName),
      isKnown: known !== null,
      sheets: sheets.map(({ name, rows }) => ({ name, rows: rows.slice(0, SHOWN_ROWS), count: rows.length })),
      profile: known?.profile ?? guessProfile(sheets),
    };
  }

  async compare(
    projectId: string,
    hash: string,
    { profile, source }: Pick<WantedPrices, 'profile' | 'source'>,
  ): Promise<PriceComparison> {
    const sheet = await this.findSheet(hash, profile);
    const { items, values = [] } = (await this.readProject(projectId)).contents.basis;
    return comparePrices(sheet, profile, { items, values }, source);
  }

  /** How the wanted prices would move the plan. Errors as of `takeOver`. */
  async preview(projectId: string, hash: string, wanted: WantedPrices, signal?: AbortSignal): Promise<MoveDto> {
    return this.changes.preview(projectId, (await this.makeChange(projectId, hash, wanted)).diff, signal);
  }

  /** Takes the wanted prices over, as one change. Errors: 404, 409 if the prices they were compared with are others by now. */
  async takeOver(projectId: string, hash: string, wanted: WantedPrices, author: string): Promise<ChangeDto> {
    const { base, diff, counts } = await this.makeChange(projectId, hash, wanted);
    const cause = `Prices from ${wanted.source}: ${counts.changed} changed, ${counts.fresh} new`;
    return this.changes.commit(projectId, { base, author, cause, diff });
  }

  /** The change that takes wanted prices over in the project they were compared with. */
  private async makeChange(
    projectId: string,
    hash: string,
    { profile, source, date, bookHash, ...wanted }: WantedPrices,
  ) {
    const { manifest } = await this.changes.summarize(projectId);
    const { project, own, contents } = await this.readProject(projectId);
    if (manifest.bookHash !== bookHash)
      throw new HttpProblem(409, {
        code: 'change-conflict',
        message: 'The prices of the project have changed since they were compared with the sheet.',
        remedy: 'They are compared anew; look at them and take them over then.',
      });
    const { items, values = [] } = contents.basis;
    const comparison = comparePrices(await this.findSheet(hash, profile), profile, { items, values }, source);
    const changed = pickSome(wanted.changed, comparison.changed.map((c) => c.key)); // biome-ignore format: short
    const fresh = pickSome(wanted.fresh, comparison.fresh.flatMap((f) => (f.unit === null ? [] : [f.code]))); // biome-ignore format: short
    const taken = acceptPrices(
      comparison,
      { changed, fresh },
      { items, values },
      { source, profile: { ...profile, fileHash: hash }, known: contents.priceSheets[source] },
      date,
    );
    const diff = settleDiff(taken, await this.books.describe(own));
    return { base: project.seq, diff, counts: { changed: changed.size, fresh: fresh.size } };
  }

  /**
   * What the wanted prices would do to every other project of the currency that has one of them otherwise.
   * @param signal aborted when nobody waits for it any more: then no further project is looked at
   */
  async listEffects(
    projectId: string,
    hash: string,
    wanted: WantedPrices,
    signal?: AbortSignal,
  ): Promise<ProjectEffectDto[]> {
    const { profile, source, date } = wanted;
    const sheet = await this.findSheet(hash, profile);
    const here = (await this.readProject(projectId)).contents.basis;
    const compareHere = comparePrices(sheet, profile, { items: here.items, values: here.values ?? [] }, source);
    const keys = compareHere.changed.map((c) => c.key);
    const chosen = new Set([...pickSome(wanted.changed, keys)].map(codeKey));
    const effects: ProjectEffectDto[] = [];
    for (const other of await this.db.projects.list()) {
      if (signal?.aborted) break;
      // A large sheet takes a while for each project: others have their turn between.
      await setImmediate();
      if (other.id === projectId) continue;
      const { own: entries, contents } = await readProjectRow(this.db, this.shelf, other);
      const { basis, priceSheets } = contents;
      if (basis.currency !== here.currency) continue;
      const { items, values = [] } = basis;
      const comparison = comparePrices(sheet, profile, { items, values }, source);
      const own = comparison.changed.filter((c) => chosen.has(codeKey(c.key)));
      if (own.length === 0) continue;
      const taken = acceptPrices(
        comparison,
        { changed: new Set(own.map((c) => c.key)), fresh: new Set() },
        { items, values },
        { source, profile: { ...profile, fileHash: hash }, known: priceSheets[source] },
        date,
      );
      const diff = settleDiff(taken, await this.books.describe(entries));
      effects.push(await this.changes.previewElsewhere(other, own.length, diff));
    }
    return effects;
  }

  /** The classes of a list that was brought, from its first sheet that has any. */
  async readClassList(path: string, fileName: string): Promise<ClassListDto> {
    const fileHash = await this.store.keepOriginal(path);
    const sheets = await this.readSheets(fileHash);
    const read = readClasses(sheets.find((s) => s.rows.length > 0)?.rows ?? []);
    if (!read.ok) throw new HttpProblem(400, read.problem);
    return { name: fileStem(fileName), ...read.value };
  }

  private async readSheets(hash: string): Promise<readonly Sheet[]> {
    if (this.last?.hash === hash) return this.last.sheets;
    const path = this.store.originalPath(hash);
    if (!/^[0-9a-f]{64}$/.test(hash) || !existsSync(path)) throw notFound('price sheet');
    const sheets = await readSheetsApart(path);
    if (!sheets.ok) throw new HttpProblem(400, sheets.problem);
    this.last = { hash, sheets: sheets.value };
    return sheets.value;
  }

  private async findSheet(hash: string, profile: SheetProfile): Promise<Sheet> {
    const sheet = (await this.readSheets(hash)).find((s) => s.name === profile.sheet);
    if (!sheet) throw notFound('sheet in the file');
    return sheet;
  }
}

/** The price sheet of the project whose headings stand in a file, with its columns where they are now. */
function findKnownSheet(
  priceSheets: Readonly<Record<string, SheetProfile>>,
  sheets: readonly Sheet[],
): { readonly source: string; readonly profile: SheetProfile } | null {
  for (const [source, headings] of Object.entries(priceSheets)) {
    const profile = findProfile([headings], sheets);
    if (profile) return { source, profile };
  }
  return null;
}
