import type { ElementTable } from '@tally/core';
import type { SeenTable } from './seen-table.ts';

/**
 * Lists of many small things in a table that few pages look at. As objects they would take longer to cross from the worker than all figures
 * together: they cross as one text each.
 */
const LISTS = ['roomPlans', 'junctions', 'wallAxes', 'wallOpenings', 'roofSlopes', 'sharedBodies'] as const;

interface PackedList {
  readonly text: string;
}
type PackedTable = Omit<ElementTable, (typeof LISTS)[number]> & {
  readonly [name in (typeof LISTS)[number]]?: PackedList;
};
/** A table as it crosses between threads. */
export type PackedSeen = Omit<SeenTable, 'plain' | 'table'> & {
  readonly plain: PackedTable;
  readonly table: PackedTable;
};

/** The same for the same object, however often it is asked. */
function once<From extends object, To>(make: (from: From) => To): (from: From) => To {
  const known = new WeakMap<From, To>();
  return (from) => {
    const made = known.has(from) ? known.get(from)! : make(from);
    known.set(from, made);
    return made;
  };
}

const packList = once((list: readonly unknown[]): PackedList => ({ text: JSON.stringify(list) }));
const packTable = once((table: ElementTable): PackedTable => {
  const packed: Record<string, unknown> = { ...table };
  for (const name of LISTS) if (table[name]) packed[name] = packList(table[name]);
  return packed as unknown as PackedTable;
});

/** A table ready to be sent; of objects that stay, what is sent stays the same object. */
export const packSeen = once((seen: SeenTable): PackedSeen => ({ ...seen, plain: packTable(seen.plain), table: packTable(seen.table) })); // biome-ignore format: one step

const readList = once(({ text }: PackedList): readonly unknown[] => JSON.parse(text));
const openTable = once((packed: PackedTable): ElementTable => {
  const table = { ...packed };
  for (const name of LISTS) {
    const list = packed[name];
    if (list) Object.defineProperty(table, name, { enumerable: true, configurable: true, get: () => readList(list) });
  }
  return table as unknown as ElementTable;
});

/** A table as it came; its packed lists are read when they are first looked at. */
export const openSeen = once((packed: PackedSeen): SeenTable => ({ ...packed, plain: openTable(packed.plain), table: openTable(packed.table) })); // biome-ignore format: one step
