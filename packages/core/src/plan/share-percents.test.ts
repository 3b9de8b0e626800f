import { buildElementTable } from '../elements/element-table.ts';
import type { Allowance } from '../lists/allowance.ts';
import { buildAllowances } from '../lists/allowance.ts';
import { priceAllowances } from '../lists/price-allowances.ts';
import { runPipeline } from '../pipeline.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { explainElement } from './explain-element.ts';
import { groupPlan } from './group-plan.ts';

/** 100 m2 at 12.34 in packs of 30 (so 4 packs, 20 left over), and costs without an object. */
const walls = buildElementTable(
  [sampleElement({ globalId: 'w', quantities: { NetSideArea: 100 } })],
  Int32Array.from([1]),
);
const BASIS = sampleBasis([sampleItem('I', 'm2', '12.34', { soldAs: { pack: 30 } })], [{ item: 'I', quantity: 'Driver' }]); // biome-ignore format: short
const plan = (...list: Allowance[]) => {
  const allowances = new Map(list.map((a, i) => [-1 - i, a]));
  const table = buildAllowances(allowances, { floorAreaM2: null, countUnits: () => null })!;
  return runPipeline(BASIS, [
    { sourceId: 'm', table: walls },
    { sourceId: 'a', table, own: priceAllowances(allowances, BASIS.items) },
  ]);
};
const percent = (code: string, amount: number | undefined, of?: Allowance['of']): Allowance => ({ code, name: code, measure: 'percent', amount, of }); // biome-ignore format: short
const PERMIT: Allowance = { code: 'PERMIT', name: 'Permit', measure: 'once', rate: '1000.00' };
const amountOf = (of: ReturnType<typeof plan>, key: number) => explainElement(of, key)!.lines[0]!.amount;

describe('a per cent', () => {
  it('of all is of everything but other per cents, what of whole packs is left over included', () => {
    // 4 packs of 30 at 12.34 = 1,480.80; with the permit 2,480.80; 5 % of it 124.04; 10 % of it 248.08, not of the 5 % too.
    const made = plan(PERMIT, percent('SITE', 5), percent('RISK', 10));
    expect([amountOf(made, -2), amountOf(made, -3)]).toEqual([124.04e6, 248.08e6]);
    expect(made.total).toBe(2_852.92e6);
    expect(groupPlan(made, ['section'], BASIS).minor).toBe(285_292);
  });
  it('goes on top of those it names: 10 % of 2,480.80 and 124.04', () =>
    expect(amountOf(plan(PERMIT, percent('RISK', 10, { also: ['SITE'] }), percent('SITE', 5)), -2)).toBe(260.484e6));
  it('of a group on top of another has all of that other: 10 % of 1,234.00 and 124.04', () => {
    const of = { groups: [{ by: 'section', is: 'S' }], also: ['SITE'] };
    expect(amountOf(plan(PERMIT, percent('SITE', 5), percent('RISK', 10, of)), -3)).toBe(135.804e6);
  });
  it('of a group is of that group only', () => {
    const of = { groups: [{ by: 'section', is: 'S' }] };
    // Of the section S are 1,234.00; the 246.80 left over belong to no section.
    expect(amountOf(plan(PERMIT, percent('SITE', 2.5, of)), -2)).toBe(30.85e6);
    expect(amountOf(plan(PERMIT, percent('SITE', 2.5, { groups: [{ by: 'item', is: 'I I' }] })), -2)).toBe(37.02e6);
    expect(amountOf(plan(PERMIT, percent('SITE', 50, { groups: [{ by: 'section', is: 'Nowhere' }] })), -2)).toBe(0);
  });
  it('is opened to what it is of', () => {
    const [line] = explainElement(plan(PERMIT, percent('SITE', 5)), -2)!.lines;
    expect(line).toMatchObject({ net: 5, item: { unit: '%' }, rate: expect.closeTo(24.808, 9) });
    expect(line!.rateSteps).toMatchObject([{ lead: 'One per cent of', formula: 'all costs but per cents', figures: '2480.8' }]); // biome-ignore format: short
  });
  it('that is not said is unknown, never 0', () => {
    const made = plan(PERMIT, percent('SITE', undefined));
    expect([made.unknownLines, amountOf(made, -2)]).toEqual([1, null]);
  });
  it('on top of itself by way of others is refused with the circle, the rest is priced', () => {
    const made = plan(PERMIT, percent('A', 1, { also: ['B'] }), percent('B', 2, { also: ['A'] }), percent('C', 10));
    const [line] = explainElement(made, -2)!.lines;
    expect(line).toMatchObject({ amount: null, problem: { code: 'percent-circle' } });
    expect(line!.problem!.message).toContain('A, B, A');
    expect(amountOf(made, -3)).toBeNull();
    expect(amountOf(made, -4)).toBe(248.08e6);
    expect(made.unknownLines).toBe(2);
  });
  it('on top of one there is not says so', () =>
    expect(explainElement(plan(percent('A', 1, { also: ['GONE'] })), -1)!.lines[0]!.problem).toMatchObject({ code: 'percent-unknown' })); // biome-ignore format: short
});
