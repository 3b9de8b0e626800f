import { readText } from './columns.ts';
import type { ElementTable, IdentifiedRows } from './element-table.ts';
import { type LikePair, reidentifyElements } from './reidentify-elements.ts';

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

/** Keys of the elements that a source ever had, by their identity in its files. */
export interface PastKeys {
  readonly keys: ReadonlyMap<string, number>;
  /** The key that an element would have if it were not known again under another id. */
  readonly own: ReadonlyMap<string, number>;
}

const NO_PAST: PastKeys = { keys: new Map(), own: new Map() };

export interface KeyAssignment {
  /** ElementKey of each row of the new table. */
  readonly keys: Int32Array;
  /** Number of rows whose element was known in the revision before, by its id. */
  readonly matched: number;
  /** Number of rows that are surely an element of the revision before under another id. */
  readonly rematched: number;
  /** First key that is still free. */
  readonly nextKey: number;
  readonly known: PastKeys;
  /** Rows that came under another id, or may have; absent if there are none. */
  readonly identified?: IdentifiedRows;
}

interface Identified {
  readonly row: number;
  readonly own: number;
  readonly was: number;
  readonly score: number;
  readonly margin: number;
  readonly isSure: boolean;
}

/**
 * Gives each row of a new revision its ElementKey: that of the same identity (and ordinal) in the revision before, else the one it had
 * in an older revision of the source, else that of the element of the revision before that it surely is under another id, else a fresh one from `nextKey` on.
 * Keys are never used twice in a project, nor in a table. Where two claim one key, the one that had it last has it, and the other is asked about.
 * @param past keys of elements of earlier revisions, as `known` of the last assignment
 * @example an element of R1 that R2 lacks has the key of R1 again in R3
 */
export function assignElementKeys(
  before: ElementTable | null,
  after: ElementTable,
  nextKey: number,
  past: PastKeys = NO_PAST,
): KeyAssignment {
  const known = new Map(past.keys);
  const own = new Map(past.own);
  const rowBefore = new Map<string, number>();
  if (before) {
    for (const [row, id] of listFileIdentities(before).entries()) {
      known.set(id, before.keys[row]!);
      rowBefore.set(id, row);
    }
  }
  const ids = listFileIdentities(after);
  const keys = new Int32Array(after.count);
  const used = new Set<number>();
  const matched: (readonly [number, number])[] = [];
  for (const [row, id] of ids.entries()) {
    const from = rowBefore.get(id);
    if (from === undefined) continue;
    matched.push([from, row]);
    keys[row] = before!.keys[from]!;
    used.add(keys[row]!);
  }
  let next = nextKey;
  const found: Identified[] = before ? carryOver(before, new Map(matched)) : [];
  const away = new Set<number>();
  for (const [row, id] of ids.entries()) {
    const key = known.get(id);
    if (rowBefore.has(id) || key === undefined) continue;
    away.add(row);
    if (used.has(key)) {
      // Another element has been taken for it while it was away.
      keys[row] = next++;
      known.set(id, keys[row]!);
      found.push({ row, own: keys[row]!, was: key, score: 1, margin: 0, isSure: false });
    } else {
      keys[row] = key;
      const ownKey = own.get(id);
      if (ownKey !== undefined) found.push({ row, own: ownKey, was: key, score: 1, margin: 1, isSure: true });
    }
    used.add(keys[row]!);
  }
  const { sure, asked } = lookForOthers(before, after, matched, away, used);
  for (const [row, id] of ids.entries()) {
    if (rowBefore.has(id) || away.has(row)) continue;
    const ownKey = next++;
    const pair = sure.get(row);
    keys[row] = pair ? before!.keys[pair.from]! : ownKey;
    known.set(id, keys[row]!);
    if (pair) own.set(id, ownKey);
    for (const p of pair ? [pair] : (asked.get(row) ?? []))
      found.push({ row, own: ownKey, was: before!.keys[p.from]!, score: p.score, margin: p.margin, isSure: p.isSure });
  }
  return {
    keys,
    matched: matched.length,
    rematched: sure.size,
    nextKey: next,
    known: { keys: known, own },
    ...(found.length > 0 ? { identified: toColumns(found.sort((a, b) => a.row - b.row)) } : {}),
  };
}

