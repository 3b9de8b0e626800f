import { writeXlsx, type XlsxSheet } from '@tally/files';
import { startWorker } from '@tally/ifc';
import { askWorker } from './ask-worker.ts';

/** Sheets of fewer rows are written at once. */
const FEW_ROWS = 2000;

/** Writes an XLSX file; a long one in a thread of its own, so that the server goes on answering. */
export function writeSheetsApart(sheets: readonly XlsxSheet[]): Promise<Uint8Array> {
  if (sheets.every((s) => s.rows.length < FEW_ROWS)) return writeXlsx(sheets);
  const worker = startWorker(import.meta.url, 'xlsx-worker', { sheets });
  return askWorker(worker, 'The file could not be written; try again.');
}
