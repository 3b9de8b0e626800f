import fc from 'fast-check';
import { explainMove, sumElementMoves } from './changes/explain-move.ts';
import { showMove } from './changes/show-move.ts';
import { buildElementTable } from './elements/element-table.ts';
import type { PricingRule } from './mapping/pricing-rule.ts';
import { type PricingBasis, runPipeline } from './pipeline.ts';
import { PipelineMemory } from './pipeline-memory.ts';
import { explainElement } from './plan/explain-element.ts';
import { GROUP_FIELDS, type GroupField } from './plan/group-labels.ts';
import { groupPlan, listGroupElements, type PlanGroup } from './plan/group-plan.ts';
import { amountToMinor } from './pricing/money.ts';
import { planToTable } from './reports/plan-table.ts';
import { sampleElement } from './testing/sample-element.ts';
import { sampleState } from './testing/sample-state.ts';

const item = (code: string, unit: string, rate: string | null, wastePercent?: number) => ({
  code,
  description: `Item ${code}`,
  kind: 'material' as const,
  unit,
  rate,
  wastePercent,
});
const basis: PricingBasis = {
  currency: 'EUR',
  items: [
    item('BRICK', 'each', '0.85', 5),
    item('MORTAR', 'bag', '6.40'),
    { ...item('MASON', 'h', '46.10'), kind: 'labour' },
    item('PAINT', 'l', '5.60', 10),
    item('RACK', 'each', null),
  ],
  assemblies: [
    {
      code: 'WALL',
      description: 'Brick wall',
      unit: 'm2',
      parameters: [{ name: 'perM2', unit: 'each/m2', value: '60 each/m2' }],
      lines: [
        { item: 'BRICK', quantity: 'Driver * perM2' },
        { item: 'MORTAR', quantity: 'Driver * 40 kg/m2 / 25 kg/bag' },
        { item: 'MASON', quantity: 'Driver / 1.25 m2/h' },
        { item: 'PAINT', quantity: '2 * Driver * 0.15 l/m2', when: 'Height > 2.5 m' },
      ],
    },
    { code: 'OUTER', description: 'Nested', unit: 'm2', lines: [{ assembly: 'WALL', quantity: 'Driver * 2' }] },
  ],
  sections: [
    { id: 'masonry', name: 'Masonry' },
    { id: 'fittings', name: 'Fittings' },
  ],
  rules: [
    {
      id: 'r1',
      name: 'Walls',
      scope: { field: 'class', op: 'is', value: 'IfcWall' },
      section: 'masonry',
      assembly: 'WALL',
      driver: 'NetSideArea',
    },
    {
      id: 'r2',
      name: 'Racks',
      scope: { field: 'type', op: 'contains', value: 'rack' },
      section: 'fittings',
      item: 'RACK',
      driver: 'Count',
    },
    { id: 'r3', name: 'Parts', scope: { field: 'part', op: 'present' }, leaveOut: 'Priced with the whole' },
  ],
  pins: [],
};
const wall = (globalId: string, area: number, height: number, storey = 'Ground floor') =>
  sampleElement({ globalId, storey, quantities: { NetSideArea: area, Height: height, Count: 1 } });
const rack = sampleElement({
  globalId: 'rack',
  ifcClass: 'IfcFurniture',
  typeName: 'Boat rack',
  quantities: { Count: 1 },
});
const part = sampleElement({ globalId: 'part', ifcClass: 'IfcMember', parent: 'x' });
const bare = sampleElement({ globalId: 'bare', ifcClass: 'IfcProxy', quantities: {} });
const tableOf = (...elements: Parameters<typeof buildElementTable>[0]) =>
  buildElementTable(
    elements,
    Int32Array.from(elements, (_, i) => i + 1),
  );
const price = (b: PricingBasis, ...elements: Parameters<typeof buildElementTable>[0]) =>
  runPipeline(b, [{ sourceId: 's', table: tableOf(...elements) }]);
const euros = (amount: number) => amount / 1e6;
const withRate = (code: string, rate: string | null): PricingBasis => ({
  ...basis,
  items: basis.items.map((i) => (i.code === code ? { ...i, rate } : i)),
});

