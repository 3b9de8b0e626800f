import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { decodeElementTable, type ElementTable } from '@tally/core';

/** A file that is named by its content is gone, or holds another: it can be made again from the original. */
export class FileDamaged extends Error {
  readonly code = FILE_DAMAGED;
}

/** Code of a `FileDamaged` that comes from another thread. */
export const FILE_DAMAGED = 'file-damaged';

/** Unpacks a file that is named by the hash of its content. Throws `FileDamaged` if it holds anything else. */
export function readNamedFile(path: string): Uint8Array {
  if (!existsSync(path)) throw new FileDamaged(`The file ${path} is gone.`);
  const packed = readFileSync(path);
  if (createHash('sha256').update(packed).digest('hex') !== basename(path).split('.')[0])
    throw new FileDamaged(`The file ${path} is damaged.`);
  return gunzipSync(packed);
}

/** Reads an element table file. Throws `FileDamaged`, or with the remedy if it cannot be used. */
export function readTableFile(path: string): ElementTable {
  const table = decodeElementTable(readNamedFile(path));
  if (!table.ok) throw new Error(`${table.problem.message} ${table.problem.remedy ?? ''}`);
  return table.value;
}
