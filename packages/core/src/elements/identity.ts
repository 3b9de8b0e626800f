import { readText } from './columns.ts';
import type { ElementTable } from './element-table.ts';

/** What names an element inside its source: its identity there, with an ordinal where the source repeats one. */
export function listFileIdentities(table: ElementTable): string[] {
  const seen = new Map<string, number>();
  return Array.from({ length: table.count }, (_, row) => {
    const id = readText(table.identity, row) ?? '';
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
  /** Key of every element the source ever had, by its identity in the file. */
  readonly known: ReadonlyMap<string, number>;
}

/**
 * Gives each row of a new revision its ElementKey: that of the same identity (and ordinal) in the revision before, else the one it had
 * in an older revision of the source, else a fresh one from `nextKey` on. Keys are never used twice in a project.
 * @param past keys of elements of earlier revisions, as `known` of the last assignment
 * @example an element of R1 that R2 lacks has the key of R1 again in R3
 */
export function assignElementKeys(
  before: ElementTable | null,
  after: ElementTable,
  nextKey: number,
  past: ReadonlyMap<string, number> = new Map(),
): KeyAssignment {
  const known = new Map(past);
  const last = new Set<string>();
  if (before)
    for (const [row, id] of listFileIdentities(before).entries()) {
      known.set(id, before.keys[row]!);
      last.add(id);
    }
  const keys = new Int32Array(after.count);
  let matched = 0;
  let next = nextKey;
  for (const [row, id] of listFileIdentities(after).entries()) {
    if (last.has(id)) matched++;
    if (!known.has(id)) known.set(id, next++);
    keys[row] = known.get(id)!;
  }
  return { keys, matched, nextKey: next, known };
}
