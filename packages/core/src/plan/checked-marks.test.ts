import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { type CheckedMark, holdMarks, listUnchecked, type MarkedThing, markId, signMarked, testChecked } from './checked-marks.ts'; // biome-ignore format: one module
import { groupPlan } from './group-plan.ts';

const tableOf = (first = 10) =>
  buildElementTable(
    [
      sampleElement({ globalId: 'a', quantities: { NetSideArea: first } }),
      sampleElement({ globalId: 'b', storey: 'Upper floor', quantities: { NetSideArea: 5 } }),
    ],
    Int32Array.from([1, 2]),
  );
const basisOf = (rate = '20.00', waste = 0): PricingBasis =>
  sampleBasis(
    [sampleItem('I', 'm2', rate, { wastePercent: waste }), sampleItem('J', 'm2', '3.00')],
    [
      { item: 'I', quantity: 'Driver' },
      { item: 'J', quantity: 'Driver' },
    ],
  );
const plan = (basis = basisOf(), table = tableOf()) => runPipeline(basis, [{ sourceId: 'm', table }]);
const mark = (on: MarkedThing): CheckedMark => {
  const [{ signature, amount }] = signMarked(plan(), [on], basisOf()) as [{ signature: string; amount: number }];
  return { on, signature, amount };
};
const ELEMENT = { element: 1 };
const LINE = { path: [], section: 's', item: 'I' };
const GROUP = { path: [{ by: 'storey', is: 'Upper floor' }] };
const holds = (now: ReturnType<typeof plan>) => holdMarks(now, [ELEMENT, LINE, GROUP].map(mark), basisOf()).map((h) => h.holds); // biome-ignore format: short

describe('a mark', () => {
  it('holds while nothing moves, in whatever order things come', () => {
    const turned = buildElementTable(
      [
        sampleElement({ globalId: 'b', storey: 'Upper floor', quantities: { NetSideArea: 5 } }),
        sampleElement({ globalId: 'a', quantities: { NetSideArea: 10 } }),
      ],
      Int32Array.from([2, 1]),
    );
    expect(holds(plan())).toEqual([true, true, true]);
    expect(holds(plan(basisOf(), turned))).toEqual([true, true, true]);
  });
  it('falls away when a quantity, a rate or a waste of what it is on moves, and only then', () => {
    expect(holds(plan(basisOf(), tableOf(11)))).toEqual([false, false, true]);
    expect(holds(plan(basisOf('20.01')))).toEqual([false, false, false]);
    expect(holds(plan(basisOf('20.00', 5)))).toEqual([false, false, false]);
    const other = { ...basisOf(), items: [basisOf().items[0]!, sampleItem('J', 'm2', '4.00')] };
    expect(holds(plan(other))).toEqual([false, true, false]);
  });
  it('falls away when what it is on is not in the plan any more, and when it is decided otherwise', () => {
    const fewer = { ...basisOf(), assemblies: [{ ...basisOf().assemblies[0]!, lines: [{ item: 'J', quantity: 'Driver' }] }] };
    expect(holds(plan(fewer))).toEqual([false, false, false]);
    expect(signMarked(plan(fewer), [LINE], basisOf())).toEqual([{ signature: '', amount: 0 }]);
  }); // biome-ignore format: short
  it('has an id of what it is on', () =>
    expect([ELEMENT, LINE, GROUP, { ...LINE, ...GROUP }].map(markId)).toEqual([
      'element=1',
      '#s|I',
      'storey=Upper floor',
      'storey=Upper floor#s|I',
    ]));
});

it('a mark on an item in a group covers it there only', () => {
  const now = plan();
  const held = holdMarks(
    now,
    [mark({ path: [{ by: 'storey', is: 'Upper floor' }], section: 's', item: 'I' })],
    basisOf(),
  );
  // Of I the 5 m2 upstairs are checked: 200.00 of the 10 m2 below are left, and all of J.
  expect(listUnchecked(now, testChecked(held, basisOf())).map((l) => [l.item, l.amount])).toEqual([
    ['I', 200e6],
    ['J', 45e6],
  ]);
});

it('what no mark covers is listed, the most money first, and lines say how much of them is checked', () => {
  const now = plan();
  const held = holdMarks(now, [mark(LINE), mark(ELEMENT)], basisOf());
  const test = testChecked(held, basisOf());
  // I is checked, and all of element 1: of J the 5 m2 of element 2 are left, 15.00.
  expect(listUnchecked(now, test)).toEqual([{ section: 's', item: 'J', description: 'J', amount: 15e6, elements: 1 }]);
  expect(listUnchecked(now, null).map((l) => [l.item, l.amount])).toEqual([['I', 300e6], ['J', 45e6]]); // biome-ignore format: short
  const lines = groupPlan(now, [], basisOf(), { isChecked: test }).lines;
  expect(lines.map((l) => [l.item, l.checked, l.cells])).toEqual([['I', 2, 2], ['J', 1, 2]]); // biome-ignore format: short
});
