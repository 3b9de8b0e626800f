import { buildTextColumn, readText, type TextColumn } from './columns.ts';
import type { ElementTable } from './element-table.ts';
import { FINISH_SURFACES, type FinishSurface } from './model-element.ts';

/** What of an element may be decided about on its own: one of its layers, a style of its faces, a finish of a room. */
export const DECIDED_PARTS = ['layer', 'face', 'finish'] as const;
export type DecidedPart = (typeof DECIDED_PARTS)[number];

/** Parts of all rows: those of row r are at offset[r] .. offset[r + 1] - 1. The order within a row stays while the row's parts do. */
export interface PartList {
  readonly offset: Uint32Array;
  /** Row of each part. */
  readonly rows: Int32Array;
  /** What it is of: the material of a layer, the style of faces, the finish of a room. */
  readonly name: TextColumn;
  /** What it is finished on; of finishes only. */
  readonly surface?: readonly FinishSurface[];
}

const known = new WeakMap<object, { readonly from: readonly unknown[]; readonly list: PartList }>();
const kindOfList: Readonly<Record<DecidedPart, (table: ElementTable) => { readonly from: readonly object[]; readonly list: () => PartList }>> = {
  layer: ({ layers }) => ({ from: [layers], list: () => ({ offset: layers.offset, rows: spreadRows(layers.offset), name: layers.material }) }),
  face: ({ faces }) => ({ from: [faces], list: () => listFaceStyles(faces) }),
  finish: (table) => ({ from: [table.finishes, table.rooms, ...(table.wallFinishes ? [table.wallFinishes] : [])], list: () => listFinishes(table) }),
}; // biome-ignore format: a table

/** The parts of one kind of a table that may be decided about: layers as they are, each style and each finish of a surface once per row. Worked out once for the same columns. */
export function listDecidedParts(table: ElementTable, part: DecidedPart): PartList {
  const { from, list } = kindOfList[part](table);
  const kept = known.get(from[0]!);
  if (kept && kept.from.length === from.length && kept.from.every((f, i) => f === from[i])) return kept.list;
  const made = list();
  known.set(from[0]!, { from, list: made });
  return made;
}

/** What a table's parts of a kind are read from, to tell whether they are still the same. */
export const readPartSources = (table: ElementTable, part: DecidedPart): readonly object[] =>
  kindOfList[part](table).from;

/**
 * What tells a part from the others of its element, whatever stands before it: its name, and its number among equals.
 * @param ordinal its place within the row, from 0
 * @example the second layer of plasterboard of a wall is `layer Plasterboard 2`, the first `layer Plasterboard`
 */
export function namePart(table: ElementTable, part: DecidedPart, row: number, ordinal: number): string {
  const { offset, name, surface } = listDecidedParts(table, part);
  const from = offset[row]!;
  const label = (at: number) => `${surface ? `${surface[at]} ` : ''}${readText(name, at) ?? ''}`;
  const own = label(from + ordinal);
  let nth = 1;
  for (let at = from; at < from + ordinal; at++) if (label(at) === own) nth++;
  return `${part} ${own}${nth > 1 ? ` ${nth}` : ''}`;
}

function spreadRows(offset: Uint32Array): Int32Array {
  const rows = new Int32Array(offset.at(-1) ?? 0);
  for (let row = 0; row + 1 < offset.length; row++) rows.fill(row, offset[row]!, offset[row + 1]!);
  return rows;
}

function listFaceStyles({ offset, style }: ElementTable['faces']): PartList {
  const places = new Uint32Array(offset.length);
  const index: number[] = [];
  for (let row = 0; row + 1 < offset.length; row++) {
    const first = index.length;
    for (let at = offset[row]!; at < offset[row + 1]!; at++) {
      const own = style.index[at]!;
      // A style once per row: rows have few of them.
      if (own >= 0 && !index.includes(own, first)) index.push(own);
    }
    places[row + 1] = index.length;
  }
  return { offset: places, rows: spreadRows(places), name: { pool: style.pool, index: Int32Array.from(index) } };
}

function listFinishes({ finishes, rooms, wallFinishes }: ElementTable): PartList {
  const surfaces: FinishSurface[] = [];
  const names = Array.from(rooms, (isRoom, row) => {
    if (!isRoom) return [];
    return FINISH_SURFACES.flatMap((surface) => {
      const bands = surface === 'wall' ? (wallFinishes?.get(row) ?? []).map((w) => w.finish) : [];
      const own = [...new Set([readText(finishes[surface], row), ...bands])].filter((f) => f !== null && f !== '');
      surfaces.push(...own.map(() => surface));
      return own as string[];
    });
  });
  return { ...joinLists(names), surface: surfaces };
}

function joinLists(lists: readonly (readonly string[])[]): PartList {
  const offset = new Uint32Array(lists.length + 1);
  for (const [row, list] of lists.entries()) offset[row + 1] = offset[row]! + list.length;
  return { offset, rows: spreadRows(offset), name: buildTextColumn(lists.flat()) };
}
