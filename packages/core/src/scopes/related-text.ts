import { buildTextColumn, readText, type TextColumn } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { relateElements } from '../elements/relations.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import { foldText } from '../units/fold-text.ts';
import { classTest } from './class-test.ts';
import type { FieldCondition } from './condition.ts';
import { maskText, maskTextList, type RowMask } from './text-mask.ts';

const roomsOf = new WeakMap<TextColumn, { readonly from: readonly unknown[]; readonly names: TextColumn }>();

/** What the room that each row is, or lies in, is called; where the room has no name, its identity. Worked out once for the same columns. */
export function readRoomNames({ identity, name, space, rooms }: ElementTable): TextColumn {
  const kept = roomsOf.get(space);
  if (kept && kept.from[0] === identity && kept.from[1] === name && kept.from[2] === rooms) return kept.names;
  const nameOf = new Map<string, string>();
  for (let row = 0; row < rooms.length; row++) {
    const id = rooms[row] ? readText(identity, row) : null;
    if (id !== null) nameOf.set(id, readText(name, row) || id);
  }
  const names = buildTextColumn(
    Array.from(rooms, (isRoom, row) => {
      const id = isRoom ? readText(identity, row) : readText(space, row);
      return id === null ? null : (nameOf.get(id) ?? id);
    }),
  );
  roomsOf.set(space, { from: [identity, name, rooms], names });
  return names;
}

/** Rows of whose whole, or host, a condition is true. Without a fact it asks whether the source names one. */
export function maskRelated(table: ElementTable, as: 'parent' | 'host', condition: FieldCondition): RowMask {
  const fact = foldText(condition.of ?? '');
  const isMissing = condition.op === 'missing';
  if (fact === '') return Uint8Array.from(table[as].index, (at) => Number(at < 0 === isMissing));
  const { wholes, hosts } = relateElements(table);
  const related = as === 'parent' ? wholes : hosts;
  const rowOf = listRowsByKey(table.keys);
  const mask = maskFact(table, fact, condition);
  return Uint8Array.from(related, (key) => {
    const row = key === 0 ? undefined : rowOf.get(key);
    return row === undefined ? Number(isMissing) : mask[row]!;
  });
}

function maskFact(table: ElementTable, fact: string, condition: FieldCondition): RowMask {
  if (fact === 'class') return maskText(table.ifcClass, condition, classTest(condition));
  if (fact === 'type') return maskText(table.typeName, condition);
  if (fact === 'material') return maskTextList(table.materials, condition);
  return maskText(fact === 'storey' ? table.storey : table.name, condition);
}
