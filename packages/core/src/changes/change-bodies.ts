import type { PropertyValue } from '../elements/model-element.ts';
import type { EntryDiff } from './entry-diff.ts';

/** A change with its words. */
export interface WordedChange {
  readonly cause: string;
  readonly diff: EntryDiff;
}

/** A change of one kind of entries that hang on ElementKeys; bodies that become empty are removed, what stays as it is is passed over. */
export function changeBodies<T extends object>(
  kind: string,
  present: Readonly<Record<string, T>>,
  keys: Iterable<number>,
  empty: T,
  change: (body: T) => T,
): EntryDiff {
  const added: EntryDiff['added'][number][] = [];
  const updated: EntryDiff['updated'][number][] = [];
  const removed: EntryDiff['removed'][number][] = [];
  for (const key of keys) {
    const id = String(key);
    const from = present[id];
    const to = change(from ?? empty);
    if (JSON.stringify(from ?? empty) === JSON.stringify(to)) continue;
    if (from === undefined) added.push({ kind, id, body: to });
    else if (Object.keys(to).length === 0) removed.push({ kind, id, body: from });
    else updated.push({ kind, id, from, to });
  }
  return { added, updated, removed };
}

/** "one room", "3 rooms". */
export const countWords = (count: number, one: string): string => (count === 1 ? `one ${one}` : `${count} ${one}s`);

/**
 * Gives elements an attribute of our own; null takes it away.
 * @param attributes what elements have so far, by ElementKey
 * @example Coats 2 on keys 7 and 8 of which 8 has it: one entry is added, "Coats of 2 elements: 2"
 */
export function changeAttribute(
  attributes: Readonly<Record<string, Readonly<Record<string, PropertyValue>>>>,
  keys: readonly number[],
  name: string,
  value: PropertyValue | null,
): WordedChange {
  const diff = changeBodies('attributes', attributes, keys, {}, (body) => {
    const { [name]: _, ...rest } = body;
    return value === null ? rest : { ...rest, [name]: value };
  });
  return {
    cause: `${name} of ${countWords(keys.length, 'element')}: ${value === null ? 'taken away' : String(value)}`,
    diff,
  };
}
