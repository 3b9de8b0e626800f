import { failure, type Result, type Sheet } from '@tally/core';
import { startWorker } from '@tally/ifc';
import { askWorker } from './ask-worker.ts';

const LONGEST_MS = 180_000;
const MOST_MB = 2048;

/**
 * Reads a spreadsheet in a thread of its own with bounded memory and time.
 * Errors: those of `readSheets`; `sheet-too-large` if it needs more memory or time than it may have.
 */
export function readSheetsApart(path: string): Promise<Result<Sheet[]>> {
  const tooLarge: Result<Sheet[]> = failure('sheet-too-large', 'The file needs more memory or time than it may have.', {
    remedy: 'Save only the sheet with the prices.',
  });
  const worker = startWorker(import.meta.url, 'sheet-worker', { path }, { maxOldGenerationSizeMb: MOST_MB });
  return askWorker(worker, 'The reader of the sheet ended without a word.', {
    ms: LONGEST_MS,
    answer: tooLarge,
  }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ERR_WORKER_OUT_OF_MEMORY') return tooLarge;
    throw error;
  });
}
