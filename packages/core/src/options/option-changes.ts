import type { Entry, EntryDiff } from '../changes/entry-diff.ts';
import { failure, type Result, success } from '../result/result.ts';
import {
  type Difference,
  differenceId,
  listDifferenceEntries,
  listDifferences,
  type OptionBody,
  overlayOption,
} from './option-overlay.ts';

const NOTHING: EntryDiff = { added: [], updated: [], removed: [] };

/** An option among the entries of its project. Errors: `option-unknown` */
export function findOption(entries: readonly Entry[], option: string): Result<Entry<OptionBody>> {
  const found = entries.find((e) => e.kind === 'option' && e.id === option);
  if (found) return success(found as Entry<OptionBody>);
  return failure('option-unknown', 'There is no such option; it may have been merged or taken away.', {
    remedy: 'Go back to the plan of the project.',
  });
}

/**
 * Makes an option; one that is made in another begins with what that has.
 * @param parent the option that it is made in; null for the base
 */
export function makeOption(entries: readonly Entry[], id: string, body: OptionBody, parent: string | null): EntryDiff {
  const own = parent === null ? [] : listDifferences(entries, parent).map((d): Difference => ({ ...d, option: id }));
  return {
    ...NOTHING,
    added: [{ kind: 'option', id, body }, ...own.map((d) => ({ kind: 'difference', id: differenceId(d), body: d }))],
  };
}

/**
 * The one change that makes the base what an option is: the differences are done to it, and the option is gone. Errors: `option-unknown`;
 * `option-conflict` while the base has something otherwise than when the option changed it.
 */
export function mergeOption(entries: readonly Entry[], option: string): Result<EntryDiff> {
  const found = findOption(entries, option);
  if (!found.ok) return found;
  const { conflicts } = overlayOption(entries, option);
  if (conflicts.length > 0) {
    const { kind, id } = conflicts[0]!.difference;
    const more = conflicts.length > 1 ? `, and ${conflicts.length - 1} more` : '';
    return failure('option-conflict', `The plan has changed since: ${kind} ${id}${more}.`, {
      remedy: 'Say of each whether the option’s or the plan’s counts, then merge it.',
    });
  }
  const base = new Map(entries.map((e) => [`${e.kind}/${e.id}`, e]));
  const own = listDifferenceEntries(entries, option);
  const added: Entry[] = [];
  const updated: EntryDiff['updated'][number][] = [];
  const removed: Entry[] = [found.value, ...own];
  for (const { body } of own) {
    const { kind, id, to } = body;
    const now = base.get(`${kind}/${id}`);
    // What the base has by now as the option has it needs no change.
    if (JSON.stringify(now?.body ?? null) === JSON.stringify(to)) continue;
    if (to === null) removed.push(now!);
    else if (now) updated.push({ kind, id, from: now.body, to });
    else added.push({ kind, id, body: to });
  }
  return success({ added, updated, removed });
}

/** Takes an option away with all its differences. Errors: `option-unknown` */
export function removeOption(entries: readonly Entry[], option: string): Result<EntryDiff> {
  const found = findOption(entries, option);
  if (!found.ok) return found;
  return success({ ...NOTHING, removed: [found.value, ...listDifferenceEntries(entries, option)] });
}

/**
 * Brings an option up to a base that has moved: of each conflict the option's own stays, made on what the base has now, or the base's counts.
 * @param keepsOwn by `kind/id` of what is in conflict; what is not named is left as it is
 */
export function rebaseOption(
  entries: readonly Entry[],
  option: string,
  keepsOwn: ReadonlyMap<string, boolean>,
): EntryDiff {
  const updated: EntryDiff['updated'][number][] = [];
  const removed: Entry[] = [];
  for (const { difference, base } of overlayOption(entries, option).conflicts) {
    const choice = keepsOwn.get(`${difference.kind}/${difference.id}`);
    const id = differenceId(difference);
    if (choice === undefined) continue;
    if (choice) updated.push({ kind: 'difference', id, from: difference, to: { ...difference, from: base } });
    else removed.push({ kind: 'difference', id, body: difference });
  }
  return { added: [], updated, removed };
}
