import { showMove, splitMove } from '../changes/split-move.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { explainElement } from '../plan/explain-element.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { toFactor } from './price-factors.ts';

const table = buildElementTable(
  [sampleElement({ globalId: 'w', quantities: { NetSideArea: 10, Depth: 3 } })],
  Int32Array.of(1),
);
const item = (code: string, kind: 'material' | 'labour', rate: string | null, more = {}) =>
  sampleItem(code, 'm2', rate, { kind, ...more });
const basis = (items: PricingBasis['items'], more: Partial<PricingBasis> = {}) =>
  sampleBasis(
    items,
    items.map((i) => ({ item: i.code, quantity: 'Driver' })),
    more,
  );
const plan = (b: PricingBasis) => runPipeline(b, [{ sourceId: 'm', table }]);

describe('factors on rates', () => {
  it('are plain, or compounded to the day', () => {
    expect(toFactor({ name: 'Region', percent: 4 })).toBeCloseTo(1.04, 12);
    // Four years of 365.25 days: 1461 days.
    expect(toFactor({ name: 'Rise', percentPerYear: 3, from: '2026-01-01', to: '2030-01-01' })).toBeCloseTo(
      1.03 ** 4,
      12,
    );
    expect(toFactor({ name: 'Back', percentPerYear: 3, from: '2030-01-01', to: '2026-01-01' })).toBeCloseTo(
      1.03 ** -4,
      12,
    );
  });
  it('hold for the kinds they name, one after the other, and are shown as steps', () => {
    const factors = [
      { name: 'Region', percent: 10 },
      { name: 'Night work', percent: 50, kinds: ['labour' as const] },
    ];
    const priced = plan(basis([item('M', 'material', '2.00'), item('L', 'labour', '4.00')], { factors }));
    // 10 x 2.00 x 1.1 + 10 x 4.00 x 1.1 x 1.5 = 22 + 66
    expect(priced.total).toBe(88e6);
    const lines = explainElement(priced, 1)!.lines;
    expect(lines.map((l) => l.rate)).toEqual([expect.closeTo(2.2, 9), expect.closeTo(6.6, 9)]);
    expect(lines[1]!.rateFactors).toEqual([
      { name: 'Region', factor: 1.1 },
      { name: 'Night work', factor: 1.5 },
    ]);
  });
  it('move the total by a cause of their own, apart from the price', () => {
    const before = plan(basis([item('M', 'material', '2.00')]));
    const after = plan(basis([item('M', 'material', '3.00')], { factors: [{ name: 'Region', percent: 10 }] }));
    // 20.00 at first; the factor on the old rate 2.00, the new rate 11.00.
    expect(showMove(splitMove(before, after))).toMatchObject({ move: 1300, causes: { factors: 200, price: 1100 } });
  });
});

describe('what is bought in another currency', () => {
  const exchange = [{ currency: 'USD', rate: '0.90', date: '2026-03-01' }];
  const foreign = item('M', 'material', '2.00', { currency: 'USD' });
  it('is brought over at the rate of a date, which is shown', () => {
    const priced = plan(basis([foreign], { exchange }));
    expect(priced.total).toBe(18e6);
    expect(explainElement(priced, 1)!.lines[0]!.rateFactors).toEqual([{ name: 'USD of 2026-03-01', factor: 0.9 }]);
  });
  it('has its formulas in its own currency, for each element too', () => {
    const scales = [
      { name: 'D', unit: 'USD/m2', keys: [{ name: 'Depth', unit: 'm' }], rows: [{ at: [{}], value: 5 }] },
    ];
    const own = item('M', 'material', null, { currency: 'USD', rateFormula: 'scale("D", Depth)' });
    expect(plan(basis([own], { exchange, scales })).total).toBe(45e6);
    const wrong = item('M', 'material', null, { currency: 'USD', rateFormula: '5 EUR/m2' });
    expect(explainElement(plan(basis([wrong], { exchange })), 1)!.lines[0]!.problem).toMatchObject({
      code: 'formula-dimension',
    });
  });
  it('is unknown without a rate of exchange', () =>
    expect(explainElement(plan(basis([foreign])), 1)!.lines[0]!).toMatchObject({
      amount: null,
      problem: { code: 'currency-without-rate', remedy: expect.any(String) },
    }));
});
