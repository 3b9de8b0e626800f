import { failure, type Result, type Sheet } from '@tally/core';
import { startWorker } from '@tally/ifc';

const LONGEST_MS = 180_000;
const MOST_MB = 2048;

/**
 * Reads a spreadsheet in a thread of its own with bounded memory and time.
 * Errors: those of `readSheets`; `sheet-too-large` if it needs more memory or time than it may have.
 */
export function readSheetsApart(path: string): Promise<Result<Sheet[]>> {
  const worker = startWorker(import.meta.url, 'sheet-worker', { path }, { maxOldGenerationSizeMb: MOST_MB });
  return new Promise((resolve, reject) => {
    const tooLarge = () =>
      resolve(
        failure('sheet-too-large', 'The file needs more memory or time than it may have.', {
          remedy: 'Save only the sheet with the prices.',
        }),
      );
    const timer = setTimeout(() => {
      tooLarge();
      void worker.terminate();
    }, LONGEST_MS);
    worker.once('message', (read: Result<Sheet[]>) => {
      resolve(read);
      void worker.terminate();
    });
    worker.once('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? tooLarge() : reject(error),
    );
    worker.once('exit', () => clearTimeout(timer));
  });
}
