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
  type SheetProfile,
} from '@tally/core';
import { itemsToSheet, writeXlsx } from '@tally/files';
import { Router } from 'express';
import multer from 'multer';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound, readBody, route } from '../../http/http-problem.ts';
import { sendFile, XLSX_TYPE } from '../../http/send-file.ts';
import type { FileStore } from '../../importers/file-store.ts';
import type { PriceFolder } from '../../importers/price-folder.ts';
import { readSheetsApart } from '../../importers/read-sheets-apart.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import { readContents } from '../projects/read-basis.ts';
import { requireProject } from '../projects/require-project.ts';
import { fileStem } from '../sources/file-stem.ts';

const LARGEST_SHEET = 150 * 1024 ** 2;
/** Rows that are shown for choosing the columns. */
const SHOWN_ROWS = 60;

/** Bringing price sheets, comparing them with the book, and the book as a spreadsheet. */
export function priceRoutes(db: DbClient, store: FileStore, shelf: BookShelf, folder: PriceFolder): Router {
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
    const project = await requireProject(db, projectId);
    const entries = await shelf.complete(await db.projects.listEntries(projectId));
    return { project, contents: readContents(entries, project.currency) };
  };
  const projectOf = (params: unknown) => String((params as Record<string, string>).projectId);

  /** Takes a spreadsheet into the originals and reads it: its first rows, and the columns as they are known or guessed. */
  const describe = async (projectId: string, path: string, fileName: string): Promise<PriceSheetDto> => {
    const { contents } = await contentsOf(projectId);
    const fileHash = await store.keepOriginal(path);
    const sheets = await read(fileHash);
    const known = findKnownSheet(contents.priceSheets, sheets);
    return {
      fileHash,
      fileName,
      source: known?.source ?? fileStem(fileName),
      isKnown: known !== null,
      sheets: sheets.map(({ name, rows }) => ({ name, rows: rows.slice(0, SHOWN_ROWS), count: rows.length })),
      profile: known?.profile ?? guessProfile(sheets),
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

  router.get(
    '/book.xlsx',
    route(async (req, res) => {
      const { project, contents } = await contentsOf(projectOf(req.params));
      const items = [...contents.basis.items].sort((a, b) => (a.code < b.code ? -1 : 1));
      const bytes = await writeXlsx([itemsToSheet(items, contents.basis.currency)]);
      sendFile(res, XLSX_TYPE, project.name, 'book.xlsx', bytes);
    }),
  );
  return router;
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
