import type { ElementTable } from '../elements/element-table.ts';
import type { ConditionField } from './condition.ts';
import { readRoomNames } from './related-text.ts';

/** The different texts that a table has in a field that conditions ask for; null for fields that are not one text column. */
export function textPoolOf(table: ElementTable, field: ConditionField): readonly string[] | null {
  switch (field) {
    case 'class':
      return table.ifcClass.pool;
    case 'type':
      return table.typeName.pool;
    case 'material':
      return table.materials.pool;
    case 'layer':
      return table.layers.material.pool;
    case 'room':
      return readRoomNames(table).pool;
    case 'zone':
      return table.zones.pool;
    case 'code':
      return table.codes.pool;
    case 'name':
    case 'tag':
    case 'storey':
      return table[field].pool;
    default:
      return null;
  }
}
