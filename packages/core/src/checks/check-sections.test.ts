import type { PriceBand } from '../book/price-band.ts';
import { buildElementTable } from '../elements/element-table.ts';
import type { ExpectedSections } from '../mapping/expected-sections.ts';
import type { PricingRule } from '../mapping/pricing-rule.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { sampleItem } from '../testing/sample-basis.ts';
import { type Sample, sampleElement } from '../testing/sample-element.ts';
import { checkPlan } from './check-plan.ts';

const wall = (id: string, area: number, more: Partial<Sample> = {}): Sample => ({
  globalId: id,
  quantities: { NetSideArea: area, Count: 1 },
  ...more,
});
const rule = (section: string, more: Partial<PricingRule> = {}): PricingRule => ({
  id: `${section} ${more.name ?? ''}`,
  name: section,
  scope: { all: [] },
  section,
  item: 'PAINT',
  driver: 'NetSideArea',
  ...more,
});
const not = (...values: string[]): PricingRule['scope'] => ({ not: { field: 'globalId', op: 'oneOf', values } });

function find(
  samples: readonly Sample[],
  rules: PricingRule[],
  { expected, bands }: { expected?: ExpectedSections[]; bands?: PriceBand[] } = {},
) {
  const table = buildElementTable(samples.map((s) => sampleElement(s)), Int32Array.from(samples, (_, i) => i + 1)); // biome-ignore format: one call
  const basis: PricingBasis = {
    currency: 'EUR',
    items: [sampleItem('PAINT', 'm2', '6'), sampleItem('WALL', 'm2', '90')],
    assemblies: [],
    sections: [{ id: 'walls', name: 'Walls' }, { id: 'paint', name: 'Painting' }],
    rules,
    pins: [],
    ...(expected ? { expected } : {}),
    ...(bands ? { bands } : {}),
  }; // biome-ignore format: one basis
  const findings = checkPlan(runPipeline(basis, [{ sourceId: 's', table }]), basis, { findings: [] });
  return findings.map(({ code, message, globalIds, money }) => ({ code, message, globalIds, money }));
}
const SIX = [1, 2, 3, 4, 5, 6].map((n) => wall(`w${n}`, 10));
const WALLS = rule('walls', { item: 'WALL' });

describe('a section in which something is missing', () => {
  it('is one that most of a kind have: the rest is told with what it would cost', () =>
    expect(find(SIX, [WALLS, rule('paint', { scope: not('w2') })])).toEqual([
      {
        code: 'section-missing',
        message: '1 of 6 Wall Wall type has nothing in Painting, which the others have.',
        globalIds: ['w2'],
        money: 60_00,
      },
    ]));
  it('not where fewer than four in five have it, nor where too few are alike', () => {
    expect(find(SIX, [WALLS, rule('paint', { scope: not('w2', 'w3') })])).toEqual([]);
    expect(find(SIX.slice(0, 4), [WALLS, rule('paint', { scope: not('w2') })])).toEqual([]);
  });
  it('is one that a class is expected in, told once, less what is left out there', () => {
    const paint = rule('paint', { scope: { field: 'globalId', op: 'is', value: 'w1' } });
    const out = rule('paint', { name: 'out', scope: { field: 'globalId', op: 'is', value: 'w2' }, leaveOut: 'Fair-faced', item: undefined }); // biome-ignore format: one rule
    const samples = [...SIX.slice(0, 3), wall('standard', 4, { ifcClass: 'IfcWallStandardCase' }), wall('slab', 9, { ifcClass: 'IfcSlab' })]; // biome-ignore format: one list
    expect(find(samples, [WALLS, paint, out], { expected: [{ ifcClass: 'IfcWall', sections: ['walls', 'paint'] }] })).toEqual([
      {
        code: 'section-missing',
        message: '2 elements of the class Wall have nothing in Painting, where it is expected.',
        globalIds: ['w3', 'standard'],
        // 10 + 4 m2 at the 6.00 a m2 of the one that has it.
        money: 84_00,
      },
    ]); // biome-ignore format: one call
    expect(find([wall('a', 1)], [WALLS], { expected: [{ ifcClass: 'IfcWall', sections: ['paint'] }] })[0]).toMatchObject({
      money: undefined,
      message: '1 element of the class Wall has nothing in Painting, where it is expected.',
    }); // biome-ignore format: one call
  });
  it('is none of what is left out of the project', () =>
    expect(
      find([wall('a', 1)], [rule('walls', { section: undefined, item: undefined, leaveOut: 'By others' })], {
        expected: [{ ifcClass: 'IfcWall', sections: ['paint', 'walls'] }],
      }),
    ).toEqual([]));
});

describe('a rule of a section that there is no more', () => {
  it('is told', () =>
    expect(find(SIX, [rule('roof')]).map((f) => [f.code, f.message])).toEqual([
      ['rule-without-section', 'Rule "roof" prices in a work section that there is no more: roof.'],
    ]));
});

describe('bands of the book', () => {
  const band = (of: string, usual: number, more: Partial<PriceBand> = {}): PriceBand => ({
    of,
    unit: 'm2',
    low: String(usual * 0.8),
    usual: String(usual),
    high: String(usual * 1.2),
    ...more,
  });
  const absurd = (bands: PriceBand[], samples = SIX) => find(samples, [WALLS], { bands }).filter((f) => f.code === 'price-absurd'); // biome-ignore format: one line
  it('find what lies three times beyond their edge, with the likely mistake', () => {
    // 90.00 a m2 where 9.00 is usual.
    expect(absurd([band('IfcWall', 9)])).toEqual([
      {
        code: 'price-absurd',
        message: 'Wall Wall type costs 90.00 a m2; usual are 7.20 to 10.80 (IfcWall). About 10 times: a decimal sign one place off?',
        globalIds: SIX.map((s) => s.globalId),
        money: 60 * (90_00 - 9_00),
      },
    ]); // biome-ignore format: one list
    // Dear, or cheap, but possible: 90 of at most 36, of at least 240.
    expect(absurd([band('IfcWall', 30)])).toEqual([]);
    expect(absurd([band('IfcWall', 300)])).toEqual([]);
    expect(absurd([band('IfcWall', 400)])).toHaveLength(1);
  });
  it('the element code says more than the class, another unit and another currency say nothing', () => {
    const coded = SIX.map((s) => ({ ...s, codes: ['C1010.10'] }));
    expect(absurd([band('IfcWall', 9), band('C1010', 90)], coded)).toEqual([]);
    expect(absurd([band('IfcBuiltElement', 9), band('IfcWall', 90)])).toEqual([]);
    expect(absurd([band('IfcWall', 9, { unit: 'm3' })])).toEqual([]);
    expect(absurd([band('IfcWall', 9, { currency: 'USD' })])).toEqual([]);
  });
});