describe('pricing a wall of 10 m2, 3 m high', () => {
  // Bricks 600 + 5 % = 630 x 0.85 = 535.50; mortar 16 bags x 6.40 = 102.40; mason 8 h x 46.10 = 368.80;
  // paint 2 x 10 x 0.15 = 3 l + 10 % = 3.3 x 5.60 = 18.48. Together 1025.18.
  const plan = price(basis, wall('w', 10, 3));
  it('gives 1025.18', () => expect(euros(plan.total)).toBeCloseTo(1025.18, 6));
  it('leaves out a line whose condition does not hold', () =>
    expect(euros(price(basis, wall('w', 10, 2.4)).total)).toBeCloseTo(1006.7, 6));
  it('follows a nested assembly: twice the wall', () => {
    const nested = { ...basis, rules: [{ ...basis.rules[0]!, assembly: 'OUTER' }] };
    expect(euros(price(nested, wall('w', 10, 3)).total)).toBeCloseTo(2050.36, 6);
  });
  it('takes a parameter from the rule', () => {
    const denser = { ...basis, rules: [{ ...basis.rules[0]!, parameters: { perM2: '120 each/m2' } }] };
    expect(euros(price(denser, wall('w', 10, 3)).total)).toBeCloseTo(1025.18 + 535.5, 6);
  });
  it('opens the amount to formula, figures, waste and rate', () => {
    const [brick] = explainElement(plan, 1)!.lines;
    expect(brick).toMatchObject({
      code: 'BRICK',
      path: ['WALL'],
      net: 600,
      wastePercent: 5,
      toBuy: 630,
      rate: 0.85,
      reason: 'Walls: class is IfcWall',
      amount: 535_500_000,
    });
    expect(brick!.steps.map((s) => s.figures)).toEqual(['10 m2', '10 m2 * 60 each/m2']);
    expect(brick!.quantities).toEqual([
      { name: 'NetSideArea', value: 10, unit: 'm2', basis: 'measured', method: 'swept', exactness: 'exact' },
    ]);
    expect(explainElement(plan, 99)).toBeNull();
  });
});

