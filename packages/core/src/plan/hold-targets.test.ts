import { targetSchema } from '../contract/target.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { runPipeline } from '../pipeline.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { holdBands } from './hold-bands.ts';
import { holdTargets, type Target } from './hold-targets.ts';
import { measureBuilding } from './measure-building.ts';

/** 60 m2 and 40 m2 of wall at 25.00; 200 m2 of floor, a storey without a known area; two doors that nothing prices. */
const TABLE = buildElementTable(
  [
    sampleElement({ globalId: 'a', codes: ['B2010'], quantities: { NetSideArea: 60 } }),
    sampleElement({ globalId: 'b', codes: ['B2010'], storey: 'Upper floor', quantities: { NetSideArea: 40 } }),
    sampleElement({ globalId: 'c', ifcClass: 'IfcDoor', storey: 'Upper floor' }),
    sampleElement({ globalId: 'd', ifcClass: 'IfcDoor', storey: 'Upper floor' }),
  ],
  Int32Array.from([1, 2, 3, 4]),
  {
    storeys: [
      { name: 'Ground floor', elevation: 0, gfa: 120, gfaMethod: 'slabs' },
      { name: 'Upper floor', elevation: 3, gfa: 80, gfaMethod: 'slabs' },
      { name: 'Roof', elevation: 6, gfa: null, gfaMethod: null },
    ],
  },
);
const rule = { ...sampleBasis([], []).rules[0]!, scope: { field: 'class', op: 'is', value: 'IfcWall' } } as const;
const BASIS = sampleBasis([sampleItem('I', 'm2', '25.00')], [{ item: 'I', quantity: 'Driver' }], { rules: [rule] });
const PLAN = runPipeline(BASIS, [{ sourceId: 'm', table: TABLE }]);
const BUILDING = measureBuilding([TABLE], [{ name: 'Door', scope: { field: 'class', op: 'is', value: 'IfcDoor' } }]);
const hold = (...targets: Target[]) =>
  holdTargets(PLAN, targets, BASIS, BUILDING).map((t) => [t.label, t.aim, t.now, t.left, t.open, t.problem]);

it('a building is measured by its storeys and its functional units', () =>
  expect(BUILDING).toEqual({
    floorAreaM2: 200,
    storeysWithoutArea: ['Roof'],
    storeys: [
      { name: 'Ground floor', areaM2: 120 },
      { name: 'Upper floor', areaM2: 80 },
    ],
    units: [{ name: 'Door', count: 2 }],
  }));

describe('targets', () => {
  it('say what is left, what is over, and how much is still open', () =>
    // 100 m2 at 25.00 are 2,500.00: 500.00 left of the whole, 100.00 over upstairs.
    expect(hold({ by: 'storey', is: 'Upper floor', amount: '900' }, { amount: '3000' })).toEqual([
      ['The whole', 300_000, 250_000, 50_000, 2, null],
      ['Storey Upper floor', 90_000, 100_000, -10_000, 2, null],
    ]));
  it('go by floor area and by counted units: 14.50 x 200 m2, 1,000 x 2 doors', () =>
    expect(hold({ amount: '14.50', per: 'floorArea' }, { by: 'class', is: 'Wall', amount: '1000', per: 'unit', counted: 'door' })).toEqual([
      ['The whole', 290_000, 250_000, 40_000, 2, null],
      ['Class Wall', 200_000, 250_000, -50_000, 0, null],
    ])); // biome-ignore format: short
  it('that cannot be held say why, never 0', () => {
    expect(hold({ amount: '10', per: 'unit', counted: 'seat' })[0]!.at(-1)).toBe('There is no count of seat.');
    expect(hold({ by: 'storey', is: 'Cellar', amount: '10' })[0]!.slice(2)).toEqual([null, null, 0, 'The plan has no group Cellar.']); // biome-ignore format: short
  });
  it.each([
    [{ amount: '0' }, /more than 0/],
    [{ amount: 'much' }, /figure/],
    [{ amount: '1', by: 'storey' }, /names the group/],
    [{ amount: '1', by: 'colour', is: 'red' }, /not grouped/],
    [{ amount: '1', per: 'unit' }, /functional unit/],
  ])('refuses %j', (target, why) => expect(String(targetSchema.safeParse(target).error)).toMatch(why));
});

describe('bands', () => {
  const band = (of: string, unit: string, low: string, high: string) => ({ of, unit, low, usual: low, high });
  const held = (...bands: ReturnType<typeof band>[]) =>
    holdBands(PLAN, bands, BUILDING).map((b) => [b.band.of, b.price, b.place, b.open]);
  it('hold what elements cost per unit of their own, or per m2 of floor', () =>
    // 2,500.00 for 100 m2 of wall; for 200 m2 of floor.
    expect(held(band('IfcWall', 'm2', '20', '30'), band('B20', 'm2 floor', '15', '20'), band('B2010', 'm2', '26', '40'))).toEqual([
      ['IfcWall', 25, 'within', 0],
      ['B20', 12.5, 'below', 0],
      ['B2010', 25, 'below', 0],
    ])); // biome-ignore format: short
  it('of what is not priced say nothing, and of what is not there are left out', () =>
    expect(held(band('IfcDoor', 'each', '200', '400'), band('IfcRoof', 'm2', '1', '2'))).toEqual([
      ['IfcDoor', null, 'unknown', 2],
    ]));
});
