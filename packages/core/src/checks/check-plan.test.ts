import { buildElementTable, type ElementTable } from '../elements/element-table.ts';
import type { SharedBody } from '../elements/site-data.ts';
import type { PricingRule } from '../mapping/pricing-rule.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { checkPlan } from './check-plan.ts';
import type { Finding } from './finding.ts';

const item = (code: string, unit: string, rate: string | null, more = {}) => ({ code, description: code, kind: 'material' as const, unit, rate, ...more }); // biome-ignore format: one item
const rule = (id: string, ifcClass: string, more: Partial<PricingRule> = {}): PricingRule => ({
  id,
  name: id,
  scope: { field: 'class', op: 'is', value: ifcClass },
  section: 'structure',
  item: 'CONCRETE',
  driver: 'NetVolume',
  ...more,
});
const basis = (rules: PricingRule[], items = [item('CONCRETE', 'm3', '200.00'), item('PLATE', 'm2', '50.00')]): PricingBasis => ({
  currency: 'EUR', items, assemblies: [], values: [], scales: [], sections: [{ id: 'structure', name: 'Structure' }], rules, pins: [],
}); // biome-ignore format: one basis
const tableOf = (elements: ReturnType<typeof sampleElement>[], sharedBodies: SharedBody[] = []): ElementTable => ({
  ...buildElementTable(elements, undefined, { sharedBodies }),
  keys: Int32Array.from(elements, (_, i) => i + 1),
});
const check = (
  table: ElementTable,
  rules: PricingRule[],
  items?: ReturnType<typeof item>[],
  findings: Finding[] = [],
) => {
  const of = basis(rules, items);
  return checkPlan(runPipeline(of, [{ sourceId: 's', table }]), of, { findings });
};
const body = (globalId: string, ifcClass: string, volume: number, more: Record<string, number> = {}) =>
  sampleElement({
    globalId,
    name: globalId,
    ifcClass,
    quantities: { NetVolume: volume, GrossVolume: volume, ...more },
  });
const codesOf = (findings: readonly Finding[]) => findings.map((f) => f.code);

describe('what is counted twice', () => {
  const bodies = [body('beam', 'IfcBeam', 2), body('slab', 'IfcSlab', 10, { NetArea: 50 })];
  const shared = [{ a: 0, b: 1, sharedM3: 0.8, smallerM3: 2 }];
  it('is a beam in a slab, both by volume: the shared volume at the lower price', () => {
    const rules = [rule('beams', 'IfcBeam', { item: 'DEAR' }), rule('slabs', 'IfcSlab')];
    const items = [item('CONCRETE', 'm3', '200.00'), item('DEAR', 'm3', '320.00')];
    // 0.8 m3 at 200.00.
    expect(check(tableOf(bodies, shared), rules, items)).toMatchObject([
      { code: 'double-count', globalIds: ['beam', 'slab'], money: 16_000, cause: 'IfcBeam and IfcSlab' },
    ]);
  });
  it('is nothing where one of both is priced by its area, or by nobody', () => {
    const byArea = [rule('beams', 'IfcBeam'), rule('slabs', 'IfcSlab', { item: 'PLATE', driver: 'NetArea' })];
    expect(check(tableOf(bodies, shared), byArea)).toEqual([]);
    expect(check(tableOf(bodies, shared), [rule('beams', 'IfcBeam')])).toEqual([]);
  });
  it('is nothing where they share less than is usual at joints', () =>
    expect(check(tableOf(bodies, [{ ...shared[0]!, sharedM3: 0.3 }]), [rule('b', 'IfcBeam'), rule('s', 'IfcSlab')])).toEqual([])); // biome-ignore format: one line
  it('is what stands in one place, however it is priced: what the cheaper one costs', () => {
    const pair: Finding = { code: 'coincident', severity: 'error', message: '', globalIds: ['a', 'b'] };
    const rules = [rule('plates', 'IfcPlate', { item: 'PLATE', driver: 'NetArea' })];
    const plates = ['a', 'b'].map((id, i) => sampleElement({ globalId: id, ifcClass: 'IfcPlate', quantities: { NetArea: 3 + i } })); // biome-ignore format: one list
    // 3 m2 at 50.00.
    expect(check(tableOf(plates), rules, undefined, [pair])).toMatchObject([{ code: 'double-count', money: 15_000 }]);
  });
});