describe('what is not known', () => {
  it('an item without a rate is unknown, never 0, and its parents are incomplete', () => {
    const plan = price(basis, wall('w', 10, 3), rack);
    expect(plan).toMatchObject({ unknownLines: 1, counts: { priced: 1, unpriced: 1, partly: 0, leftOut: 0 } });
    const fittings = groupPlan(plan, ['section'], basis).groups.find((g) => g.label === 'Fittings')!;
    expect(fittings).toMatchObject({
      unknown: 1,
      minor: 0,
      lines: [{ rate: null, unknown: 1, problem: 'RACK Item RACK has no rate.' }],
    });
  });
  it('states of elements: partly priced, left out with its reason, unpriced', () => {
    const plan = price(withRate('MASON', null), wall('w', 10, 3), part, bare);
    expect(plan.counts).toEqual({ partly: 1, leftOut: 1, unpriced: 1, priced: 0 });
    expect(explainElement(plan, 2)).toMatchObject({ state: 'leftOut', leftOut: 'Priced with the whole' });
  });
  it('a missing quantity stops its line only', () => {
    const plan = price(basis, sampleElement({ globalId: 'w', quantities: { NetSideArea: 10 } }));
    expect(explainElement(plan, 1)!.lines.map((l) => [l.code, l.problem?.code ?? null])).toEqual([
      ['BRICK', null],
      ['MORTAR', null],
      ['MASON', null],
      ['PAINT', 'formula-quantity-missing'],
    ]);
    expect(plan.counts.partly).toBe(1);
  });
  it.each<[string, Partial<PricingRule>, Partial<PricingBasis>, string]>([
    ['an unknown item', { assembly: undefined, item: 'NOPE' }, {}, 'item-unknown'],
    ['an unknown assembly', { assembly: 'NOPE' }, {}, 'assembly-unknown'],
    ['a driver of the wrong dimension', { driver: 'NetVolume' }, {}, 'formula-dimension'],
    ['nothing to price with', { assembly: undefined }, {}, 'rule-without-price'],
    [
      'assemblies in a circle',
      {},
      {
        assemblies: [
          { code: 'WALL', description: '', unit: 'm2', lines: [{ assembly: 'B', quantity: 'Driver' }] },
          { code: 'B', description: '', unit: 'm2', lines: [{ assembly: 'WALL', quantity: 'Driver' }] },
        ],
      },
      'assembly-cycle',
    ],
    [
      'parameters in a circle',
      {},
      {
        assemblies: [
          {
            code: 'WALL',
            description: '',
            unit: 'm2',
            parameters: [
              { name: 'a', unit: 'm', value: 'b' },
              { name: 'b', unit: 'm', value: 'a' },
            ],
            lines: [{ item: 'BRICK', quantity: 'Driver * 1 each/m2' }],
          },
        ],
      },
      'formula-cycle',
    ],
    [
      'a negative quantity',
      {},
      {
        assemblies: [
          {
            code: 'WALL',
            description: '',
            unit: 'm2',
            lines: [{ item: 'BRICK', quantity: 'Driver * 1 each/m2 - 100' }],
          },
        ],
      },
      'quantity-negative',
    ],
    [
      'an absurd amount',
      {},
      {
        assemblies: [
          { code: 'WALL', description: '', unit: 'm2', lines: [{ item: 'BRICK', quantity: 'Driver * 1e15 each/m2' }] },
        ],
      },
      'amount-too-large',
    ],
    [
      'a condition that is none',
      {},
      {
        assemblies: [
          {
            code: 'WALL',
            description: '',
            unit: 'm2',
            lines: [{ item: 'BRICK', quantity: 'Driver * 1 each/m2', when: 'Height' }],
          },
        ],
      },
      'formula-dimension',
    ],
  ])('%s stays visible with its reason', (_, rule, more, code) => {
    const plan = price({ ...basis, ...more, rules: [{ ...basis.rules[0]!, ...rule }] }, wall('w', 10, 3));
    expect(plan.total).toBe(0);
    expect(plan.unknownLines).toBeGreaterThan(0);
    expect(explainElement(plan, 1)!.lines[0]!.problem).toMatchObject({ code, message: expect.any(String) });
  });
});

describe('mapping', () => {
  const rule = (id: string, more: Partial<PricingRule> = {}): PricingRule => ({
    id,
    name: id,
    scope: { all: [] },
    section: 'masonry',
    item: 'BRICK',
    driver: '1',
    ...more,
  });
  const decided = (rules: PricingRule[], pins: PricingBasis['pins'] = []) =>
    explainElement(price({ ...basis, rules, pins }, wall('w', 10, 3)), 1)!.lines.map((l) => l.reason.split(':')[0]);
  it('prices once per section: the first match, a rule for the type before it, a pin before all', () => {
    expect(decided([rule('one'), rule('two')])).toEqual(['one']);
    expect(decided([rule('one'), rule('two', { forType: true })])).toEqual(['two']);
    expect(
      decided(
        [rule('one'), rule('two', { forType: true })],
        [{ id: 'p', element: 1, section: 'masonry', item: 'BRICK', driver: '2' }],
      ),
    ).toEqual(['Decided for this element by hand']);
    expect(decided([rule('one', { isOff: true }), rule('two')])).toEqual(['two']);
  });
  it('sections add up', () =>
    expect(decided([rule('one'), rule('two', { section: 'fittings' })])).toEqual(['one', 'two']));
  it('a leave-out rule stops later rules in every section', () =>
    expect(decided([{ id: 'x', name: 'x', scope: { all: [] }, leaveOut: 'not ours' }, rule('one')])).toEqual([]));
});

const heights = [2.4, 3];
const anyWall = fc.record({
  area: fc.double({ min: 0.01, max: 500, noNaN: true }),
  height: fc.constantFrom(...heights),
  storey: fc.constantFrom('Ground floor', 'Upper floor', 'Roof'),
});
const wallsOf = (list: { area: number; height: number; storey: string }[]) =>
  list.map((w, i) => wall(`w${i}`, w.area, w.height, w.storey));

