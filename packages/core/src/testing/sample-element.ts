import { BARE_ELEMENT } from '../elements/bare-element.ts';
import type { Basis, ModelElement, PropertyValue, Quantity } from '../elements/model-element.ts';
import { QUANTITY_DEFINITIONS } from '../quantities/quantity-names.ts';

export interface Sample extends Partial<Omit<ModelElement, 'quantities' | 'properties'>> {
  readonly globalId: string;
  /** Measured figures by name, SI. */
  readonly quantities?: Record<string, number>;
  readonly stated?: Record<string, number>;
  readonly properties?: Record<string, Record<string, PropertyValue>>;
}

/** An element for tests: a wall of the ground floor unless said otherwise. */
export function sampleElement({ quantities = {}, stated = {}, ...rest }: Sample): ModelElement {
  const figures = (values: Record<string, number>, basis: Basis): Quantity[] =>
    Object.entries(values).map(([name, value]) => ({
      name,
      value,
      unit: QUANTITY_DEFINITIONS.find((d) => d.name === name)?.unit ?? 'm',
      basis,
      method: basis === 'stated' ? 'file' : 'swept',
      ...(basis === 'measured' ? { exactness: 'exact' as const } : {}),
    }));
  return {
    ...BARE_ELEMENT,
    ifcClass: 'IfcWall',
    name: 'Wall',
    typeName: 'Wall type',
    storey: 'Ground floor',
    ...rest,
    quantities: [...figures(quantities, 'measured'), ...figures(stated, 'stated')],
  };
}
