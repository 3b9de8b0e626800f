import { readText } from './columns.ts';
import type { ElementTable } from './element-table.ts';

/** Key of an element inside one file: its GlobalId, with an ordinal where the file repeats one. */
export function listFileIdentities(table: ElementTable): string[] {
  const seen = new Map<string, number>();
  return Array.from({ length: table.count }, (_, row) => {
    const id = readText(table.globalId, row) ?? '';
    const ordinal = seen.get(id) ?? 0;
    seen.set(id, ordinal + 1);
    return ordinal === 0 ? id : `${id}#${ordinal}`;
  });
}

export interface KeyAssignment {
  /** ElementKey of each row of the new table. */
  readonly keys: Int32Array;
  /** Number of rows whose element was known in the revision before. */
  readonly matched: number;
  /** First key that is still free. */
  readonly nextKey: number;
}

/**
 * Gives each row of a new revision its ElementKey: that of the same GlobalId (and ordinal) in the revision before, else a
 * fresh one from `nextKey` on. Keys are never used twice in a project.
 */
export function assignElementKeys(before: ElementTable | null, after: ElementTable, nextKey: number): KeyAssignment {
  const known = new Map<string, number>();
  if (before) for (const [row, id] of listFileIdentities(before).entries()) known.set(id, before.keys[row]!);
  const keys = new Int32Array(after.count);
  let matched = 0;
  let next = nextKey;
  for (const [row, id] of listFileIdentities(after).entries()) {
    const key = known.get(id);
    if (key !== undefined) matched++;
    keys[row] = key ?? next++;
  }
  return { keys, matched, nextKey: next };
}
