import { findQuantityOrigin, listEffectiveQuantities } from '../elements/effective-quantities.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { applyQuantityOverrides } from './quantity-overrides.ts';

const table = buildElementTable([
  sampleElement({ globalId: 'a', storey: 'Ground', quantities: { NetSideArea: 10 }, stated: { NetSideArea: 11 } }),
  sampleElement({ globalId: 'b', storey: 'Upper', quantities: { NetSideArea: 20 }, stated: { NetSideArea: 22 } }),
  sampleElement({ globalId: 'c', storey: 'Upper', quantities: {}, stated: { NetSideArea: 33 } }),
]);
const used = (t: typeof table) => [...listEffectiveQuantities(t).get('netsidearea')!.values];

describe('which figure is used', () => {
  it('exact measured ones, else stated', () => expect(used(table)).toEqual([10, 20, 33]));
  it('by name for all', () => {
    expect(used({ ...table, choices: { netsidearea: 'stated' } })).toEqual([11, 22, 33]);
    expect(used({ ...table, choices: { netsidearea: 'measured' } })).toEqual([10, 20, 33]);
  });
  it('by scope, the first that catches an element', () => {
    const told = applyQuantityOverrides(table, [
      { quantity: 'NetSideArea', choice: 'stated', scope: { field: 'storey', op: 'is', value: 'upper' } },
      { quantity: 'NetSideArea', choice: 'measured', scope: { all: [] } },
    ]);
    expect(used(told)).toEqual([10, 22, 33]);
    expect(findQuantityOrigin(told, 1, 'NetSideArea')).toMatchObject({ basis: 'stated' });
    expect(findQuantityOrigin(told, 0, 'NetSideArea')).toMatchObject({ basis: 'measured' });
  });
});