describe('rules that decide nothing', () => {
  const table = tableOf([
    sampleElement({ globalId: 'w', ifcClass: 'IfcWall', typeName: 'Outer wall 300', quantities: { NetVolume: 1 } }),
    sampleElement({ globalId: 'v', ifcClass: 'IfcWall', typeName: 'Inner wall', quantities: { NetVolume: 1 } }),
  ]);
  const ofType = (id: string, value: string) => rule(id, '', { scope: { field: 'type', op: 'is', value } });
  it('catch nothing, and what is near to what they ask for is told', () => {
    const [idle] = check(table, [rule('walls', 'IfcWall'), ofType('typo', 'Outer wal 300')]);
    expect(idle).toMatchObject({ code: 'rule-idle', cause: 'typo' });
    expect(idle!.message).toContain('Near it: "Outer wall 300".');
  });
  it('are hidden by one before them that asks for other things', () =>
    expect(check(table, [rule('walls', 'IfcWall'), ofType('inner', 'Inner wall')])).toMatchObject([
      { code: 'rule-hidden', cause: 'inner', message: expect.stringContaining('by "walls"') },
    ]));
  it('are no fault where they take what another leaves over, are off, or were made for any building', () => {
    const wall = { field: 'class', op: 'is', value: 'IfcWall' } as const;
    const narrow = rule('narrow', '', { scope: { all: [wall, { field: 'type', op: 'contains', value: 'wall' }] } });
    expect(check(table, [narrow, rule('rest', 'IfcWall')])).toEqual([]);
    expect(check(table, [rule('w', 'IfcWall'), rule('off', 'IfcDoor', { isOff: true }), rule('any', 'IfcRoof', { mayBeIdle: true })])).toEqual([]); // biome-ignore format: one line
  });
});

describe('prices that cannot be meant', () => {
  const walls = (rates: number[]) =>
    tableOf(rates.map((_, i) => sampleElement({ globalId: `w${i}`, typeName: `Type ${'ABCDEF'[i]}`, quantities: { NetSideArea: 10 } }))); // biome-ignore format: one table
  const rulesOf = (rates: number[]) =>
    rates.map((_, i) => rule(`r${i}`, '', { scope: { field: 'type', op: 'is', value: `Type ${'ABCDEF'[i]}` }, item: `I${i}`, driver: 'NetSideArea' })); // biome-ignore format: one list
  const itemsOf = (rates: number[]) => rates.map((rate, i) => item(`I${i}`, 'm2', rate.toFixed(2)));
  const found = (rates: number[]) => check(walls(rates), rulesOf(rates), itemsOf(rates));
  it('are far from those of their class, and a usual mistake of that factor is named', () => {
    // The middle of 80, 90, 100, 110, 1,000 is 100.
    expect(found([80, 90, 100, 110, 1000])).toMatchObject([
      { code: 'price-absurd', globalIds: ['w4'], money: 900_000, message: expect.stringContaining('10 times as much as its like (100.00). About 10 times: a decimal sign') },
    ]); // biome-ignore format: one finding
    expect(found([80, 90, 100, 110, 8.36])[0]!.message).toContain('square feet taken for square metres');
  });
  it('are not those of a class whose prices lie far apart anyhow, or of which there are few', () => {
    expect(found([4, 20, 100, 500, 2500])).toEqual([]);
    expect(found([10, 11, 1000])).toEqual([]);
  });
  it('are rates of 0 and below that something is priced with, but for deductions', () => {
    const rules = [rule('walls', 'IfcWall', { item: 'FREE', driver: 'NetSideArea' })];
    const free = (rate: string, more = {}) => codesOf(check(walls([1]), rules, [item('FREE', 'm2', rate, more)]));
    expect([free('0.00'), free('12.00'), free('-5.00', { isDeduction: true })]).toEqual([['price-absurd'], [], []]);
  });
});
