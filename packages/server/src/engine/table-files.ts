import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { decodeElementTable, type ElementTable } from '@tally/core';

/** Reads an element table file. Throws with the remedy if it cannot be used. */
export function readTableFile(path: string): ElementTable {
  const table = decodeElementTable(gunzipSync(readFileSync(path)));
  if (!table.ok) throw new Error(`${table.problem.message} ${table.problem.remedy ?? ''}`);
  return table.value;
}
