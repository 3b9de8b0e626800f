import fc from 'fast-check';
import { takeFromLengths } from '../cells/sold-lengths.ts';
import { explainMove } from '../changes/explain-move.ts';
import { showMove } from '../changes/show-move.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { explainElement } from '../plan/explain-element.ts';
import { GROUP_FIELDS } from '../plan/group-labels.ts';
import { groupPlan, listGroupElements, type PlanGroup } from '../plan/group-plan.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { sampleState } from '../testing/sample-state.ts';

const walls = (...sizes: [number, number, string?][]) =>
  buildElementTable(
    sizes.map(([area, height, storey], i) =>
      sampleElement({
        globalId: `w${i}`,
        storey: storey ?? 'Ground floor',
        quantities: { NetSideArea: area, Height: height },
      }),
    ),
    Int32Array.from(sizes.map((_, i) => i + 1)),
  );
const basisOf = (
  more: Partial<PricingBasis['items'][number]>,
  line: PricingBasis['assemblies'][number]['lines'][number],
) => sampleBasis([sampleItem('X', 'm', '2.00', { supplier: 'Yard', ...more })], [line]);
const plan = (basis: PricingBasis, table: ReturnType<typeof walls>) => runPipeline(basis, [{ sourceId: 'm', table }]);

describe('whole packs', () => {
  // 0.8 kg a m2, in bags of 25 kg at 30.00 a bag.
  const basis = basisOf(
    { unit: 'kg', rate: null, wastePercent: 5, soldAs: { pack: 25, packPrice: '30.00' } },
    { item: 'X', quantity: 'Driver * 0.8 kg/m2' },
  );
  it('are made up of the sum, never per element: 31.5 kg are two bags, 18.5 kg left over', () => {
    const priced = plan(basis, walls([12.5, 2.5], [25, 2.5]));
    // 10 kg and 20 kg net, 31.5 kg with waste; 1.20 a kg.
    expect(priced.purchases).toMatchObject([
      { net: 30, packs: 2, toBuy: 50, unknown: 0, lines: 37.8e6, surplusAmount: 22.2e6 },
    ]);
    expect(priced.purchases[0]!.waste).toBeCloseTo(1.5, 12);
    expect(priced.purchases[0]!.surplus).toBeCloseTo(18.5, 12);
    // Two bags at 30.00; the elements have their own shares.
    expect(priced.total).toBe(60e6);
    expect([1, 2].map((k) => explainElement(priced, k)!.amount)).toEqual([12.6e6, 25.2e6]);
  });
  it('are made up for each storey where the item says so', () => {
    const perStorey = {
      ...basis,
      items: [{ ...basis.items[0]!, soldAs: { pack: 25, packPrice: '30.00', perStorey: true } }],
    };
    const priced = plan(perStorey, walls([12.5, 2.5], [25, 2.5, 'Upper floor']));
    expect(priced.purchases.map((p) => [p.storey, p.packs])).toEqual([
      ['Ground floor', 1],
      ['Upper floor', 1],
    ]);
    expect(plan(perStorey, walls([12.5, 2.5], [31.25, 2.5, 'Upper floor'])).total).toBe(90e6);
  });
  it('are not one more for a figure that is whole but for rounding', () =>
    expect(
      plan(
        { ...basis, items: [{ ...basis.items[0]!, wastePercent: 0 }] },
        walls([31.25 * 0.1, 1], [31.25 * 0.2, 1], [31.25 * 0.7, 1]),
      ).purchases[0]!.packs,
    ).toBe(1));
  it('leave a line of their own that no grouping loses', () => {
    const priced = plan(basis, walls([12.5, 2.5], [25, 2.5]));
    for (const field of GROUP_FIELDS) {
      const grouped = groupPlan(priced, [field], basis);
      expect(grouped.minor).toBe(6000);
      const sum = (g: PlanGroup): number =>
        g.groups.reduce((n, c) => n + sum(c), 0) + g.lines.reduce((n, l) => n + l.minor, 0);
      expect(sum(grouped)).toBe(6000);
    }
    const bySection = groupPlan(priced, ['section'], basis);
    expect(bySection.groups.map((g) => [g.label, g.minor])).toEqual([
      ['S', 3780],
      ['Packs and rounding', 2220],
    ]);
    expect(groupPlan(priced, ['supplier'], basis).groups.map((g) => [g.label, g.minor])).toEqual([['Yard', 6000]]);
    const { id } = bySection.groups[1]!.lines[0]!;
    expect(listGroupElements(priced, ['section'], basis, id)).toEqual([1, 2]);
  });
  it('move the total by a cause of their own', () => {
    const before = sampleState(basis, walls([12.5, 2.5], [25, 2.5]));
    // 40 kg with waste more: 42 + 31.5 = 73.5 kg, three bags.
    const after = sampleState(basis, walls([12.5, 2.5], [75, 2.5]));
    expect(showMove(explainMove(before, after))).toMatchObject({
      move: 3000,
      causes: { quantity: 5040, rounding: -2040 },
    });
  });
  it('of a pack that holds nothing are refused', () => {
    const empty = plan(
      { ...basis, items: [{ ...basis.items[0]!, soldAs: { pack: 0, packPrice: '30.00' } }] },
      walls([1, 1]),
    );
    expect(explainElement(empty, 1)!.lines[0]!.problem).toMatchObject({ code: 'pack-size-zero' });
  });
  it('cost as much as the packs whatever the elements', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 100_000 }), { minLength: 1, maxLength: 20 }), (areas) => {
        const priced = plan(basis, walls(...areas.map((a): [number, number] => [a / 1000, 1])));
        const bags = Math.ceil(((areas.reduce((a, b) => a + b, 0) / 1000) * 0.8 * 1.05) / 25 - 1e-9);
        expect(priced.total).toBe(bags * 30e6);
        const reversed = plan(basis, walls(...areas.map((a): [number, number] => [a / 1000, 1]).reverse()));
        expect(reversed.total).toBe(priced.total);
      }),
      { seed: 5, numRuns: 50 },
    );
  });
});

