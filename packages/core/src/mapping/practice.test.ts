import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { gatherPractice } from '../plan/gather-practice.ts';
import { sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { PracticeIndex, type PracticeRow, type ProjectPractice, sayAlike } from './practice.ts';

const row = (more: Partial<PracticeRow>): PracticeRow => ({
  ifcClass: 'IfcWall',
  type: 'Block 200',
  material: 'Concrete block',
  kind: 'assembly',
  code: 'W',
  description: 'Wall',
  unit: 'm2',
  section: 'Walls',
  driver: 'NetSideArea',
  elements: 4,
  ...more,
});
const project = (name: string, at: string, rows: PracticeRow[]): ProjectPractice => ({
  projectId: name,
  name,
  at,
  rows,
});

describe('what earlier projects did', () => {
  const index = new PracticeIndex([
    project('Yard', '2026-03-01', [row({}), row({ code: 'W', type: 'Block 150', elements: 9 }), row({ code: 'STUD', type: 'Stud', material: 'Timber', elements: 90 })]),
    project('Quay', '2026-05-01', [row({ type: 'BLOCK  200', elements: 2 }), row({ ifcClass: 'IfcSlab', code: 'S' })]),
  ]); // biome-ignore format: one list
  const ask = (type: string, materials: string[], ifcClass = 'IfcWall') =>
    index.suggest({ ifcClass, type, materials }).map((s) => [s.by, s.code, s.elements, s.projects, s.last]);
  it('the same type first, in whatever case, summed over projects; then the class', () =>
    expect(ask('block 200', ['Brick'])).toEqual([
      ['type', 'W', 15, ['Yard', 'Quay'], '2026-05-01'],
      ['class', 'STUD', 90, ['Yard'], '2026-03-01'],
    ]));
  it('the same material before another', () =>
    expect(ask('Unknown', ['timber']).map((s) => s.slice(0, 2))).toEqual([
      ['material', 'STUD'],
      ['class', 'W'],
    ]));
  it('nothing for a class that nobody priced', () => expect(ask('x', [], 'IfcDoor')).toEqual([]));
  it('is said in words', () =>
    expect(['type', 'material', 'class'].map((by) => sayAlike({ by: by as 'type' }, 'IfcWall'))).toEqual([
      'of the same type',
      'of the same material',
      'another wall',
    ]));
});

describe('what a plan says of its practice', () => {
  const table = buildElementTable(
    [
      sampleElement({ globalId: 'a', typeName: 'Block 200', materials: ['Block'], quantities: { NetSideArea: 5 } }),
      sampleElement({ globalId: 'b', typeName: 'Block 200', materials: ['Block', 'Render'], quantities: { NetSideArea: 5 } }),
      sampleElement({ globalId: 'c', ifcClass: 'IfcDoor', typeName: null, name: 'Oak door 3', quantities: { Count: 1 } }),
    ],
    Int32Array.of(1, 2, 3),
  ); // biome-ignore format: an element a line
  const rule = { id: 'r', name: 'r', scope: { field: 'class' as const, op: 'is' as const, value: 'IfcWall' }, section: 's', item: 'X', driver: 'NetSideArea' }; // biome-ignore format: one rule
  const basis = (more: Partial<PricingBasis>): PricingBasis => ({ currency: 'EUR', items: [sampleItem('X', 'm2', '1'), sampleItem('D', 'each', '9')], assemblies: [], sections: [{ id: 's', name: 'Shell' }], rules: [rule], pins: [], ...more }); // biome-ignore format: one basis
  const gather = (more: Partial<PricingBasis>) => {
    const of = basis(more);
    return gatherPractice(runPipeline(of, [{ sourceId: 'm', table }]), of.sections).map((r) => [r.ifcClass, r.type, r.material, r.code, r.section, r.driver, r.elements]); // biome-ignore format: one step
  };
  it('is each kind with what it was decided to be priced with, pins too', () =>
    expect(gather({ pins: [{ id: 'p', element: 3, section: 's', item: 'D', driver: 'Count' }] })).toEqual([
      ['IfcWall', 'Block 200', 'Block', 'X', 'Shell', 'NetSideArea', 2],
      ['IfcDoor', 'Oak door', '', 'D', 'Shell', 'Count', 1],
    ]));
  it('is not what a rule for any building says, nor what cannot be worked out', () => {
    expect(gather({ rules: [{ ...rule, mayBeIdle: true }] })).toEqual([]);
    expect(gather({ rules: [{ ...rule, item: 'GONE' }] })).toEqual([]);
  });
});
