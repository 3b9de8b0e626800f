import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { type Condition, describeCondition, type FieldCondition } from './condition.ts';
import { evaluateScope, listMaskedRows } from './evaluate-scope.ts';

const table = buildElementTable(
  [
    sampleElement({
      globalId: 'a',
      name: 'Außenwand 1',
      ifcClass: 'IfcWallStandardCase',
      materials: ['Lime render', 'Brick'],
      codes: ['B2010'],
      properties: { Pset_WallCommon: { IsExternal: true, FireRating: 'EI 60', Coats: 2 } },
      quantities: { Height: 3 },
    }),
    sampleElement({
      globalId: 'b',
      name: 'Inner wall 2',
      ifcClass: 'IfcWall',
      storey: 'Upper floor',
      properties: { Pset_WallCommon: { IsExternal: false } },
      quantities: { Height: 2.4 },
    }),
    sampleElement({ globalId: 'c', name: null, ifcClass: 'IfcSlab', storey: null, typeName: 'Floor panel 160' }),
    sampleElement({ globalId: 'd', name: 'Flight', ifcClass: 'IfcStairFlight', parent: 'a', zones: ['Wet areas'] }),
  ],
  Int32Array.of(1, 2, 3, 4),
);
const hits = (scope: Condition) =>
  listMaskedRows(evaluateScope(scope, table))
    .map((r) => 'abcd'[r])
    .join('');

describe('scopes', () => {
  it.each<[string, Condition, string]>([
    ['a class catches its subtypes', { field: 'class', op: 'is', value: 'IfcWall' }, 'ab'],
    ['any case will do', { field: 'class', op: 'oneOf', values: ['ifcslab', 'IFCSTAIRFLIGHT'] }, 'cd'],
    ['accents and case do not matter', { field: 'name', op: 'contains', value: 'AUSSENWAND' }, 'a'],
    ['wildcards', { field: 'type', op: 'is', value: 'floor panel *' }, 'c'],
    ['one sign', { field: 'name', op: 'is', value: 'inner wall ?' }, 'b'],
    ['a material among several', { field: 'material', op: 'contains', value: 'render' }, 'a'],
    ['yes or no', { field: 'property', of: 'Pset_WallCommon.IsExternal', op: 'is', value: 'yes' }, 'a'],
    ['no is not missing', { field: 'property', of: 'isexternal', op: 'is', value: false }, 'b'],
    ['a missing property', { field: 'property', of: 'Pset_WallCommon.IsExternal', op: 'missing' }, 'cd'],
    ['a property in a range', { field: 'property', of: 'Coats', op: 'range', min: 2, max: 3 }, 'a'],
    ['a property text', { field: 'property', of: 'FireRating', op: 'is', value: 'ei60' }, 'a'],
    ['a figure property', { field: 'property', of: 'Coats', op: 'is', value: '2' }, 'a'],
    ['a quantity in a range', { field: 'quantity', of: 'Height', op: 'range', max: 2.5 }, 'b'],
    ['a quantity that is missing', { field: 'quantity', of: 'Height', op: 'missing' }, 'cd'],
    ['a missing storey', { field: 'storey', op: 'missing' }, 'c'],
    ['a code', { field: 'code', op: 'is', value: 'b20*' }, 'a'],
    ['a zone', { field: 'zone', op: 'present' }, 'd'],
    ['parts', { field: 'part', op: 'present' }, 'd'],
    ['wholes', { field: 'whole', op: 'present' }, 'a'],
    ['a GlobalId exactly', { field: 'globalId', op: 'oneOf', values: ['b', 'C'] }, 'b'],
    [
      'all',
      {
        all: [
          { field: 'class', op: 'is', value: 'IfcWall' },
          { field: 'storey', op: 'is', value: 'upper floor' },
        ],
      },
      'b',
    ],
    [
      'any',
      {
        any: [
          { field: 'class', op: 'is', value: 'IfcSlab' },
          { field: 'part', op: 'present' },
        ],
      },
      'cd',
    ],
    ['not', { not: { field: 'class', op: 'is', value: 'IfcWall' } }, 'cd'],
    ['an empty all is everything', { all: [] }, 'abcd'],
    ['an empty any is nothing', { any: [] }, ''],
  ])('%s', (_, scope, expected) => expect(hits(scope)).toBe(expected));

  it('reads as a sentence', () => {
    expect(
      describeCondition({
        all: [
          { field: 'class', op: 'is', value: 'IfcWall' },
          {
            any: [
              { field: 'material', op: 'contains', value: 'brick' },
              { field: 'property', of: 'Set.A', op: 'missing' },
            ],
          },
        ],
      }),
    ).toBe('class is IfcWall and (material contains brick or Set.A is missing)');
    expect(describeCondition({ all: [] })).toBe('every element');
  });
});

describe('conditions on where an element is', () => {
  const table = buildElementTable([
    sampleElement({ globalId: 'r', ifcClass: 'IfcSpace', name: 'Kitchen', finishes: { floor: null, wall: null, ceiling: null, skirting: null } }),
    sampleElement({ globalId: 'a', space: 'r' }),
    sampleElement({ globalId: 'b', space: 'elsewhere' }),
    sampleElement({ globalId: 'c' }),
  ]); // biome-ignore format: an element a line
  it('ask for the room by what it is called, else by its identity', () => {
    expect([...evaluateScope({ field: 'room', op: 'contains', value: 'KITCH' }, table)]).toEqual([1, 1, 0, 0]);
    expect([...evaluateScope({ field: 'room', op: 'is', value: 'elsewhere' }, table)]).toEqual([0, 0, 1, 0]);
    expect([...evaluateScope({ field: 'room', op: 'missing' }, table)]).toEqual([0, 0, 0, 1]);
  });
  it('ask for the kind of source', () => {
    const listed = { ...table, origin: { kind: 'list' as const } };
    expect([...evaluateScope({ field: 'source', op: 'is', value: 'model' }, table)]).toEqual([1, 1, 1, 1]);
    expect([...evaluateScope({ field: 'source', op: 'oneOf', values: ['list', 'hand'] }, listed)]).toEqual([
      1, 1, 1, 1,
    ]);
    expect([...evaluateScope({ field: 'source', op: 'is', value: 'model' }, listed)]).toEqual([0, 0, 0, 0]);
  });
  it('ask for a layer by its function and its thickness', () => {
    const layer = { material: 'Wool', function: 'Insulation', thickness: 0.12, position: null, weight: null, area: 1, volume: null }; // biome-ignore format: one layer
    const layered = buildElementTable([sampleElement({ globalId: 'w', layers: [layer] }), sampleElement({ globalId: 'x' })]); // biome-ignore format: one table
    const caught = (more: Partial<FieldCondition>) => [
      ...evaluateScope({ field: 'layer', op: 'is', ...more }, layered),
    ];
    expect(caught({ of: 'function', value: 'insulation' })).toEqual([1, 0]);
    expect(caught({ of: 'thickness', op: 'range', min: 0.12, max: 0.2 })).toEqual([1, 0]);
    expect(caught({ of: 'thickness', op: 'range', min: 0.13 })).toEqual([0, 0]);
    expect(caught({ op: 'missing' })).toEqual([0, 1]);
  });
});
