import fc from 'fast-check';
import { buildElementTable } from '../elements/element-table.ts';
import { applyProjectLayer } from '../elements/project-layer.ts';
import { runPipeline } from '../pipeline.ts';
import { NO_ADDITIONS } from '../testing/no-additions.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { GROUP_FIELDS, type GroupField, readGroupField } from './group-labels.ts';
import {
  countPlanLines,
  groupPlan,
  isLineUnknown,
  listBehind,
  listGroupElements,
  type PlanGroup,
} from './group-plan.ts';
import { PLAN_ROWS } from './plan-fields.ts';

/** Two walls that are priced, a third without an area, two doors that nothing prices, a slab that is left out. */
const TABLE = applyProjectLayer(
  buildElementTable(
    [
      sampleElement({ globalId: 'a', name: 'North', codes: ['330.10.2'], quantities: { NetSideArea: 10 } }),
      sampleElement({ globalId: 'b', name: 'South', codes: ['330.20'], storey: 'Upper floor', quantities: { NetSideArea: 5 } }),
      sampleElement({ globalId: 'c', name: 'East' }),
      sampleElement({ globalId: 'd', ifcClass: 'IfcDoor', name: 'D1', typeName: 'Door 900', storey: 'Upper floor' }),
      sampleElement({ globalId: 'e', ifcClass: 'IfcDoor', name: 'D2', typeName: 'Door 900', storey: 'Upper floor' }),
      sampleElement({ globalId: 'f', ifcClass: 'IfcSlab', name: 'Slab', quantities: { NetArea: 50 } }),
    ],
    Int32Array.from([1, 2, 3, 4, 5, 6]),
    { storeys: [
      { name: 'Upper floor', elevation: 3, gfa: null, gfaMethod: null },
      { name: 'Ground floor', elevation: 0, gfa: null, gfaMethod: null },
    ] },
  ),
  { ...NO_ADDITIONS, attributes: new Map([[1, { Grade: 'fine' }]]) },
); // biome-ignore format: six elements
const rule = sampleBasis([], []).rules[0]!;
const BASIS = sampleBasis([sampleItem('I', 'm2', '20.00'), sampleItem('J', 'm2', '3.00')], [
  { item: 'I', quantity: 'Driver' },
  { item: 'J', quantity: 'Driver * 2' },
], {
  rules: [
    { ...rule, scope: { field: 'class', op: 'is', value: 'IfcWall' } },
    { id: 'out', name: 'Out', scope: { field: 'class', op: 'is', value: 'IfcSlab' }, leaveOut: 'Not ours' },
  ],
}); // biome-ignore format: a basis in short
const PLAN = runPipeline(BASIS, [{ sourceId: 'm', table: TABLE }]);
const NAMES = { sections: BASIS.sections, sources: new Map([['m', 'house']]) };
const labels = (by: GroupField[]) =>
  groupPlan(PLAN, by, NAMES).groups.map((g) => [g.label, g.minor, g.open, g.unknown]);

