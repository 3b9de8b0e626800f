import { buildElementTable } from '../elements/element-table.ts';
import type { PricingRule } from '../mapping/pricing-rule.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { sampleItem } from '../testing/sample-basis.ts';
import { type Sample, sampleElement } from '../testing/sample-element.ts';
import { checkDoubleCounts } from './check-double-counts.ts';

const rule = (section: string, more: Partial<PricingRule>): PricingRule => ({
  id: `${section} ${more.item ?? more.assembly} ${more.about ?? ''}`,
  name: section,
  scope: { all: [] },
  section,
  ...more,
});
const BASIS = {
  currency: 'EUR',
  items: [
    sampleItem('WALL', 'm3', '300'),
    sampleItem('BRICK', 'm3', '500'),
    sampleItem('HOURS', 'h', '50'),
    sampleItem('OAK', 'm2', '80'),
    sampleItem('EACH', 'each', '40'),
  ],
  assemblies: [],
  sections: ['a', 'b'].map((id) => ({ id, name: id })),
  pins: [],
};
const of = (id: string): PricingRule['scope'] => ({ field: 'globalId', op: 'is', value: id });

function find(sources: readonly (readonly Sample[])[], rules: readonly PricingRule[]) {
  let key = 0;
  const tables = sources.map((samples, i) => ({
    sourceId: `s${i}`,
    table: buildElementTable(
      samples.map((s) => sampleElement(s)),
      Int32Array.from(samples, () => ++key),
    ),
  }));
  const basis: PricingBasis = { ...BASIS, rules };
  return checkDoubleCounts(runPipeline(basis, tables), []).map(({ globalIds, money, lines, cause }) => ({
    globalIds,
    money,
    cause,
    lines: lines?.map((l) => `${l.section}/${l.item}`),
  }));
}

const wall: Sample = {
  globalId: 'w',
  quantities: { NetVolume: 4, NetSideArea: 20, Count: 1 },
  layers: [
    { material: 'Brick', thickness: 0.1, position: null, weight: null, area: 20, volume: 2 },
    { material: 'Wool', thickness: 0.1, position: null, weight: null, area: 20, volume: 2 },
  ],
};

describe('one item in two sections', () => {
  it('is found where an element takes as much of it in both', () =>
    expect(
      find([[wall]], [rule('a', { item: 'OAK', driver: 'NetSideArea' }), rule('b', { item: 'OAK', driver: '20 m2' })]),
    ).toEqual([{ globalIds: ['w'], money: 1600_00, cause: 'OAK in two sections', lines: ['a/OAK', 'b/OAK'] }]));
  it('is no fault where it is another extent: hours of one trade', () =>
    expect(
      find([[wall]], [rule('a', { item: 'HOURS', driver: '3 h' }), rule('b', { item: 'HOURS', driver: '5 h' })]),
    ).toEqual([]));
  it('is found in a whole and its parts together', () => {
    const stair: Sample[] = [
      { globalId: 'stair', ifcClass: 'IfcStair', quantities: { NetVolume: 3 } },
      { globalId: 'f1', ifcClass: 'IfcStairFlight', parent: 'stair', quantities: { NetVolume: 1 } },
      { globalId: 'f2', ifcClass: 'IfcStairFlight', parent: 'stair', quantities: { NetVolume: 2 } },
    ];
    const whole = rule('a', { item: 'WALL', driver: 'NetVolume', scope: of('stair') });
    const parts = rule('b', { item: 'WALL', driver: 'NetVolume', scope: { field: 'part', op: 'present' } });
    expect(find([stair], [whole, parts]).map((f) => [f.globalIds, f.money])).toEqual([
      [['stair', 'f2'], 600_00],
      [['stair', 'f1'], 300_00],
    ]);
    // One of them alone is not as much as the whole: something else is meant.
    expect(find([stair], [whole, { ...parts, scope: of('f1') }])).toEqual([]);
  });
});

describe('a layer and its wall', () => {
  const layers = rule('b', { about: 'layer', item: 'BRICK', driver: 'LayerVolume', scope: { field: 'layer', op: 'is', value: 'brick' } }); // biome-ignore format: one rule
  it('both by volume: the volume of the layer at the lower rate', () =>
    expect(find([[wall]], [rule('a', { item: 'WALL', driver: 'NetVolume' }), layers])).toEqual([
      { globalIds: ['w'], money: 600_00, cause: 'layers in the volume of their element', lines: ['a/WALL', 'b/BRICK'] },
    ]));
  it('no fault where the wall goes by its area', () =>
    expect(find([[wall]], [rule('a', { item: 'OAK', driver: 'NetSideArea' }), layers])).toEqual([]));
});

describe('a finish of a room and what covers it', () => {
  const room: Sample = {
    globalId: 'room',
    ifcClass: 'IfcSpace',
    finishes: { floor: 'Oak', wall: null, ceiling: null, skirting: null },
    quantities: { NetFloorArea: 20, GrossCeilingArea: 20 },
  };
  const boards = (id: string, type: string, area: number): Sample => ({
    globalId: id,
    ifcClass: 'IfcCovering',
    space: 'room',
    quantities: { NetArea: area },
    properties: { Class: { PredefinedType: type } },
  });
  const coverings = rule('b', { item: 'OAK', driver: 'NetArea', scope: { field: 'class', op: 'is', value: 'IfcCovering' } }); // biome-ignore format: one rule
  it.each([
    ['by its area', rule('a', { item: 'OAK', driver: 'NetFloorArea', scope: of('room') })],
    ['by its finish', rule('a', { about: 'finish', item: 'OAK', driver: 'FinishArea' })],
  ])('is found where the room is priced %s; two boards share it', (_, floor) =>
    expect(find([[room, boards('x', 'FLOORING', 12), boards('y', 'FLOORING', 12)]], [floor, coverings])).toMatchObject([
      { globalIds: ['room', 'x'], money: 960_00, lines: ['a/OAK'] },
      { globalIds: ['room', 'y'], money: 640_00 },
    ]),
  );
  it('no fault on another surface', () =>
    expect(
      find(
        [[room, boards('x', 'CEILING', 12)]],
        [rule('a', { item: 'OAK', driver: 'NetFloorArea', scope: of('room') }), coverings],
      ),
    ).toEqual([]));
});

describe('one element in two sources', () => {
  const box = (x: number) => [x, 0, 0, x + 1, 1, 3] as const;
  const priced = rule('a', { item: 'EACH', driver: 'Count' });
  const one = (globalId: string, x: number): Sample => ({ globalId, box: box(x), quantities: { Count: 1 } });
  it('by its identity, or by class and place to a few millimetres, in any cell of the search', () => {
    for (const shift of [0, 0.0049, 0.0051, 0.0098, 0.013, 0.0199])
      expect(find([[one('a', shift), one('b', 5)], [one('c', shift + 0.003), one('b', 9)]], [priced])).toEqual([
        { globalIds: ['a', 'c'], money: 40_00, cause: 'one element in two sources', lines: undefined },
        { globalIds: ['b', 'b'], money: 40_00, cause: 'one element in two sources', lines: undefined },
      ]); // biome-ignore format: two models
  });
  it('not two that stand apart, nor one that is not priced', () => {
    expect(find([[one('a', 0)], [one('c', 0.02)]], [priced])).toEqual([]);
    expect(find([[one('a', 0)], [one('c', 0)]], [{ ...priced, scope: of('a') }])).toEqual([]);
  });
});
