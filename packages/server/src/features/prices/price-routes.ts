import { rmSync } from 'node:fs';
import { comparePricesSchema, type PriceFileDto, priceFileSchema, wantPricesSchema } from '@tally/core';
import { bookToSheet, writeCsv } from '@tally/files';
import { Router } from 'express';
import { abortOnClose, notFound, readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import { receiveUpload } from '../../http/receive-upload.ts';
import { sendFile, XLSX_TYPE } from '../../http/send-file.ts';
import type { FileStore } from '../../importers/file-store.ts';
import type { PriceFolder } from '../../importers/price-folder.ts';
import { writeSheetsApart } from '../../importers/write-sheets-apart.ts';
import { projectIdOf } from '../projects/require-project.ts';
import { fileStem } from '../sources/file-stem.ts';
import type { PriceService } from './price-service.ts';

const LARGEST_SHEET = 150 * 1024 ** 2;

/** Bringing price sheets and classifications, comparing prices with the book, and the book as a spreadsheet. */
export function priceRoutes(prices: PriceService, store: FileStore, folder: PriceFolder): Router {
  const router = Router({ mergeParams: true });
  const uploads = `${store.root}/uploads`;

  router.post(
    '/price-sheets',
    ...receiveUpload(uploads, LARGEST_SHEET, 'one XLSX or CSV file', ({ path, fileName }, req) =>
      prices.describe(projectIdOf(req), path, fileName),
    ),
  );

  router.post(
    '/classifications',
    ...receiveUpload(uploads, LARGEST_SHEET, 'one XLSX or CSV file', async ({ path, fileName }, req) => {
      await prices.readProject(projectIdOf(req));
      return prices.readClassList(path, fileName);
    }),
  );

  router.get(
    '/price-folder',
    route(async (req): Promise<PriceFileDto[]> => {
      const { contents } = await prices.readProject(projectIdOf(req));
      return (await folder.list()).map(({ fileName, at, hash }) => {
        const source = fileStem(fileName);
        const known = contents.priceSheets[source];
        return { fileName, at, source, state: !known ? 'new' : known.fileHash === hash ? 'same' : 'changed' };
      });
    }),
  );

  router.post(
    '/price-folder',
    route(async (req) => {
      const { fileName } = readBody(priceFileSchema, req);
      const copy = store.uploadPath();
      if (!folder.copy(fileName, copy)) throw notFound('file in the price folder');
      try {
        return await prices.describe(projectIdOf(req), copy, fileName);
      } finally {
        rmSync(copy, { force: true });
      }
    }),
  );

  router.post(
    '/price-sheets/:hash/compare',
    route((req) => prices.compare(projectIdOf(req), String(req.params.hash), readBody(comparePricesSchema, req))),
  );

  router.post(
    '/price-sheets/:hash/effects',
    route((req, res) =>
      prices.listEffects(projectIdOf(req), String(req.params.hash), readBody(wantPricesSchema, req), abortOnClose(res)),
    ),
  );
  router.post(
    '/price-sheets/:hash/preview',
    route((req, res) =>
      prices.preview(projectIdOf(req), String(req.params.hash), readBody(wantPricesSchema, req), abortOnClose(res)),
    ),
  );
  router.post(
    '/price-sheets/:hash/take-over',
    route((req) =>
      prices.takeOver(
        projectIdOf(req),
        String(req.params.hash),
        readBody(wantPricesSchema, req),
        readAuthor(req.headers['x-author']),
      ),
    ),
  );

  const readItems = async (projectId: string) => {
    const { project, contents } = await prices.readProject(projectId);
    const { items, values, currency, classification } = contents.basis;
    const sorted = [...items].sort((a, b) => (a.code < b.code ? -1 : 1));
    return { name: project.name, sheet: bookToSheet({ items: sorted, values }, currency, classification) };
  };
  router.get(
    '/book.xlsx',
    route(async (req, res) => {
      const { name, sheet } = await readItems(projectIdOf(req));
      sendFile(res, XLSX_TYPE, name, 'book.xlsx', await writeSheetsApart([sheet]));
    }),
  );
  router.get(
    '/book.csv',
    route(async (req, res) => {
      const { name, sheet } = await readItems(projectIdOf(req));
      sendFile(res, 'text/csv', name, 'book.csv', writeCsv(sheet));
    }),
  );
  return router;
}
