import fc from 'fast-check';
import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { listElementKinds, mainQuantityOf, stemOfName } from './list-element-kinds.ts';
import type { CompletenessState } from './plan.ts';

const wall = (globalId: string, typeName: string | null, area: number, more = {}) =>
  sampleElement({ globalId, typeName, quantities: { NetSideArea: area, Length: area / 3 }, ...more });
const tableOf = (elements: ReturnType<typeof sampleElement>[]) => ({
  ...buildElementTable(elements),
  keys: Int32Array.from(elements, (_, i) => i + 1),
});
const states = (known: Record<number, [CompletenessState, number?]>) => (key: number) => {
  const [state, amount = 0] = known[key] ?? [];
  return state && { state, amount };
};

describe('the kinds of a building', () => {
  const table = tableOf([
    wall('a', 'Outer', 10),
    wall('b', 'outer', 20),
    wall('c', 'Inner', 5),
    wall('d', null, 8, { name: 'Gable 12' }),
    wall('e', null, 9, { name: 'gable 3.1' }),
    sampleElement({ globalId: 'f', ifcClass: 'IfcDoor', typeName: 'Door', quantities: {} }),
  ]);
  it('are elements of a class and type, in any case; without a type those called alike', () =>
    expect(
      listElementKinds([table], () => undefined).map((k) => [k.ifcClass, k.typeName ?? `=${k.stem}`, k.keys]),
    ).toEqual([
      ['IfcWall', '=Gable', [4, 5]],
      ['IfcWall', 'Outer', [1, 2]],
      ['IfcDoor', 'Door', [6]],
      ['IfcWall', 'Inner', [3]],
    ]));
  it('say what is missing at the price of their like, the largest first', () => {
    // The outer walls cost 1,200.00 for 30 m2: 40.00 a m2. 17 m2 of gables and 5 m2 of inner walls are open.
    const kinds = listElementKinds(
      [table],
      states({ 1: ['priced', 4_000_000], 2: ['priced', 8_000_000], 6: ['leftOut'] }),
    );
    expect(kinds.map((k) => [k.typeName ?? k.stem, k.missing])).toEqual([
      ['Gable', 6_800_000],
      ['Inner', 2_000_000],
      ['Door', 0],
      ['Outer', 0],
    ]);
    expect(kinds.find((k) => k.typeName === 'Outer')).toMatchObject({
      amount: 12_000_000,
      counts: { priced: 2, partly: 0, unpriced: 0, leftOut: 0 },
    });
  });
  it('know no price for what nothing is like: unknown, not 0', () =>
    expect(listElementKinds([table], () => undefined).every((k) => k.missing === null)).toBe(true));
  it('go by the quantity that all of them have, pieces in the end', () => {
    const [door, outer] = ['Door', 'Outer'].map((t) => listElementKinds([table], () => undefined).find((k) => k.typeName === t)!); // biome-ignore format: one line
    expect(mainQuantityOf(outer!)).toMatchObject({ name: 'NetSideArea', value: 30, known: 2 });
    expect(mainQuantityOf(door!)).toMatchObject({ name: 'Count', value: 1 });
  });
  it('are told apart by their materials or codes where that is asked', () => {
    const two = tableOf([wall('a', 'Outer', 10, { materials: ['Brick', 'Wool'] }), wall('b', 'Outer', 20, { codes: ['B2010'] })]); // biome-ignore format: one table
    const gather = (by: 'material' | 'code') => listElementKinds([two], () => undefined, by).map((k) => [k.within!.values, k.keys.length]); // biome-ignore format: one line
    expect(gather('material').sort()).toEqual([[[], 1], [['Brick', 'Wool'], 1]]); // biome-ignore format: one line
    expect(gather('code').sort()).toEqual([[[], 1], [['B2010'], 1]]); // biome-ignore format: one line
  });
  it('are told apart by storey where that is asked', () => {
    const two = tableOf([wall('a', 'Outer', 10), wall('b', 'Outer', 20, { storey: 'Upper floor' })]);
    expect(listElementKinds([two], () => undefined, 'storey').map((k) => k.within!.values.join()).sort()).toEqual(['Ground floor', 'Upper floor']); // biome-ignore format: one line
  });
  it('hold every element once, whatever it is called', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('IfcWall', 'IfcSlab'), fc.option(fc.constantFrom('A', 'a', 'B')), fc.string({ maxLength: 8 })), { minLength: 1, maxLength: 30 }),
        (list) => {
          const some = tableOf(list.map(([ifcClass, typeName, name], i) => sampleElement({ globalId: `${i}`, ifcClass, typeName, name })));
          const keys = listElementKinds([some], () => undefined).flatMap((k) => k.keys);
          expect(keys.sort((a, b) => a - b)).toEqual(list.map((_, i) => i + 1));
        },
      ),
      { seed: 3 },
    )); // biome-ignore format: a property
  it.each([
    ['Außenwand 3.12', 'Außenwand'],
    ['Wall (4)', 'Wall'],
    ['12', '12'],
    ['Stair', 'Stair'],
  ])('take of %s the stem %s', (name, stem) => expect(stemOfName(name)).toBe(stem));
});