/** Of rows that are known by their ids: what was known, or asked, about their identity before; not what has been settled since by itself. */
function carryOver(before: ElementTable, rowAfter: ReadonlyMap<number, number>): Identified[] {
  const { identified } = before;
  if (!identified) return [];
  const there = new Set([...rowAfter.keys()].map((row) => before.keys[row]!));
  return [...identified.rows].flatMap((from, i): Identified[] => {
    const row = rowAfter.get(from);
    const isSure = identified.sure[i] === 1;
    const was = identified.was[i]!;
    if (row === undefined || (!isSure && there.has(was))) return [];
    return [{ row, own: identified.own[i]!, was, score: identified.score[i]!, margin: identified.margin[i]!, isSure }];
  });
}

/** Rows without a known id that are, or may be, elements of the revision before whose ids are gone. */
function lookForOthers(
  before: ElementTable | null,
  after: ElementTable,
  matched: readonly (readonly [number, number])[],
  away: ReadonlySet<number>,
  used: ReadonlySet<number>,
): { readonly sure: ReadonlyMap<number, LikePair>; readonly asked: ReadonlyMap<number, LikePair[]> } {
  const sure = new Map<number, LikePair>();
  const asked = new Map<number, LikePair[]>();
  // The lines of a list are told apart by the key that was chosen for it.
  if (!before || before.origin || after.origin) return { sure, asked };
  for (const pair of reidentifyElements(before, after, matched)) {
    if (away.has(pair.to) || used.has(before.keys[pair.from]!)) continue;
    if (pair.isSure) sure.set(pair.to, pair);
    else asked.set(pair.to, [...(asked.get(pair.to) ?? []), pair]);
  }
  return { sure, asked };
}

const toColumns = (found: readonly Identified[]): IdentifiedRows => ({
  rows: Int32Array.from(found, (f) => f.row),
  own: Int32Array.from(found, (f) => f.own),
  was: Int32Array.from(found, (f) => f.was),
  score: Float64Array.from(found, (f) => f.score),
  margin: Float64Array.from(found, (f) => f.margin),
  sure: Uint8Array.from(found, (f) => Number(f.isSure)),
});

/** What people said about identities, by the own key of an element: the key it has had, or null if it is none of before. */
export type SaidIdentities = ReadonlyMap<number, number | null>;

/** What people said about identities, from how it is kept: by the own key as text. */
export const readSaidIdentities = (kept: Readonly<Record<string, { readonly was: number | null }>>): SaidIdentities =>
  new Map(Object.entries(kept).map(([own, { was }]) => [Number(own), was]));

/**
 * The keys of a table after what people said about its elements. Where two would have one key, the one that the table says has it keeps it.
 * @example a doubtful wall, key 81, said to be wall 12: it has key 12; a sure one, key 12, own key 81, said to be none: it has key 81
 */
export function sayIdentities(table: ElementTable, said: SaidIdentities): ElementTable {
  if (said.size === 0) return table;
  const ownOf = new Map<number, number>();
  table.identified?.rows.forEach((row, i) => {
    if (table.identified!.sure[i]) ownOf.set(row, table.identified!.own[i]!);
  });
  const keys = table.keys.map((key, row) => followSaid(ownOf.get(row) ?? key, key, said));
  if (keys.every((key, row) => key === table.keys[row])) return table;
  return { ...table, keys: keepApart(table.keys, keys) };
}

/** The key of an element: what is said of its own one, else the one it was given; an accepted one may be said to be another in turn. */
function followSaid(own: number, given: number, said: SaidIdentities): number {
  const first = said.get(own);
  if (first === null) return own;
  let key = first ?? given;
  const seen = new Set([own]);
  while (!seen.has(key)) {
    seen.add(key);
    const further = said.get(key);
    if (further === undefined || further === null) return key;
    key = further;
  }
  // Said in a circle: nothing was said.
  return given;
}

/** Keys of which no two are the same: who kept its own stays, the first of the others has the new one. */
function keepApart(given: Int32Array, wanted: Int32Array): Int32Array {
  const taken = new Set<number>();
  given.forEach((key, row) => {
    if (wanted[row] === key) taken.add(key);
  });
  return wanted.map((key, row) => {
    if (key === given[row]) return key;
    const free = taken.has(key) ? given[row]! : key;
    taken.add(free);
    return free;
  });
}
