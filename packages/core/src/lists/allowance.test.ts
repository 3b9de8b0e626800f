import { runPipeline } from '../pipeline.ts';
import { groupPlan } from '../plan/group-plan.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { type Allowance, buildAllowances } from './allowance.ts';
import { priceAllowances } from './price-allowances.ts';

const ALLOWANCES = new Map<number, Allowance>([
  [-1, { code: 'PERMIT', name: 'Building permit', measure: 'once', rate: '3200' }],
  [-2, { code: 'CABIN', name: 'Site cabin', measure: 'weeks', amount: 26, rate: '185', kind: 'plant' }],
  [-3, { code: 'CLEAN', name: 'Final cleaning', measure: 'floorArea', rate: '6.40', section: 's' }],
  [-4, { code: 'RACK', name: 'Setting up racks', measure: 'units', counted: 'Boat rack', rate: '75' }],
  [-5, { code: 'SURVEY', name: 'Survey', measure: 'months', amount: 1.5 }],
]);
const basis = sampleBasis([sampleItem('SURVEY', 'month', '900')], [], { rules: [] });
const price = (floorAreaM2: number | null, racks: number | null, allowances = ALLOWANCES) => {
  const table = buildAllowances(allowances, {
    floorAreaM2,
    countUnits: (name) => (name === 'Boat rack' ? racks : null),
  })!;
  return runPipeline(basis, [{ sourceId: 'a', table, own: priceAllowances(allowances, basis.items) }]);
};

describe('costs without an object', () => {
  it('are priced by once, weeks, months, floor area, a count: like any element', () => {
    // 3,200 + 26 x 185 + 812.5 x 6.40 + 24 x 75 + 1.5 x 900 of the book.
    const plan = price(812.5, 24);
    expect(plan.total / 1e6).toBeCloseTo(3200 + 4810 + 5200 + 1800 + 1350, 6);
    expect(plan.counts).toMatchObject({ priced: 5, unpriced: 0 });
    const groups = groupPlan(plan, ['section'], basis).groups.map((g) => [g.label, g.minor]);
    expect(groups).toEqual([['S', 520_000], ['Allowances', 1_116_000]]); // biome-ignore format: two sections
  });
  it('are unknown, never 0, where what they go by is not known', () => {
    const plan = price(null, null);
    expect(plan.total / 1e6).toBeCloseTo(3200 + 4810 + 1350, 6);
    expect([plan.unknownLines, plan.counts.unpriced]).toEqual([2, 2]);
  });
  it('of a measure that is 0 are 0', () => expect(price(0, 0).unknownLines).toBe(0));
  it('keep their own rates where two have one code, or the book has it', () => {
    const twins = new Map<number, Allowance>([
      [-1, { code: 'FEE', name: 'One', measure: 'once', rate: '10' }],
      [-2, { code: 'FEE', name: 'Two', measure: 'once', rate: '20' }],
      [-3, { code: 'FEE', name: 'Three', measure: 'once', rate: '40' }],
      [-4, { code: 'SURVEY', name: 'Ours', measure: 'months', rate: '100' }],
    ]);
    expect(price(null, null, twins).total / 1e6).toBeCloseTo(170, 6);
    expect(priceAllowances(twins, basis.items).items.map((i) => i.code)).toEqual([
      'FEE',
      'FEE (allowance)',
      'FEE (allowance 3)',
      'SURVEY (allowance)',
    ]);
  });
});
