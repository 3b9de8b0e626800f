import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { explainElement } from '../plan/explain-element.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';

/** A pile of soil: 5.291 m3 over 12 m2. */
const table = buildElementTable(
  [sampleElement({ globalId: 'soil', quantities: { NetVolume: 5.291, NetSideArea: 12 } })],
  Int32Array.of(1),
);
const scale = (rows: [number | undefined, number | undefined, number][], more = {}) => ({
  name: 'Haulage',
  unit: 'EUR/m3',
  keys: [{ name: 'Volume', unit: 'm3', step: 5 }],
  rows: rows.map(([from, to, value]) => ({ at: [{ from, to }], value })),
  ...more,
});
const ONE_RATE = scale([[undefined, undefined, 9.25]]);
const haul = (rateFormula = 'scale("Haulage", NetVolume)', more = {}) =>
  sampleItem('HAUL', 'm3', null, { rateFormula, ...more });
const line = (quantity: string, more = {}) => ({ item: 'HAUL', quantity, ...more });
const byVolume = (item: PricingBasis['items'][number], quantity: string, scales: PricingBasis['scales'], more = {}) => {
  const basis = sampleBasis([item], [line(quantity, more)], { scales });
  const rule = { ...basis.rules[0]!, driver: 'NetVolume' };
  return runPipeline({ ...basis, assemblies: [{ ...basis.assemblies[0]!, unit: 'm3' }], rules: [rule] }, [
    { sourceId: 'm', table },
  ]);
};

describe('a line whose rate goes by its own quantity is charged for what is begun', () => {
  it('5.291 m3 in steps of 5 at 9.25: 10 m3, 92.50', () => {
    const plan = byVolume(haul(), 'Driver', [ONE_RATE]);
    expect(plan.total).toBe(92.5e6);
    const opened = explainElement(plan, 1)!.lines[0]!;
    expect(opened).toMatchObject({ net: 5.291, toBuy: 10, rate: 9.25, amount: 92.5e6 });
    expect(opened.steps.at(-1)).toMatchObject({ lead: 'Charged in started units', result: 10, unit: 'm3' });
    // What is bought is what is paid.
    expect(plan.purchases[0]).toMatchObject({ net: 5.291, toBuy: 10, lines: 92.5e6, surplusAmount: 0 });
  });
  it('in slices: 5 m3 at 10 and 5 m3 at 8 are 90.00', () =>
    expect(
      byVolume(haul(), 'Driver', [scale([[undefined, 5, 10], [5, undefined, 8]], { isSliced: true })]).total,
    ).toBe(90e6)); // biome-ignore format: rows side by side
  it('named outright, priced without an assembly, and in another unit alike', () => {
    expect(byVolume(haul(), 'NetVolume', [ONE_RATE]).total).toBe(92.5e6);
    expect(byVolume(haul(undefined, { unit: 'l' }), 'Driver', [ONE_RATE]).total).toBe(92.5e6);
    const basis = sampleBasis([haul()], [], { scales: [ONE_RATE] });
    const rule = { ...basis.rules[0]!, assembly: undefined, item: 'HAUL', driver: 'NetVolume' };
    expect(runPipeline({ ...basis, rules: [rule] }, [{ sourceId: 'm', table }]).total).toBe(92.5e6);
  });
  it('with waste, once: 5.291 m3 and 10 % are 5.8201 m3, still 10 m3', () =>
    expect(byVolume(haul(), 'Driver', [ONE_RATE], { wastePercent: 10 }).total).toBe(92.5e6));
  it('a full step is not raised: 5 m3 off in its last digit is 5 m3', () => {
    const five = buildElementTable(
      [sampleElement({ globalId: 'five', quantities: { NetVolume: 5.0000000001 } })],
      Int32Array.of(1),
    );
    const basis = sampleBasis([haul()], [line('NetVolume')], { scales: [ONE_RATE] });
    const rule = { ...basis.rules[0]!, item: 'HAUL', assembly: undefined, driver: 'NetVolume' };
    expect(runPipeline({ ...basis, rules: [rule] }, [{ sourceId: 'm', table: five }]).total).toBe(46.25e6);
  });
  it('a step over another figure moves the look-up only: 12 m2 count as 15 m2, 5.291 m3 stay', () => {
    const byArea = scale([[undefined, 13, 7], [13, undefined, 9.25]], { keys: [{ name: 'Area', unit: 'm2', step: 5 }] }); // biome-ignore format: rows side by side
    // 5.291 x 9.25 = 48.94175
    expect(byVolume(haul('scale("Haulage", NetSideArea)'), 'Driver', [byArea]).total).toBe(48.94175e6);
  });
  it('what a formula has rounded up is not raised again: 6 m3 at the rate of 10', () =>
    expect(byVolume(haul(), 'ceil(Driver, 1 m3)', [ONE_RATE]).total).toBe(55.5e6));
});
