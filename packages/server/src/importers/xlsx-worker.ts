import { parentPort, workerData } from 'node:worker_threads';
import { writeXlsx, type XlsxSheet } from '@tally/files';

/** Writes a long spreadsheet apart from the server. */
parentPort!.postMessage(await writeXlsx((workerData as { sheets: readonly XlsxSheet[] }).sheets));
