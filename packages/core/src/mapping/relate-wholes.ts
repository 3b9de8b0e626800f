import type { ElementTable } from '../elements/element-table.ts';
import { relateElements } from '../elements/relations.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import { appendToList } from '../result/append-to-list.ts';

const relatedOf = new WeakMap<Int32Array, Related>();
interface Related {
  /** Rows that are a whole or a part: 1, else 0. */
  readonly isAny: Uint8Array;
  /** Rows of the wholes above and of all parts below one. */
  readonly of: (row: number) => readonly number[];
  readonly hasParts: (row: number) => boolean;
  /** Rows of the wholes above, the nearest first. */
  readonly above: (row: number) => readonly number[];
}

/** Rows of the wholes above and of all parts below each row that has any; worked out once for the same wholes. */
export function relateWholes(table: ElementTable): Related {
  const { wholes } = relateElements(table);
  const kept = relatedOf.get(wholes);
  if (kept) return kept;
  const rowOf = listRowsByKey(table.keys);
  const parentOf = new Map<number, number>();
  const partsOf = new Map<number, number[]>();
  wholes.forEach((key, row) => {
    const whole = key === 0 ? undefined : rowOf.get(key);
    if (whole === undefined || whole === row) return;
    parentOf.set(row, whole);
    appendToList(partsOf, whole, row);
  });
  const known = new Map<number, readonly number[]>();
  const isAny = new Uint8Array(wholes.length);
  for (const row of [...parentOf.keys(), ...partsOf.keys()]) isAny[row] = 1;
  const above = (row: number): number[] => {
    const found: number[] = [];
    for (let at = parentOf.get(row); at !== undefined && found.length < 32; at = parentOf.get(at)) found.push(at);
    return found;
  };
  const of = (row: number): readonly number[] => {
    let found = known.get(row) as number[] | undefined;
    if (!found) {
      found = above(row);
      const below = [...(partsOf.get(row) ?? [])];
      for (let at = below.pop(); at !== undefined && found.length < 10_000; at = below.pop()) {
        found.push(at);
        below.push(...(partsOf.get(at) ?? []));
      }
      known.set(row, found);
    }
    return found;
  };
  const related = { isAny, of, hasParts: (row: number) => partsOf.has(row), above };
  relatedOf.set(wholes, related);
  return related;
}
