/** A change of keyed records: the one shape that listening, undo and comparison share. */
export interface EntryDiff<T = unknown> {
  readonly added: readonly Entry<T>[];
  readonly updated: readonly { readonly kind: string; readonly id: string; readonly from: T; readonly to: T }[];
  readonly removed: readonly Entry<T>[];
}

export interface Entry<T = unknown> {
  readonly kind: string;
  readonly id: string;
  readonly body: T;
}

/** Order of entries wherever they are listed: by kind, then by id, sign by sign. */
export function compareEntries(a: Pick<Entry, 'kind' | 'id'>, b: Pick<Entry, 'kind' | 'id'>): number {
  return a.kind < b.kind ? -1 : a.kind > b.kind ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0;
}

/** The diff that takes a change back. */
export function invertDiff<T>(diff: EntryDiff<T>): EntryDiff<T> {
  return {
    added: diff.removed,
    removed: diff.added,
    updated: diff.updated.map(({ kind, id, from, to }) => ({ kind, id, from: to, to: from })),
  };
}

export function isEmptyDiff(diff: EntryDiff): boolean {
  return diff.added.length + diff.updated.length + diff.removed.length === 0;
}

/** True if two bodies say the same; the order of their fields does not matter. */
export function isSameBody(a: unknown, b: unknown): boolean {
  return JSON.stringify(sortFields(a)) === JSON.stringify(sortFields(b));
}

/** The same value with the fields of its objects in alphabetical order. */
export function sortFields(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sortFields);
  if (value === null || typeof value !== 'object') return value;
  const fields = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(fields.map(([key, inner]) => [key, sortFields(inner)]));
}

/** Names of the entries a diff touches, `kind/id`. */
export function listTouchedEntries(diff: EntryDiff): string[] {
  return [...diff.added, ...diff.updated, ...diff.removed].map((e) => `${e.kind}/${e.id}`);
}

/** What turns one set of entries into another. */
export function diffEntries<T>(before: readonly Entry<T>[], after: readonly Entry<T>[]): EntryDiff<T> {
  const name = (e: Entry<T>) => `${e.kind}/${e.id}`;
  const old = new Map(before.map((e) => [name(e), e]));
  const now = new Set(after.map(name));
  const added: Entry<T>[] = [];
  const updated: EntryDiff<T>['updated'][number][] = [];
  for (const e of after) {
    const was = old.get(name(e));
    if (!was) added.push(e);
    else if (!isSameBody(was.body, e.body)) updated.push({ kind: e.kind, id: e.id, from: was.body, to: e.body });
  }
  return { added, updated, removed: before.filter((e) => !now.has(name(e))) };
}

/** Applies a diff to entries. Throws if it does not fit them: an entry to add exists, one to change or remove does not. */
export function applyDiff<T>(entries: readonly Entry<T>[], diff: EntryDiff<T>): Entry<T>[] {
  const out = new Map(entries.map((e) => [`${e.kind}/${e.id}`, e]));
  const must = (key: string, exists: boolean) => {
    if (out.has(key) !== exists)
      throw new Error(`The change does not fit: ${key} ${exists ? 'is not there' : 'is there already'}.`);
  };
  for (const { kind, id } of diff.removed) {
    must(`${kind}/${id}`, true);
    out.delete(`${kind}/${id}`);
  }
  for (const { kind, id, to } of diff.updated) {
    must(`${kind}/${id}`, true);
    out.set(`${kind}/${id}`, { kind, id, body: to });
  }
  for (const entry of diff.added) {
    must(`${entry.kind}/${entry.id}`, false);
    out.set(`${entry.kind}/${entry.id}`, entry);
  }
  return [...out.values()];
}
