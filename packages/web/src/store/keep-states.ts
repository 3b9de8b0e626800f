import type { ElementStatesDto } from '@tally/core';

const isSameList = (a: readonly number[], b: readonly number[]): boolean => {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/**
 * The states that are held, for those that were read and say the same: what is drawn by them is then not drawn anew. They are a hundred
 * thousand figures after each change of a price, too many to be compared as if each could be anything.
 */
export function keepStates(
  held: readonly ElementStatesDto[] | undefined,
  read: readonly ElementStatesDto[],
): readonly ElementStatesDto[] {
  if (!held) return read;
  const made = read.map((now, i) => {
    const before = held[i];
    const isSame =
      before?.revisionId === now.revisionId &&
      isSameList(before.amounts, now.amounts) &&
      isSameList(before.states, now.states) &&
      isSameList(before.keys, now.keys);
    return isSame ? before : now;
  });
  return held.length === read.length && made.every((now, i) => now === held[i]) ? held : made;
}
