import { readText, type TextColumn } from './columns.ts';
import type { ElementTable } from './element-table.ts';

/** What elements belong to, by ElementKey and row by row; 0 where there is nothing, or nothing that is in the table. */
export interface ElementRelations {
  /** The whole that it is a part of. */
  readonly wholes: Int32Array;
  /** The element that hosts it (a door's wall). */
  readonly hosts: Int32Array;
}

type Related = Pick<ElementTable, 'keys' | 'identity' | 'parent' | 'host'>;
const known = new WeakMap<Int32Array, { readonly of: Related; readonly relations: ElementRelations }>();

/**
 * Wholes and hosts of elements by our own keys, of what their source says about them. Where a faulty file gives one identity to several
 * elements the last one of them is meant. Worked out once for the same columns.
 * @example of a stair (key 7) and its flight (key 8) the wholes are [0, 7]
 */
export function relateElements(table: Related): ElementRelations {
  const { keys, identity, parent, host } = table;
  const kept = known.get(keys);
  if (kept && kept.of.identity === identity && kept.of.parent === parent && kept.of.host === host)
    return kept.relations;
  const keyOf = new Map<string, number>();
  identity.index.forEach((_, row) => void keyOf.set(readText(identity, row) ?? '', keys[row]!));
  const find = (column: TextColumn) => {
    const keyOfPool = column.pool.map((name) => keyOf.get(name) ?? 0);
    return Int32Array.from(column.index, (at) => (at < 0 ? 0 : keyOfPool[at]!));
  };
  const relations = { wholes: find(parent), hosts: find(host) };
  known.set(keys, { of: { keys, identity, parent, host }, relations });
  return relations;
}

/** GlobalId of an element that comes from a model; null for others. */
export function readGlobalId(table: Pick<ElementTable, 'origin' | 'identity'>, row: number): string | null {
  return (table.origin?.kind ?? 'model') === 'model' ? readText(table.identity, row) : null;
}