function checkSums(group: PlanGroup): void {
  const below = group.groups.length > 0 ? group.groups : group.lines;
  if (below.length > 0) expect(below.reduce((sum, g) => sum + g.minor, 0)).toBe(group.minor);
  for (const g of group.groups) checkSums(g);
}

describe('properties of a plan', () => {
  it('every grouping has the same total and every shown column adds up', () => {
    fc.assert(
      fc.property(
        fc.array(anyWall, { minLength: 1, maxLength: 12 }),
        fc.subarray([...GROUP_FIELDS], { maxLength: 3 }),
        (list, by) => {
          const plan = price(basis, ...wallsOf(list), rack);
          const grouped = groupPlan(plan, by as GroupField[], basis);
          expect(grouped.amount).toBe(plan.total);
          expect(grouped.minor).toBe(amountToMinor(plan.total));
          checkSums(grouped);
          const rows = planToTable(grouped, by, 2).rows;
          const amounts = rows.slice(0, -1).map((r) => (r[by.length + 8] as number | null) ?? 0);
          expect(Math.round(amounts.reduce((a, b) => a + b, 0) * 100)).toBe(grouped.minor);
        },
      ),
      { seed: 7, numRuns: 60 },
    );
  });
  it('the order of elements changes nothing', () => {
    fc.assert(
      fc.property(fc.array(anyWall, { minLength: 1, maxLength: 12 }), (list) =>
        expect(price(basis, ...wallsOf(list)).total).toBe(price(basis, ...wallsOf([...list].reverse())).total),
      ),
      { seed: 7, numRuns: 40 },
    );
  });
  it('finds the elements behind a group and a line', () => {
    const plan = price(basis, wall('a', 1, 3, 'Roof'), wall('b', 2, 3), rack);
    const grouped = groupPlan(plan, ['storey'], basis);
    const roof = grouped.groups.find((g) => g.label === 'Roof')!;
    expect(listGroupElements(plan, ['storey'], basis, roof.id)).toEqual([1]);
    expect(listGroupElements(plan, ['storey'], basis, roof.lines[0]!.id)).toEqual([1]);
  });
  it('knows its lines by item, section and group, whatever they cost', () => {
    const ids = (rates: PricingBasis) =>
      groupPlan(price(rates, wall('a', 1, 3, 'Roof'), wall('b', 2, 3), rack), ['storey'], rates).groups.flatMap((g) =>
        g.lines.map((l) => l.id),
      );
    const dearer = { ...basis, items: basis.items.map((i) => ({ ...i, rate: '77.00', wastePercent: 9 })) };
    expect(ids(dearer)).toEqual(ids(basis));
    expect(new Set(ids(basis)).size).toBe(ids(basis).length);
  });
  it('recalculated step by step equals calculated afresh, over random changes', () => {
    const memory = new PipelineMemory();
    const table = tableOf(wall('a', 10, 3), wall('b', 20, 2.4), rack, part);
    let now = basis;
    const change = fc.oneof(
      fc.record({ kind: fc.constant('rate'), at: fc.nat(4), value: fc.integer({ min: 0, max: 99999 }) }),
      fc.record({ kind: fc.constant('waste'), at: fc.nat(4), value: fc.nat(50) }),
      fc.record({ kind: fc.constant('rule'), at: fc.nat(2), value: fc.nat(1) }),
      fc.record({ kind: fc.constant('parameter'), at: fc.constant(0), value: fc.integer({ min: 1, max: 90 }) }),
    );
    for (const c of fc.sample(change, { seed: 11, numRuns: 80 })) {
      const items = now.items.map((i, n) =>
        n !== c.at
          ? i
          : c.kind === 'rate'
            ? { ...i, rate: (c.value / 100).toFixed(2) }
            : c.kind === 'waste'
              ? { ...i, wastePercent: c.value }
              : i,
      );
      const rules = now.rules.map((r, n) =>
        n !== c.at
          ? r
          : c.kind === 'rule'
            ? { ...r, isOff: c.value === 1 }
            : c.kind === 'parameter'
              ? { ...r, parameters: { perM2: `${c.value} each/m2` } }
              : r,
      );
      now = { ...now, items, rules };
      const step = runPipeline(now, [{ sourceId: 's', table }], memory);
      const afresh = runPipeline(now, [{ sourceId: 's', table }]);
      expect(step.total).toBe(afresh.total);
      expect(step.counts).toEqual(afresh.counts);
      expect(groupPlan(step, ['section'], now)).toEqual(groupPlan(afresh, ['section'], now));
    }
  });
  it('a price change measures nothing again', () => {
    const memory = new PipelineMemory();
    const sources = [{ sourceId: 's', table: tableOf(wall('a', 10, 3), wall('b', 20, 3)) }];
    runPipeline(basis, sources, memory);
    const before = memory.evaluatedCells;
    expect(before).toBe(8);
    runPipeline(withRate('BRICK', '0.90'), sources, memory);
    expect(memory.evaluatedCells).toBe(before);
  });
});

