import { parentPort, workerData } from 'node:worker_threads';
import { readSheets } from '@tally/files';

/** Reads a spreadsheet file apart from the server, which a damaged or huge one must not stop. */
parentPort!.postMessage(await readSheets((workerData as { path: string }).path));
