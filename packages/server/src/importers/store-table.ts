import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { assignElementKeys, type ElementTable, encodeElementTable } from '@tally/core';
import { readNamedFile, readTableFile } from '../engine/table-files.ts';
import { writeWhole } from './file-store.ts';
import type { FileStorePaths } from './file-store-paths.ts';
import type { ReadingOrder } from './import-messages.ts';

/** A table that was stored, with what it was compared with. */
export interface StoredTable {
  readonly table: ElementTable;
  readonly before: ElementTable | null;
  readonly tableHash: string;
  readonly keysHash: string;
  /** Elements known from the revision before, by their ids or by likeness. */
  readonly matched: number;
  readonly nextKey: number;
}

/** An identity in the files of a source with its ElementKey, and the one of its own where it is known again as another. */
type StoredKey = readonly [id: string, key: number, own?: number];

/** Gives the elements of a table their keys: those of the revision before, else of any before that, else new ones. */
export function giveKeys(
  plain: ElementTable,
  { beforePath, keysPath, nextKey: firstKey }: NonNullable<ReadingOrder['identity']>,
) {
  const before = beforePath ? readTableFile(beforePath) : null;
  const past = keysPath ? (JSON.parse(Buffer.from(readNamedFile(keysPath)).toString()) as StoredKey[]) : [];
  const { keys, identified, ...given } = assignElementKeys(before, plain, firstKey, {
    keys: new Map(past.map(([id, key]) => [id, key])),
    own: new Map(past.flatMap(([id, _, own]) => (own === undefined ? [] : [[id, own]]))),
  });
  return { ...given, before, table: { ...plain, keys, ...(identified ? { identified } : {}) } };
}

/** Stores a table with the keys of its elements, and these apart. */
export function storeTable(
  plain: ElementTable,
  identity: NonNullable<ReadingOrder['identity']>,
  store: FileStorePaths,
): StoredTable {
  const { table, before, matched, rematched, nextKey, known } = giveKeys(plain, identity);
  const keysText = JSON.stringify(
    [...known.keys]
      .sort(([, a], [, b]) => a - b)
      .map(([id, key]): StoredKey => (known.own.has(id) ? [id, key, known.own.get(id)!] : [id, key])),
  );
  return {
    table,
    before,
    matched: matched + rematched,
    nextKey,
    keysHash: storeNamed(Buffer.from(keysText), (hash) => store.keysPath(hash)),
    tableHash: storeNamed(encodeElementTable(table), (hash) => store.tablePath(hash)),
  };
}

/** Packs and stores content under the hash of it. */
function storeNamed(content: Uint8Array, pathOf: (hash: string) => string): string {
  const packed = gzipSync(content, { level: 6 });
  const hash = createHash('sha256').update(packed).digest('hex');
  const path = pathOf(hash);
  // One of this name that was damaged since is written over.
  if (!existsSync(path) || !readFileSync(path).equals(packed)) writeWhole(path, packed);
  return hash;
}
