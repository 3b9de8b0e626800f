import { checkTable } from '../checks/check-live.ts';
import { runPipeline } from '../pipeline.ts';
import { explainElement } from '../plan/explain-element.ts';
import { NO_ADDITIONS } from '../testing/no-additions.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { buildElementTable } from './element-table.ts';
import { applyProjectLayer } from './project-layer.ts';

const tableOf = (area: number) =>
  buildElementTable(
    [
      sampleElement({ globalId: 'a', name: 'North', quantities: { NetSideArea: area } }),
      sampleElement({ globalId: 'b', quantities: { NetSideArea: 4 } }),
    ],
    Int32Array.from([1, 2]),
  );
const given = new Map([
  [1, { NetSideArea: { value: 14, unit: 'm2' as const, was: 10, reason: 'The bay is not drawn' } }],
]);
const BASIS = sampleBasis([sampleItem('I', 'm2', '10.00')], [{ item: 'I', quantity: 'Driver' }]);

describe('a figure set by hand', () => {
  it('is priced in place of the measured one, and says where it comes from', () => {
    const plan = runPipeline(BASIS, [
      { sourceId: 'm', table: applyProjectLayer(tableOf(10), { ...NO_ADDITIONS, given }) },
    ]);
    // 14 m2 and 4 m2 at 10.00.
    expect(plan.total).toBe(180e6);
    expect(explainElement(plan, 1)!.lines[0]!.quantities).toMatchObject([{ name: 'NetSideArea', value: 14, basis: 'given', method: 'hand' }]); // biome-ignore format: short
  });
  it('of a name that nothing measures is in its own unit', () => {
    const more = new Map([[2, { PaintedArea: { value: 3, unit: 'm2' as const, was: null, reason: 'By eye' } }]]);
    const basis = sampleBasis([sampleItem('I', 'm2', '10.00')], [{ item: 'I', quantity: 'PaintedArea', when: 'Driver < 5 m2' }]); // biome-ignore format: short
    const plan = runPipeline(basis, [{ sourceId: 'm', table: applyProjectLayer(tableOf(10), { ...NO_ADDITIONS, given: more }) }]); // biome-ignore format: short
    expect(plan.total).toBe(30e6);
  });
  it.each([
    [10, 0],
    [10.000001, 0],
    [13.1, 1],
  ])('with the model at %d m2 by now is a finding %d times', (area, times) => {
    const plain = tableOf(area);
    const found = checkTable(plain, plain, { facts: new Map(), given }, { statedShare: 0.01 }).filter((f) => f.code === 'given-moved'); // biome-ignore format: short
    expect(found).toHaveLength(times);
    if (times > 0) expect(found[0]!.message).toContain('set to 14 m2 by hand when the model had 10 m2; it has 13.1 m2');
  });
});

describe('an item in place of another', () => {
  const basis = (more: Partial<typeof BASIS>) => ({
    ...sampleBasis(
      [sampleItem('I', 'm2', '10.00'), sampleItem('K', 'm2', '7.00')],
      [{ item: 'I', quantity: 'Driver' }],
    ),
    ...more,
  });
  const total = (more: Partial<typeof BASIS>) =>
    runPipeline(basis(more), [{ sourceId: 'm', table: tableOf(10) }]).total;
  it('is priced everywhere, in its section, or on one element', () => {
    expect(total({ swaps: [{ from: 'I', to: 'K' }] })).toBe(98e6);
    expect(total({ swaps: [{ from: 'i', to: 'K', section: 's' }] })).toBe(98e6);
    expect(total({ swaps: [{ from: 'I', to: 'K', section: 'other' }] })).toBe(140e6);
    const pin = { id: 'p', element: 1, section: 's', assembly: 'A', driver: 'NetSideArea', swaps: { I: 'K' } };
    expect(total({ pins: [pin] })).toBe(110e6);
  });
  it('that is not in the book is an error on the line, the rest stays', () => {
    const plan = runPipeline(basis({ swaps: [{ from: 'I', to: 'NONE' }] }), [{ sourceId: 'm', table: tableOf(10) }]);
    expect([plan.total, plan.unknownLines]).toEqual([0, 2]);
  });
});