describe('sold lengths', () => {
  const lengths = [2.4, 3, 4.2];
  it.each([
    [10, 2.4, [10 / 2.4, 0, 0], 0],
    [10, 2.5, [0, 4, 0], 0],
    [10, 5, [2, 0, 2], 2],
    [8.4, 8.4, [0, 0, 2], 1],
    [13, 13, [1, 0, 3], 3],
  ])('%d m in pieces of %d m', (net, piece, counts, splices) => {
    const taken = takeFromLengths(net, piece, lengths);
    taken.counts.forEach((n, i) => void expect(n).toBeCloseTo(counts[i]!, 9));
    expect(taken.splices).toBeCloseTo(splices, 9);
  });
  const basis = basisOf(
    { soldAs: { lengths: [4.2, 2.4, 3] } },
    { item: 'X', quantity: 'Driver / 0.5 m', piece: 'Height' },
  );
  it('are taken by the piece, counted over the project, and splices are told', () => {
    // 10 m2 / 0.5 = 20 m in pieces of 2.5 m: 8 of 3 m; 5 m2: 10 m in pieces of 5 m: 2 of 4.2 and 2 of 2.4, two splices.
    const priced = plan(basis, walls([10, 2.5], [5, 5]));
    expect(priced.purchases).toMatchObject([
      {
        net: 30,
        packs: 12,
        splices: 2,
        lengths: [
          { length: 2.4, pieces: 2 },
          { length: 3, pieces: 8 },
          { length: 4.2, pieces: 2 },
        ],
      },
    ]);
    // 8 x 3 + 2 x 4.2 + 2 x 2.4 = 37.2 m at 2.00
    expect(priced.purchases[0]!.toBuy).toBeCloseTo(37.2, 12);
    expect(priced.total).toBe(74.4e6);
  });
  it('of a run without pieces come in the longest', () => {
    const run = basisOf({ soldAs: { lengths } }, { item: 'X', quantity: 'Driver / 0.5 m' });
    expect(plan(run, walls([10, 2.5])).purchases).toMatchObject([{ packs: 5, lengths: [{ length: 4.2, pieces: 5 }] }]);
  });
  it('with prices of their own cost what the pieces cost; lines have the rate of the longest', () => {
    const priced = plan(
      basisOf(
        { soldAs: { lengths: [4.2, 2.4, 3], lengthPrices: ['10.50', '4.80', '6.90'] } },
        { item: 'X', quantity: 'Driver / 0.5 m', piece: 'Height' },
      ),
      walls([10, 2.5], [5, 5]),
    );
    // 8 of 3 m at 6.90, 2 of 4.2 m at 10.50, 2 of 2.4 m at 4.80: 55.20 + 21.00 + 9.60 = 85.80
    expect(priced.total).toBe(85.8e6);
    // 10.50 / 4.2 = 2.50 a metre: 30 m are 75.00, and 10.80 more for the pieces that are bought.
    expect(priced.purchases[0]).toMatchObject({ lines: 75e6, surplusAmount: 10.8e6 });
  });
  it('with prices are moved by factors like any rate', () => {
    const sold = basisOf(
      { soldAs: { lengths: [3], lengthPrices: ['6.00'] } },
      { item: 'X', quantity: 'Driver / 0.5 m', piece: 'Height' },
    );
    // 1 m2: 2 m in one piece of 3 m at 6.00 x 1.1
    const factors = [{ name: 'Region', percent: 10 }];
    expect(plan({ ...sold, factors }, walls([1, 2])).total).toBe(6.6e6);
  });
  it('of a piece of no length are refused', () => {
    const none = basisOf({ soldAs: { lengths } }, { item: 'X', quantity: 'Driver / 0.5 m', piece: 'Height - Height' });
    expect(explainElement(plan(none, walls([1, 1])), 1)!.lines[0]!.problem).toMatchObject({
      code: 'piece-not-positive',
    });
  });
});

