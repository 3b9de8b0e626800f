import type { NamedBook, NamedThing } from '@tally/core';
import { useRef } from 'react';
import { useBasis } from '../../store/project-store.tsx';

/** True if one is found as the other is: they may differ in price and in what they are made of. */
function isNamedAlike(a: NamedThing, b: NamedThing): boolean {
  if (a === b) return true;
  const isSame = a.code === b.code && a.description === b.description && a.unit === b.unit;
  return isSame && JSON.stringify(a.classes ?? {}) === JSON.stringify(b.classes ?? {});
}

const areNamedAlike = (a: readonly NamedThing[], b: readonly NamedThing[]): boolean =>
  a === b || (a.length === b.length && a.every((thing, i) => isNamedAlike(thing, b[i]!)));

/** The book of before if things are found in it as in the one given, which then costs nobody anything; else that one. */
export function keepNamed(before: NamedBook | null, now: NamedBook): NamedBook {
  const isAsBefore =
    before && areNamedAlike(before.items, now.items) && areNamedAlike(before.assemblies, now.assemblies);
  return isAsBefore ? before : now;
}

/** The book as things are found in it: the same object while nothing but prices changes. */
export function useNamedBook(): NamedBook {
  const { items, assemblies } = useBasis('items', 'assemblies');
  const held = useRef<{ readonly of: NamedBook; readonly named: NamedBook } | null>(null);
  if (held.current?.of.items !== items || held.current.of.assemblies !== assemblies) {
    const now = { items, assemblies };
    held.current = { of: now, named: keepNamed(held.current?.named ?? null, now) };
  }
  return held.current.named;
}
