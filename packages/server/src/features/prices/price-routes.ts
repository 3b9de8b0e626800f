import { existsSync, rmSync } from 'node:fs';
import {
  comparePrices,
  comparePricesSchema,
  findProfile,
  guessProfile,
  type PriceComparison,
  type PriceFileDto,
  type PriceSheetDto,
  priceFileSchema,
  type Sheet,
} from '@tally/core';
import { itemsToSheet, planToSheet, writeXlsx } from '@tally/files';
import { type Response, Router } from 'express';
import multer from 'multer';
import type { DbClient } from '../../db/db-client.ts';
import type { EnginePool } from '../../engine/engine-pool.ts';
import { HttpProblem, notFound, readBody, route } from '../../http/http-problem.ts';
import type { FileStore } from '../../importers/file-store.ts';
import type { PriceFolder } from '../../importers/price-folder.ts';
import { readSheetsApart } from '../../importers/read-sheets-apart.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import { readGrouping } from '../plan/plan-routes.ts';
import { readContents } from '../projects/read-basis.ts';
import type { SerialQueue } from '../projects/serial-queue.ts';
import { fileStem } from '../sources/file-stem.ts';

const LARGEST_SHEET = 150 * 1024 ** 2;
/** Rows that are shown for choosing the columns. */
const SHOWN_ROWS = 60;
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** Bringing price sheets, comparing them with the book, and what is saved as a spreadsheet. */
export function priceRoutes(
  db: DbClient,
  store: FileStore,
  engines: EnginePool,
  queue: SerialQueue,
  shelf: BookShelf,
  folder: PriceFolder,
): Router {
  const router = Router({ mergeParams: true });
  const upload = multer({
    storage: multer.diskStorage({ destination: (_req, _file, done) => done(null, `${store.root}/uploads`) }),
    limits: { fileSize: LARGEST_SHEET, files: 1 },
  });
  /** The sheet looked at last: it is compared right after it was brought. */
  let last: { hash: string; sheets: readonly Sheet[] } | null = null;

  const read = async (hash: string): Promise<readonly Sheet[]> => {
    if (last?.hash === hash) return last.sheets;
    const path = store.originalPath(hash);
    if (!/^[0-9a-f]{64}$/.test(hash) || !existsSync(path)) throw notFound('price sheet');
    const sheets = await readSheetsApart(path);
    if (!sheets.ok) throw new HttpProblem(400, sheets.problem);
    last = { hash, sheets: sheets.value };
    return sheets.value;
  };
  const contentsOf = async (projectId: string) => {
    const project = await db.projects.find(projectId);
    if (!project) throw notFound('project');
    const entries = await shelf.complete(await db.projects.listEntries(projectId));
    return { project, contents: readContents(entries, project.currency) };
  };
  const projectOf = (params: unknown) => String((params as Record<string, string>).projectId);

  /** Takes a spreadsheet into the originals and reads it: its first rows, and the columns as they are known or guessed. */
  const describe = async (projectId: string, path: string, fileName: string): Promise<PriceSheetDto> => {
    const { contents } = await contentsOf(projectId);
    const fileHash = await store.keepOriginal(path);
    const sheets = await read(fileHash);
    const match = Object.entries(contents.priceSheets).find(([, profile]) => findProfile([profile], sheets));
    const profile = match ? findProfile([match[1]], sheets) : guessProfile(sheets);
    return {
      fileHash,
      fileName,
      source: match?.[0] ?? fileStem(fileName),
      isKnown: match !== undefined,
      sheets: sheets.map(({ name, rows }) => ({ name, rows: rows.slice(0, SHOWN_ROWS), count: rows.length })),
      profile,
    };
  };

  router.post(
    '/price-sheets',
    upload.single('file'),
    route(async (req): Promise<PriceSheetDto> => {
      const { file } = req;
      if (!file)
        throw new HttpProblem(400, {
          code: 'upload-refused',
          message: 'No file came with the request.',
          remedy: 'Choose one XLSX or CSV file.',
        });
      try {
        const fileName = Buffer.from(file.originalname, 'latin1').toString('utf8');
        return await describe(projectOf(req.params), file.path, fileName);
      } finally {
        rmSync(file.path, { force: true });
      }
    }),
  );

  router.get(
    '/price-folder',
    route(async (req): Promise<PriceFileDto[]> => {
      const { contents } = await contentsOf(projectOf(req.params));
      return (await folder.list()).map(({ fileName, at, hash }) => {
        const source = fileStem(fileName);
        const known = contents.priceSheets[source];
        return { fileName, at, source, state: !known ? 'new' : known.fileHash === hash ? 'same' : 'changed' };
      });
    }),
  );

  router.post(
    '/price-folder',
    route(async (req): Promise<PriceSheetDto> => {
      const { fileName } = readBody(priceFileSchema, req);
      const copy = store.uploadPath();
      if (!folder.copy(fileName, copy)) throw notFound('file in the price folder');
      try {
        return await describe(projectOf(req.params), copy, fileName);
      } finally {
        rmSync(copy, { force: true });
      }
    }),
  );

  router.post(
    '/price-sheets/:hash/compare',
    route(async (req): Promise<PriceComparison> => {
      const { profile, source } = readBody(comparePricesSchema, req);
      const { contents } = await contentsOf(projectOf(req.params));
      const sheet = (await read(String(req.params.hash))).find((s) => s.name === profile.sheet);
      if (!sheet) throw notFound('sheet in the file');
      const { items, values = [] } = contents.basis;
      return comparePrices(sheet, profile, { items, values }, source);
    }),
  );

  const send = (res: Response, bytes: Uint8Array, name: string) => {
    res
      .type(XLSX)
      .setHeader(
        'content-disposition',
        `attachment; filename="sheet.xlsx"; filename*=UTF-8''${encodeURIComponent(name)}`,
      );
    res.send(Buffer.from(bytes));
  };
  const plain = (name: string) => name.replace(/[^\p{L}\p{N} _-]/gu, '');

  router.get(
    '/book.xlsx',
    route(async (req, res) => {
      const { project, contents } = await contentsOf(projectOf(req.params));
      const items = [...contents.basis.items].sort((a, b) => (a.code < b.code ? -1 : 1));
      send(res, await writeXlsx([itemsToSheet(items, contents.basis.currency)]), `${plain(project.name)} book.xlsx`);
    }),
  );
  router.get(
    '/plan.xlsx',
    route(async (req, res) => {
      const projectId = projectOf(req.params);
      const { project } = await contentsOf(projectId);
      await queue.run(projectId, async () => undefined);
      const plan = await (await engines.get(projectId)).ask('group', readGrouping(req.query.by));
      const digits = (await (await engines.get(projectId)).ask('digits')) as number;
      send(res, await writeXlsx([planToSheet(plan, 'Plan', digits)]), `${plain(project.name)} plan.xlsx`);
    }),
  );
  return router;
}
