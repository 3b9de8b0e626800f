import fc from 'fast-check';
import { explainMove } from '../changes/explain-move.ts';
import { showMove } from '../changes/show-move.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { explainElement } from '../plan/explain-element.ts';
import { groupPlan, listGroupElements } from '../plan/group-plan.ts';
import { splitAmount } from '../plan/split-by-kind.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { sampleState } from '../testing/sample-state.ts';
import { listRateSteps, listShares, toFactor } from './price-factors.ts';

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
    const before = sampleState(basis([item('M', 'material', '2.00')]), table);
    const factors = [{ name: 'Region', percent: 10 }];
    const after = sampleState(basis([item('M', 'material', '3.00')], { factors }), table);
    // 20.00 at first, 33.00 now. The rate moves 10.00 before the factor and 11.00 after it, the factor 3.00 and 2.00.
    expect(showMove(explainMove(before, after))).toMatchObject({ move: 1300, causes: { factors: 250, price: 1050 } });
  });
});

describe('an all-in rate that is split by kind', () => {
  const split = { labour: 40, material: 60 };
  const laying = item('LAY', 'material', '10.00', { kind: 'subcontract', split });
  const factors = [
    { name: 'Night', percent: 50, kinds: ['labour' as const] },
    { name: 'Region', percent: 10 },
    { name: 'Fuel', percent: 5, kinds: ['plant' as const] },
  ];
  it('is moved by a factor for the part of its kind only: 40 % x 1.5 + 60 % = 1.2, then all by 1.1', () => {
    const { steps, shares } = listRateSteps(factors, listShares(laying));
    expect(steps).toEqual([
      { name: 'Night', factor: expect.closeTo(1.2, 12) },
      { name: 'Region', factor: 1.1 },
    ]);
    // Labour is 0.6 of 1.2 now.
    expect(shares).toEqual([
      { kind: 'labour', share: expect.closeTo(0.5, 12) },
      { kind: 'material', share: expect.closeTo(0.5, 12) },
    ]);
    // 10 m2 x 10.00 x 1.32
    expect(plan(basis([laying], { factors })).total).toBe(132e6);
  });
  it('is shown under its kinds in a plan by kind, with the same total', () => {
    const b = basis([laying, item('M', 'material', '1.00')]);
    const priced = plan(b);
    const byKind = groupPlan(priced, ['kind'], b);
    expect(byKind.groups.map((g) => [g.label, g.minor])).toEqual([
      ['labour', 4000],
      ['material', 7000],
    ]);
    expect(byKind.groups[0]!.lines).toMatchObject([{ description: 'LAY, labour part', rate: 4, net: 10, minor: 4000 }]);
    expect(byKind.minor).toBe(groupPlan(priced, [], b).minor);
    expect(groupPlan(priced, [], b).lines).toMatchObject([
      { item: 'LAY', kind: 'subcontract', minor: 10000 },
      { item: 'M', minor: 1000 },
    ]);
    expect(listGroupElements(priced, ['kind'], b, '/labour')).toEqual([1]);
    expect(listGroupElements(priced, ['kind'], b, '/subcontract')).toEqual([]);
  });
  it('keeps what is unknown in one place, counted once', () => {
    const b = basis([{ ...laying, rate: null }]);
    const byKind = groupPlan(plan(b), ['kind'], b);
    expect(byKind).toMatchObject({ unknown: 1, groups: [{ label: 'subcontract', unknown: 1 }] });
  });
  it('is divided into whole amounts that add up', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), fc.integer({ min: 1, max: 99 }), (amount, percent) => {
        const parts = splitAmount(
          amount,
          listShares({ kind: 'fee', split: { labour: percent, plant: 100 - percent } }),
        );
        expect(parts.every((p) => Number.isInteger(p.amount))).toBe(true);
        expect(parts.reduce((sum, p) => sum + p.amount, 0)).toBe(amount);
        expect(Math.abs(parts[0]!.amount - (amount * percent) / 100)).toBeLessThanOrEqual(0.5);
      }),
      { seed: 3, numRuns: 200 },
    );
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