describe('sums of packs, waste and factors together', () => {
  it('are the same in any order of elements and rules, under any grouping', () => {
    const items = [
      sampleItem('BAG', 'kg', null, { wastePercent: 7, soldAs: { pack: 25, packPrice: '31.37' } }),
      sampleItem('BAR', 'm', '2.43', { wastePercent: 3, soldAs: { lengths: [2.4, 3.6, 6] } }),
      sampleItem('HOUR', 'h', '47.11', { kind: 'labour' }),
    ];
    const lines = [
      { item: 'BAG', quantity: 'Driver * 0.83 kg/m2' },
      { item: 'BAR', quantity: 'Driver / 0.47 m', piece: 'Height' },
      { item: 'HOUR', consumption: '3.7 m2 per hour', crew: 2 },
    ];
    const factors = [
      { name: 'Region', percent: 3.5 },
      { name: 'Night', percent: 12, kinds: ['labour' as const] },
    ];
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 90_000 }), fc.integer({ min: 200, max: 9_000 })), {
          minLength: 1,
          maxLength: 25,
        }),
        fc.constantFrom(...GROUP_FIELDS),
        (sizes, field) => {
          const figures = sizes.map(([a, h]): [number, number, string] => [a / 1000, h / 1000, `Storey ${a % 3}`]);
          const basis = sampleBasis(items, lines, { factors });
          const priced = plan(basis, walls(...figures));
          const turned = plan({ ...basis, items: [...items].reverse() }, walls(...[...figures].reverse()));
          expect(turned.total).toBe(priced.total);
          const grouped = groupPlan(priced, [field, 'kind'], basis);
          const sum = (g: PlanGroup): number =>
            g.groups.reduce((n, c) => n + sum(c), 0) + g.lines.reduce((n, l) => n + l.minor, 0);
          expect(sum(grouped)).toBe(grouped.minor);
          expect(grouped.minor).toBe(groupPlan(priced, [], basis).minor);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('what is cut by a list', () => {
  // Studs of each wall's height, two a wall; bars of 3 m and 5 m at 2.00 a metre.
  const basis = basisOf(
    { rate: '2.00', wastePercent: 10, soldAs: { lengths: [3, 5], cut: { kerf: 0.01 } } },
    { item: 'X', quantity: '2 * Height', piece: 'Height' },
  );
  it('is bought as the bars of that list, whatever single pieces would take; its waste is that of the list', () => {
    const priced = plan(basis, walls([1, 2.4], [1, 2.59]));
    // 2.59 + 2.4 and the cut make 5 m, twice: 10 m. Piece by piece it would be four bars of 3 m.
    expect(priced.purchases).toMatchObject([
      { waste: 0, toBuy: 10, packs: 2, lengths: [{ length: 5, pieces: 2 }], cutting: { lowerBound: expect.closeTo(9.98, 9), problem: null } },
    ]); // biome-ignore format: short
    expect(priced.purchases[0]!.net).toBeCloseTo(9.98, 9);
    expect(priced.total).toBe(20e6);
  });
  it('by length prices costs what its bars cost', () => {
    const byPiece = { ...basis, items: [{ ...basis.items[0]!, rate: null, soldAs: { lengths: [3, 5], lengthPrices: ['7.00', '9.50'], cut: {} } }] }; // biome-ignore format: short
    // Four pieces of 2.4 m: two bars of 5 m at 9.50.
    expect(plan(byPiece, walls([1, 2.4], [1, 2.4])).total).toBe(19e6);
  });
  it('says which piece is longer than any bar where none may be joined, and buys it joined all the same', () => {
    const strict = { ...basis, items: [{ ...basis.items[0]!, soldAs: { lengths: [3], cut: { joined: false } } }] };
    const [bought] = plan(strict, walls([1, 4])).purchases;
    expect(bought!.cutting!.problem).toMatch(/4\.000 m for X is longer than the longest bar, 3\.000 m/);
    // Two pieces of 4 m: two whole bars, and 1 m + 1 m from a third.
    expect([bought!.lengths, bought!.splices]).toEqual([[{ length: 3, pieces: 3 }], 2]);
  });
  it('has a shorter last piece where a count is not whole: 2.5 pieces of 2 m are 2, 2 and 1 m', () => {
    const half = basisOf(
      { soldAs: { lengths: [5], cut: {} } },
      { item: 'X', quantity: '2.5 * Height', piece: 'Height' },
    );
    expect(plan(half, walls([1, 2])).purchases).toMatchObject([{ net: 5, toBuy: 5, packs: 1 }]);
  });
  it('older items that are sold in lengths are bought as before: a length for each piece', () => {
    const plain = basisOf({ soldAs: { lengths: [3, 5] } }, { item: 'X', quantity: '2 * Height', piece: 'Height' });
    expect(plan(plain, walls([1, 2.4], [1, 2.59])).purchases).toMatchObject([{ lengths: [{ length: 3, pieces: 4 }], cutting: null }]); // biome-ignore format: short
  });
});
