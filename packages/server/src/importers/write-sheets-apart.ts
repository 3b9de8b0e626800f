import { writeXlsx, type XlsxSheet } from '@tally/files';
import { startWorker } from '@tally/ifc';

/** Sheets of fewer rows are written at once. */
const FEW_ROWS = 2000;

/** Writes an XLSX file; a long one in a thread of its own, so that the server goes on answering. */
export function writeSheetsApart(sheets: readonly XlsxSheet[]): Promise<Uint8Array> {
  if (sheets.every((s) => s.rows.length < FEW_ROWS)) return writeXlsx(sheets);
  const worker = startWorker(import.meta.url, 'xlsx-worker', { sheets });
  return new Promise((resolve, reject) => {
    worker.once('message', (bytes: Uint8Array) => {
      resolve(bytes);
      void worker.terminate();
    });
    worker.once('error', reject);
    worker.once('exit', () => reject(new Error('The file could not be written; try again.')));
  });
}