describe('the move between two plans', () => {
  const at = (b: PricingBasis, elements: Parameters<typeof buildElementTable>[0], keys: number[]) =>
    sampleState(b, buildElementTable(elements, Int32Array.from(keys)));
  const before = at(basis, [wall('a', 10, 3), wall('b', 5, 3)], [1, 2]);
  it('is extent where elements come and go', () => {
    expect(showMove(explainMove(before, at(basis, [wall('a', 10, 3)], [1])))).toMatchObject({
      move: -51259,
      causes: { extent: -51259, quantity: 0, price: 0 },
    });
  });
  it('is quantity where the same line has another quantity', () => {
    expect(showMove(explainMove(before, at(basis, [wall('a', 12, 3), wall('b', 5, 3)], [1, 2]))).causes).toEqual({
      extent: 0,
      quantity: 20504,
      mapping: 0,
      price: 0,
      factors: 0,
      rounding: 0,
    });
  });
  it('is price, factors or mapping where these moved', () => {
    const elements = [wall('a', 10, 3), wall('b', 5, 3)];
    // 945 bricks to buy, 0.10 dearer; then 5 % more waste on 900.
    expect(showMove(explainMove(before, at(withRate('BRICK', '0.95'), elements, [1, 2]))).causes).toMatchObject({
      price: 9450,
    });
    const wasteful = { ...basis, items: basis.items.map((i) => (i.code === 'BRICK' ? { ...i, wastePercent: 10 } : i)) };
    expect(showMove(explainMove(before, at(wasteful, elements, [1, 2]))).causes).toMatchObject({ factors: 3825 });
    expect(explainMove(before, at({ ...basis, rules: [] }, elements, [1, 2])).causes).toMatchObject({
      mapping: -before.plan.total,
    });
  });
  it('always adds up, as counted and as shown', () => {
    const side = fc.record({
      walls: fc.array(anyWall, { maxLength: 6 }),
      rate: fc.integer({ min: 1, max: 500 }),
      waste: fc.nat(30),
    });
    fc.assert(
      fc.property(side, side, (a, b) => {
        const plan = (s: typeof a) =>
          at(
            {
              ...withRate('BRICK', (s.rate / 100).toFixed(2)),
              items: withRate('BRICK', (s.rate / 100).toFixed(2)).items.map((i) =>
                i.code === 'MORTAR' ? { ...i, wastePercent: s.waste } : i,
              ),
            },
            wallsOf(s.walls),
            s.walls.map((_, i) => i + 1),
          );
        const move = explainMove(plan(a), plan(b));
        expect(Object.values(move.causes).reduce((x, y) => x + y, 0)).toBe(move.move);
        expect([...sumElementMoves(move).values()].reduce((x, y) => x + y.move, 0)).toBe(move.move);
        const shown = showMove(move);
        expect(Object.values(shown.causes).reduce((x, y) => x + y, 0)).toBe(shown.move);
        expect(shown.after - shown.before).toBe(shown.move);
      }),
      { seed: 3, numRuns: 60 },
    );
  });
});
