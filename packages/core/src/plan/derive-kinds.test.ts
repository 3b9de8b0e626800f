import type { CostItem } from '../book/cost-item.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { explainElement } from './explain-element.ts';

/** A wall of 12 m2, 4 m long; prices move by 10 % for the region, those of material by 5 % more for the year. */
const WALL = buildElementTable(
  [sampleElement({ globalId: 'w', quantities: { NetSideArea: 12, Length: 4 }, stated: { Count: 1 } })],
  Int32Array.from([1]),
);
const of = (kind: CostItem['kind'], code: string, unit: string, rate: string, more: Partial<CostItem> = {}) =>
  sampleItem(code, unit, rate, { kind, source: 'Yard list', date: '2026-05-01', ...more });
const BASIS: PricingBasis = sampleBasis(
  [
    of('material', 'BLOCK', 'each', '3.00', { wastePercent: 5 }),
    of('labour', 'MASON', 'h', '44.00'),
    of('plant', 'HOIST', 'h', '60.00'),
    of('subcontract', 'RENDER', 'm2', '25.00'),
    of('fee', 'PERMIT', 'each', '120.00'),
  ],
  [
    { item: 'BLOCK', quantity: 'Driver * 10 each/m2' },
    { item: 'MASON', quantity: 'Driver * 0.5 h/m2' },
    { item: 'HOIST', quantity: 'Length * 0.25 h/m' },
    { item: 'RENDER', quantity: 'Driver / 2' },
    { item: 'PERMIT', quantity: 'Count' },
  ],
  { factors: [{ name: 'Region', percent: 10 }, { name: 'Year', percent: 5, kinds: ['material'] }] },
); // biome-ignore format: a basis in short

describe('one amount of each kind, worked out by hand', () => {
  const { lines } = explainElement(runPipeline(BASIS, [{ sourceId: 'm', table: WALL }]), 1)!;
  const line = (code: string) => lines.find((l) => l.code === code)!;
  it.each([
    // 12 x 10 = 120, + 5 % = 126, at 3.00 x 1.10 x 1.05 = 3.465: 436.59
    ['BLOCK', 120, 126, 3.465, 436_590_000, 'Driver * 10 each/m2', '12 m2 * 10 each/m2', ['Region', 'Year']],
    // 12 x 0.5 = 6 h at 44.00 x 1.10 = 48.40: 290.40
    ['MASON', 6, 6, 48.4, 290_400_000, 'Driver * 0.5 h/m2', '12 m2 * 0.5 h/m2', ['Region']],
    // 4 x 0.25 = 1 h at 60.00 x 1.10 = 66.00
    ['HOIST', 1, 1, 66, 66_000_000, 'Length * 0.25 h/m', '4 m * 0.25 h/m', ['Region']],
    // 6 m2 at 25.00 x 1.10 = 27.50: 165.00
    ['RENDER', 6, 6, 27.5, 165_000_000, 'Driver / 2', '12 m2 / 2', ['Region']],
    // one at 120.00 x 1.10 = 132.00
    ['PERMIT', 1, 1, 132, 132_000_000, 'Count', '1 each', ['Region']],
  ])('%s', (code, net, toBuy, rate, amount, formula, figures, factors) => {
    const found = line(code);
    expect([found.net, found.toBuy]).toEqual([net, toBuy]);
    expect(found.rate).toBeCloseTo(rate, 9);
    expect(found.amount).toBe(amount);
    expect(found.steps.at(-1)).toMatchObject({ formula, figures });
    expect(found.rateFactors.map((f) => f.name)).toEqual(factors);
    expect(found.item).toMatchObject({ source: 'Yard list', date: '2026-05-01' });
    expect(found.problem).toBeNull();
  });
  it('with where each quantity comes from', () => {
    const known = (code: string, name: string) => line(code).quantities.find((q) => q.name === name);
    expect(known('HOIST', 'Length')).toMatchObject({ value: 4, unit: 'm', basis: 'measured', method: 'swept' });
    expect(known('PERMIT', 'Count')).toMatchObject({ value: 1, unit: 'each', basis: 'stated', method: 'file' });
  });
});
