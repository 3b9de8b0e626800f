import { BARE_ELEMENT } from '../elements/bare-element.ts';
import type { ModelElement } from '../elements/model-element.ts';
import { dimensionToSiUnit } from '../units/si-units.ts';
import { type ListLine, quantityName } from './read-list.ts';

/** Property set under which the columns of a list are found. */
export const LIST_SET = 'List';

/** Lines of a list as elements: the key is their identity, the row their place. */
export function toListElements(lines: readonly ListLine[]): ModelElement[] {
  return lines.map(({ row, key, code, description, quantity, unit, group, storey, price }): ModelElement => {
    const properties: Record<string, string | number> = { Row: row, Unit: unit.symbol };
    if (code !== null) properties.Code = code;
    if (group !== null) properties.Group = group;
    if (price !== null) properties.Price = price;
    return {
      ...BARE_ELEMENT,
      globalId: key,
      name: description,
      typeName: group,
      storey,
      codes: code === null ? [] : [code],
      quantities: [
        {
          name: quantityName(unit)!,
          value: quantity * unit.factor,
          unit: dimensionToSiUnit(unit.dimension)!,
          basis: 'stated',
          method: 'list',
        },
      ],
      properties: { [LIST_SET]: properties },
    };
  });
}
