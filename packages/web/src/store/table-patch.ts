/** A change of something made of plain objects and lists: what stayed is not sent again. */
export type Patch =
  | { readonly kind: 'same' }
  | { readonly kind: 'value'; readonly value: unknown }
  | { readonly kind: 'fields'; readonly fields: Readonly<Record<string, Patch>> }
  /** Entries of the list before by number, and new ones. */
  | { readonly kind: 'list'; readonly entries: readonly (number | { readonly value: unknown })[] };

const SAME: Patch = { kind: 'same' };

const isFields = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;

/** Columns are the fields of a table, or of a table in it: what lies deeper is sent whole. */
const DEEPEST = 2;

/** What changed, where parts that did not are the very same objects (see `keepSame`). */
export function findPatch(before: unknown, after: unknown, depth = 0): Patch {
  if (before === after) return SAME;
  if (depth <= DEEPEST && isFields(before) && isFields(after)) {
    const names = new Set([...Object.keys(before), ...Object.keys(after)]);
    const changed = [...names].flatMap((name): [string, Patch][] =>
      before[name] === after[name] ? [] : [[name, findPatch(before[name], after[name], depth + 1)]],
    );
    return { kind: 'fields', fields: Object.fromEntries(changed) };
  }
  if (Array.isArray(before) && Array.isArray(after) && after.some((entry) => typeof entry === 'object')) {
    const places = new Map(before.map((entry, i) => [entry, i]));
    return { kind: 'list', entries: after.map((value) => places.get(value) ?? { value }) };
  }
  return { kind: 'value', value: after };
}

/** What was, with the change made; parts that stayed are the very same objects. */
export function applyPatch(before: unknown, patch: Patch): unknown {
  if (patch.kind === 'same') return before;
  if (patch.kind === 'value') return patch.value;
  if (patch.kind === 'list')
    return patch.entries.map((e) => (typeof e === 'number' ? (before as readonly unknown[])[e] : e.value));
  const after: Record<string, unknown> = { ...(before as Record<string, unknown>) };
  for (const [name, part] of Object.entries(patch.fields)) {
    const value = applyPatch(after[name], part);
    if (value === undefined) delete after[name];
    else after[name] = value;
  }
  return after;
}

const isColumn = (value: unknown): value is Float64Array => ArrayBuffer.isView(value) && !(value instanceof DataView);

/** The value after, with the objects of before for all parts of it that hold the same. */
export function keepSame<T>(before: unknown, after: T): T {
  if (before === after || typeof before !== 'object' || typeof after !== 'object' || !before || !after) return after;
  if (before.constructor !== after.constructor) return after;
  if (isColumn(after)) return isSameColumn(before as Float64Array, after) ? (before as T) : after;
  if (Array.isArray(after)) {
    const [was, now] = [before as unknown[], after.map((entry, i) => keepSame((before as unknown[])[i], entry))];
    return (was.length === now.length && now.every((entry, i) => Object.is(entry, was[i])) ? was : now) as T;
  }
  if (!isFields(after)) return after;
  const [was, now] = [before as Record<string, unknown>, {} as Record<string, unknown>];
  for (const [name, value] of Object.entries(after)) now[name] = keepSame(was[name], value);
  const names = Object.keys(now);
  const isSame = names.length === Object.keys(was).length && names.every((n) => n in was && Object.is(now[n], was[n]));
  return (isSame ? was : now) as T;
}

function isSameColumn(before: Float64Array, after: Float64Array): boolean {
  if (before.length !== after.length) return false;
  for (let i = 0; i < after.length; i++) if (!Object.is(before[i], after[i])) return false;
  return true;
}
