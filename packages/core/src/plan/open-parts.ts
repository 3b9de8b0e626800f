import { type DecidedPart, listDecidedParts, namePart } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { Mapping } from '../mapping/map-elements.ts';

/** Parts of each kind that are decided about in any section, one byte a part, and rows that are decided about as a whole. */
interface DecidedPlaces {
  readonly parts: ReadonlyMap<DecidedPart, Uint8Array>;
  readonly wholes: Uint8Array;
}

const known = new WeakMap<Mapping, DecidedPlaces | null>();

/** Null where no decision is about parts. */
function findDecided(table: ElementTable, mapping: Mapping): DecidedPlaces | null {
  const kept = known.get(mapping);
  if (kept !== undefined) return kept;
  const parts = new Map<DecidedPart, Uint8Array>();
  const wholes = mapping.covered.slice();
  for (const { rows, about, parts: ordinals } of mapping.mapped) {
    if (!about) {
      for (const row of rows) wholes[row] = 1;
      continue;
    }
    const { offset, rows: all } = listDecidedParts(table, about);
    const decided = parts.get(about) ?? new Uint8Array(all.length);
    parts.set(about, decided);
    for (let at = 0; at < rows.length; at++) decided[offset[rows[at]!]! + ordinals![at]!] = 1;
  }
  const found = parts.size > 0 ? { parts, wholes } : null;
  known.set(mapping, found);
  return found;
}

/**
 * What of an element is not decided about where it is priced in parts only: of a wall with five layers the four that no rule
 * catches. None where something is decided about the element itself, or about no part of it.
 */
export function listOpenParts(table: ElementTable, mapping: Mapping, row: number): string[] {
  const decided = findDecided(table, mapping);
  if (!decided || decided.wholes[row]) return [];
  return [...decided.parts].flatMap(([about, marks]) => {
    const { offset } = listDecidedParts(table, about);
    const own = Array.from(marks.subarray(offset[row]!, offset[row + 1]!));
    return own.includes(1) ? own.flatMap((mark, at) => (mark ? [] : [namePart(table, about, row, at)])) : [];
  });
}

/** Rows that are priced in parts only, and not in all of them: 1, else 0; null where there are none. */
export function markOpenParts(table: ElementTable, mapping: Mapping): Uint8Array | null {
  const decided = findDecided(table, mapping);
  if (!decided) return null;
  const open = new Uint8Array(table.count);
  for (const [about, marks] of decided.parts) {
    const { offset } = listDecidedParts(table, about);
    for (let row = 0; row < table.count; row++) {
      const own = marks.subarray(offset[row]!, offset[row + 1]!);
      if (!decided.wholes[row] && own.includes(1) && own.includes(0)) open[row] = 1;
    }
  }
  return open;
}
