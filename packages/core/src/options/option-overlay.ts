import { compareEntries, type Entry, type EntryDiff, isSameBody } from '../changes/entry-diff.ts';
import { toEntryId } from '../units/entry-id.ts';

/** A named alternative: a set of differences to what its project has. */
export interface OptionBody {
  readonly name: string;
  readonly note?: string;
  /** It is not worked on any more, but kept. */
  readonly isAway?: boolean;
  readonly by?: string;
  readonly at?: string;
}

/** What an option has in place of an entry of its base; null stands for none. */
export interface Difference {
  readonly option: string;
  readonly kind: string;
  readonly id: string;
  /** The entry of the base that it was made on. */
  readonly from: unknown;
  readonly to: unknown;
}

/** A difference on an entry that the base has otherwise by now. */
export interface OptionConflict {
  readonly difference: Difference;
  /** What the base has; null for none. */
  readonly base: unknown;
}

/** Entries that are of the project as a whole, whatever option one works in. */
const OF_PROJECT: ReadonlySet<string> = new Set(['option', 'difference', 'baseline', 'view', 'planView']);

/** Whether an entry is another in another option. */
export const isOptional = (kind: string): boolean => !OF_PROJECT.has(kind);

/** What a difference is kept by. */
export const differenceId = ({ option, kind, id }: Pick<Difference, 'option' | 'kind' | 'id'>): string =>
  toEntryId(`${option}/${kind}/${id}`);

const nameOf = ({ kind, id }: Pick<Entry, 'kind' | 'id'>) => `${kind}/${id}`;

/** Differences of an option, as the entries of its project that they are kept as. */
export const listDifferenceEntries = (entries: readonly Entry[], option: string): Entry<Difference>[] =>
  entries.filter((e) => e.kind === 'difference' && (e.body as Difference).option === option) as Entry<Difference>[];

/** Differences of an option among the entries of its project. */
export const listDifferences = (entries: readonly Entry[], option: string): Difference[] =>
  listDifferenceEntries(entries, option).map((e) => e.body);

/**
 * The entries of a project as an option has them. What the option does not touch are the very objects of the base.
 * @returns also what the base has otherwise than when the option changed it: there the option's own counts
 */
export function overlayOption(
  entries: readonly Entry[],
  option: string,
): { readonly entries: Entry[]; readonly conflicts: OptionConflict[] } {
  const found = new Map(entries.map((e) => [nameOf(e), e]));
  const conflicts: OptionConflict[] = [];
  let isMore = false;
  for (const difference of listDifferences(entries, option)) {
    const { kind, id, from, to } = difference;
    const name = nameOf({ kind, id });
    const base = found.get(name)?.body ?? null;
    if (!isSameBody(base, from) && !isSameBody(base, to)) conflicts.push({ difference, base });
    if (to === null) found.delete(name);
    else {
      isMore ||= !found.has(name);
      found.set(name, { kind, id, body: to });
    }
  }
  const list = [...found.values()];
  return { entries: isMore ? list.sort(compareEntries) : list, conflicts };
}

/** A change made in an option as a change of its project: of differences, but for what is of the project as a whole. */
export function toDifferences(entries: readonly Entry[], option: string, diff: EntryDiff): EntryDiff {
  const base = new Map(entries.map((e) => [nameOf(e), e]));
  const made: { added: Entry[]; updated: EntryDiff['updated'][number][]; removed: Entry[] } = {
    added: diff.added.filter((e) => !isOptional(e.kind)),
    updated: diff.updated.filter((e) => !isOptional(e.kind)),
    removed: diff.removed.filter((e) => !isOptional(e.kind)),
  };
  const put = (kind: string, id: string, to: unknown) => {
    if (!isOptional(kind)) return;
    const own = base.get(nameOf({ kind, id }))?.body ?? null;
    const entryId = differenceId({ option, kind, id });
    const known = base.get(nameOf({ kind: 'difference', id: entryId }));
    const before = known?.body as Difference | undefined;
    if (isSameBody(to, own)) {
      if (known) made.removed.push(known);
      return;
    }
    const body: Difference = { option, kind, id, from: before ? before.from : own, to };
    if (known) made.updated.push({ kind: 'difference', id: entryId, from: known.body, to: body });
    else made.added.push({ kind: 'difference', id: entryId, body });
  };
  for (const { kind, id, body } of diff.added) put(kind, id, body);
  for (const { kind, id, to } of diff.updated) put(kind, id, to);
  for (const { kind, id } of diff.removed) put(kind, id, null);
  return made;
}

/** A change of a project as an option sees it: its differences as the entries that they are of; those of other options are none. */
export function fromDifferences(option: string, diff: EntryDiff): EntryDiff {
  const seen: { added: Entry[]; updated: EntryDiff['updated'][number][]; removed: Entry[] } = { added: [], updated: [], removed: [] }; // biome-ignore format: one start
  const tell = ({ kind, id }: Difference, from: unknown, to: unknown) => {
    if (from === null && to !== null) seen.added.push({ kind, id, body: to });
    else if (from !== null && to === null) seen.removed.push({ kind, id, body: from });
    else if (from !== null) seen.updated.push({ kind, id, from, to });
  };
  for (const e of diff.added) {
    const d = e.body as Difference;
    if (e.kind !== 'difference') seen.added.push(e);
    else if (d.option === option) tell(d, d.from, d.to);
  }
  for (const e of diff.removed) {
    const d = e.body as Difference;
    if (e.kind !== 'difference') seen.removed.push(e);
    else if (d.option === option) tell(d, d.to, d.from);
  }
  for (const e of diff.updated) {
    const [a, b] = [e.from as Difference, e.to as Difference];
    if (e.kind !== 'difference') seen.updated.push(e);
    else if (b.option === option) tell(b, a.to, b.to);
  }
  return seen;
}