describe('a plan broken down', () => {
  it('has what is not priced in its place: two doors, in one line, without an amount', () => {
    expect(labels(['storey'])).toEqual([['Ground floor', 26_000, 0, 2], ['Upper floor', 13_000, 2, 0]]); // biome-ignore format: short
    const upper = groupPlan(PLAN, ['storey'], NAMES).groups[1]!;
    const open = upper.lines.find((l) => l.open > 0)!;
    expect(open).toMatchObject({ description: 'Door Door 900', net: 2, unit: 'each', open: 2, elements: 2, problem: 'Nothing prices it.' }); // biome-ignore format: short
    expect(isLineUnknown(open)).toBe(true);
    expect(labels(['section'])).toEqual([['S', 39_000, 0, 2], ['Not priced', 0, 2, 0]]); // biome-ignore format: short
  });
  it('goes by levels of an element code, attributes, names, sources, items and assemblies', () => {
    expect(labels(['code1']).map(([l]) => l)).toEqual(['330', 'No code']);
    expect(labels(['code2']).map(([l]) => l)).toEqual(['330.10', '330.20', 'No code']);
    expect(labels([readGroupField('Attribute: Grade')!]).map(([l, m]) => [l, m])).toEqual([['fine', 26_000], ['No Grade', 13_000]]); // biome-ignore format: short
    expect(labels(['source']).map(([l]) => l)).toEqual(['house']);
    expect(labels(['item']).map(([l]) => l)).toEqual(['I I', 'J J', 'Not priced']);
    expect(labels(['assembly']).map(([l]) => l)).toEqual(['A A', 'Not priced']);
    expect(readGroupField('colour')).toBeNull();
  });
  it('has elements for rows, or single cells: each adds up to the same', () => {
    const elements = groupPlan(PLAN, [], NAMES, { rows: 'element' }).lines;
    expect(elements.map((l) => [l.element, l.key, l.minor])).toEqual([
      ['Door D1', 4, 0], ['Door D2', 5, 0], ['Wall East', 3, 0], ['Wall North', 1, 26_000], ['Wall South', 2, 13_000],
    ]); // biome-ignore format: short
    // Of two items with one unit the quantities add up; of an element in several units they would not.
    expect(groupPlan(PLAN, [], NAMES, { rows: 'cell' }).lines.filter((l) => l.key === 1).map((l) => [l.item, l.net, l.minor])).toEqual([['I', 10, 20_000], ['J', 20, 6000]]); // biome-ignore format: short
  });
  it('tells the elements behind a line with what each adds, the most money first', () => {
    const line = groupPlan(PLAN, ['section'], NAMES).groups[0]!.lines[0]!;
    expect(listBehind(PLAN, ['section'], NAMES, line.id).map((e) => [e.key, e.net, e.amount, e.unknown])).toEqual([
      [1, 10, 200e6, 0], [2, 5, 100e6, 0], [3, null, 0, 1],
    ]); // biome-ignore format: short
    expect(listGroupElements(PLAN, ['section'], NAMES, line.id).sort()).toEqual([1, 2, 3]);
  });
  it('counts its lines on all levels', () => {
    // Two storeys; below, two items there and two items and a kind of doors there.
    expect(countPlanLines(groupPlan(PLAN, ['storey'], NAMES))).toBe(2 + 2 + 3);
    expect(countPlanLines(groupPlan(PLAN, [], NAMES, { rows: 'cell' }))).toBe(8);
  });
  it('limited to some elements says what its total is of', () => {
    const of = (keys: number[]) => groupPlan(PLAN, [], NAMES, { keys: new Set(keys) });
    expect([of([1]).label, of([1]).minor]).toEqual(['Total of what is shown', 26_000]);
    expect(of([1, 4]).label).toBe('Total of what is shown so far: 1 not priced');
    expect(of([1, 3]).label).toBe('Total of what is shown so far: 2 amounts are unknown');
  });
  it('has the same grand total under 30 groupings drawn at random, whatever a row is', () => {
    const addUp = (g: PlanGroup): number => g.groups.reduce((s, c) => s + addUp(c), 0) + g.lines.reduce((s, l) => s + l.minor, 0); // biome-ignore format: short
    const field = fc.constantFrom<GroupField>(...GROUP_FIELDS, 'attribute:Grade', 'property:Added.Grade');
    fc.assert(
      fc.property(fc.uniqueArray(field, { maxLength: 5 }), fc.constantFrom(...PLAN_ROWS), (by, rows) => {
        const grouped = groupPlan(PLAN, by, NAMES, { rows });
        // (10 + 5) x 20.00 + (20 + 10) x 3.00
        expect([grouped.minor, addUp(grouped), grouped.open, grouped.unknown]).toEqual([39_000, 39_000, 2, 2]);
      }),
      { seed: 15, numRuns: 30 },
    );
  });
});
