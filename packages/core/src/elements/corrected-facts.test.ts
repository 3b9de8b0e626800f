import { sampleElement } from '../testing/sample-element.ts';
import { correctFacts, listCorrections, readFact } from './corrected-facts.ts';
import { buildElementTable, readElement } from './element-table.ts';

const layer = { material: 'Brick', thickness: 0.2, position: 0, area: 10, volume: 2, weight: null };
const table = buildElementTable(
  [
    sampleElement({
      globalId: 'a',
      quantities: { SidesArea: 20, OuterSideArea: 10, InnerSideArea: 10 },
      properties: { Pset_WallCommon: { IsExternal: true, LoadBearing: false } },
      materials: ['Brick'],
      layers: [layer],
    }),
    sampleElement({ globalId: 'b', quantities: { SidesArea: 16, InnerSideArea: 16 }, materials: ['Brick', 'Plaster'] }),
  ],
  Int32Array.of(7, 9),
  { wallAxes: [1].map((row) => ({ row, points: [0, 0, 4, 0], widthM: 0.2, bottomM: 0, topM: 2, isFirstLeft: true })) },
);
const correct = (
  key: number,
  facts: Parameters<typeof correctFacts>[1] extends ReadonlyMap<number, infer F> ? F : never,
) => correctFacts(table, new Map([[key, facts]]));
const figure = (t: typeof table, row: number, name: string) => t.quantities.find((q) => q.name === name)!.values[row];

describe('facts corrected here', () => {
  it('take the place of what the file says, of the element meant only', () => {
    const seen = correct(7, { storey: 'Attic', ifcClass: 'IFCCOLUMN', typeName: 'Pier', material: 'Stone', function: 'Plinth', loadBearing: true }); // biome-ignore format: one call
    expect(readElement(seen, 0)).toMatchObject({
      storey: 'Attic',
      ifcClass: 'IfcColumn',
      typeName: 'Pier',
      materials: ['Stone'],
      layers: [{ material: 'Stone' }],
      properties: { Pset_WallCommon: { IsExternal: true, LoadBearing: true }, Corrected: { Function: 'Plinth' } },
    });
    expect(readElement(seen, 1)).toEqual(readElement(table, 1));
    expect(correct(5, { storey: 'Attic' })).toBe(table);
  });
  it('say which side of a wall is outside: none of an inner one, half of a straight outer one', () => {
    const inner = correct(7, { isExternal: false });
    expect([figure(inner, 0, 'OuterSideArea'), figure(inner, 0, 'InnerSideArea')]).toEqual([Number.NaN, 20]);
    const outer = correct(9, { isExternal: true });
    expect([figure(outer, 1, 'OuterSideArea'), figure(outer, 1, 'InnerSideArea')]).toEqual([8, 8]);
    expect(figure(outer, 0, 'OuterSideArea')).toBe(10);
  });
  it('are listed against what the file itself says', () => {
    const facts = new Map([[7, { storey: 'Attic', isExternal: true }]]);
    expect(listCorrections(table, facts)).toEqual([
      { row: 0, field: 'storey', given: 'Attic', inFile: 'Ground floor' },
      { row: 0, field: 'isExternal', given: true, inFile: true },
    ]);
    expect(readFact(table, 1, 'material')).toBeNull();
  });
});
