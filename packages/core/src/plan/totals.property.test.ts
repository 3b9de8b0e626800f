import fc from 'fast-check';
import { compileScale } from '../book/scale.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { runPipeline } from '../pipeline.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { GROUP_FIELDS } from './group-labels.ts';
import { groupPlan, type PlanGroup } from './group-plan.ts';

/** A wall as it is drawn at random: its area in thousandths of a m2. */
interface RandomWall {
  readonly id: number;
  readonly area: number;
  readonly storey: string;
  readonly type: string;
}
const randomWalls = fc
  .array(
    fc.record({
      area: fc.integer({ min: 1, max: 9_999_999 }),
      storey: fc.constantFrom('Ground floor', 'Upper floor', 'Roof'),
      type: fc.constantFrom('A', 'B', 'C', 'D'),
    }),
    { minLength: 1, maxLength: 25 },
  )
  .map((list) => list.map((w, id): RandomWall => ({ id, ...w })));

const tableOf = (walls: readonly RandomWall[]) =>
  buildElementTable(
    walls.map((w) =>
      sampleElement({
        globalId: `w${w.id}`,
        storey: w.storey,
        typeName: w.type,
        quantities: { NetSideArea: w.area / 1000 },
      }),
    ),
    Int32Array.from(walls.map((w) => w.id + 1)),
  );

/** Rates in cents and wastes in whole per cent of up to four items, all of them lines of one assembly. */
const randomItems = fc.array(
  fc.record({ rate: fc.integer({ min: 1, max: 99_999 }), waste: fc.integer({ min: 0, max: 40 }) }),
  { minLength: 1, maxLength: 4 },
);
const centsText = (cents: number) => `${Math.floor(cents / 100)}.${String(cents % 100).padStart(2, '0')}`;

/** Minor units of all lines below a group, and whether every group is what it holds. */
function addUp(group: PlanGroup): { readonly minor: number; readonly isWhole: boolean } {
  const parts = group.groups.map(addUp);
  const minor = [...group.lines.map((l) => l.minor), ...parts.map((p) => p.minor)].reduce((a, b) => a + b, 0);
  return { minor, isWhole: minor === group.minor && parts.every((p) => p.isWhole) };
}

describe('totals, over random buildings', () => {
  it('are the exact sum, whatever the order of the elements and the sources', () =>
    fc.assert(
      fc.property(
        randomWalls.chain((walls) =>
          fc.tuple(fc.constant(walls), fc.shuffledSubarray(walls, { minLength: walls.length }), fc.nat(walls.length)),
        ),
        randomItems,
        ([walls, shuffled, cut], items) => {
          const basis = sampleBasis(
            items.map((i, n) => sampleItem(`I${n}`, 'm2', centsText(i.rate), { wastePercent: i.waste })),
            items.map((_, n) => ({ item: `I${n}`, quantity: 'Driver' })),
          );
          const total = (...tables: ReturnType<typeof tableOf>[]) =>
            runPipeline(basis, tables.map((table, i) => ({ sourceId: `s${i}`, table }))).total; // biome-ignore format: short
          // By whole numbers: area in 1/1000, rate in 1/100, waste in 1/100; an amount is counted in 1/1,000,000.
          const exact = walls.reduce(
            (sum, w) =>
              items.reduce((s, i) => s + roundHalf(BigInt(w.area * i.rate) * BigInt(100 + i.waste), 10n), sum),
            0n,
          );
          const whole = total(tableOf(walls));
          // A figure that lies just between two counted ones may fall to either: one of 1/1,000,000 for each amount at most.
          expect(Math.abs(whole - Number(exact))).toBeLessThanOrEqual(walls.length * items.length);
          expect(total(tableOf(shuffled))).toBe(whole);
          expect(total(tableOf(shuffled.slice(cut)), tableOf(shuffled.slice(0, cut)))).toBe(whole);
        },
      ),
      { seed: 41, numRuns: 60 },
    ));

  it('are the same under every grouping, and every column adds up as it is shown', () =>
    fc.assert(
      fc.property(
        randomWalls,
        randomItems,
        fc.shuffledSubarray([...GROUP_FIELDS], { maxLength: 3 }),
        (walls, items, by) => {
          const basis = sampleBasis(
            items.map((i, n) =>
              sampleItem(`I${n}`, 'm2', centsText(i.rate), {
                wastePercent: i.waste,
                soldAs: n === 0 ? { pack: 7 } : undefined,
              }),
            ),
            items.map((_, n) => ({ item: `I${n}`, quantity: 'Driver' })),
          );
          const plan = runPipeline(basis, [{ sourceId: 's', table: tableOf(walls) }]);
          const grouped = groupPlan(plan, by, basis);
          expect(grouped.minor).toBe(Math.round(plan.total / 10_000));
          expect(addUp(grouped)).toEqual({ minor: grouped.minor, isWhole: true });
        },
      ),
      { seed: 42, numRuns: 60 },
    ));

  it('of packs are whole packs of the sum', () =>
    fc.assert(
      fc.property(
        randomWalls,
        fc.integer({ min: 1, max: 5000 }),
        fc.integer({ min: 1, max: 9999 }),
        (walls, pack, price) => {
          // A pack holds so many tenths of a m2 and costs so many cents.
          const item = sampleItem('P', 'm2', null, { soldAs: { pack: pack / 10, packPrice: centsText(price) } });
          const plan = runPipeline(sampleBasis([item], [{ item: 'P', quantity: 'Driver' }]), [
            { sourceId: 's', table: tableOf(walls) },
          ]);
          const sum = walls.reduce((s, w) => s + BigInt(w.area), 0n);
          const size = BigInt(pack) * 100n;
          const packs = (sum + size - 1n) / size;
          expect(plan.purchases[0]!.packs).toBe(Number(packs));
          expect(Math.round(plan.total / 10_000)).toBe(Number(packs) * price);
        },
      ),
      { seed: 43, numRuns: 100 },
    ));
});

const roundHalf = (value: bigint, by: bigint) => (value + by / 2n) / by;

describe('scales, over random breaks', () => {
  /** Breaks in tenths, rising, with a value from each on. */
  const randomScale = fc
    .tuple(
      fc.uniqueArray(fc.integer({ min: 1, max: 500 }), { minLength: 1, maxLength: 6 }),
      fc.array(fc.integer({ min: 0, max: 1000 }), { minLength: 7, maxLength: 7 }),
    )
    .map(([breaks, values]) => {
      const rising = breaks.sort((a, b) => a - b);
      return [0, ...rising].map((from, i) => ({ from, to: rising[i] ?? null, value: values[i]! }));
    });
  const build = (rows: ReturnType<typeof valuesOf>, isSliced: boolean) => {
    const made = compileScale({
      name: 'S',
      unit: 'EUR/m3',
      isSliced,
      keys: [{ name: 'V', unit: 'm3' }],
      rows: rows.map((r) => ({
        at: [{ from: r.from / 10, ...(r.to === null ? {} : { to: r.to / 10 }) }],
        value: r.value,
      })),
    });
    if (!made.ok) throw new Error(made.problem.message);
    return (tenths: number) => made.value.find([tenths / 10]) as number;
  };
  const valuesOf = (rows: { from: number; to: number | null; value: number }[]) => rows;

  it('a figure at a break is in the range that begins there, one a hair below it too, one a step below it is not', () =>
    fc.assert(
      fc.property(randomScale, (rows) => {
        const find = build(rows, false);
        for (const { from, value } of rows) {
          expect(find(from)).toBe(value);
          expect(find(from * (1 - 1e-15))).toBe(value);
        }
        for (const [i, { to, value }] of rows.entries())
          if (to !== null) expect([i, find(to - 0.1)]).toEqual([i, value]);
      }),
      { seed: 44 },
    ));

  it('in slices, the whole is the sum of the slices tenth by tenth', () =>
    fc.assert(
      fc.property(randomScale, fc.integer({ min: 1, max: 900 }), (rows, tenths) => {
        let sum = 0;
        for (let t = 0; t < tenths; t++) sum += rows.find((r) => t >= r.from && (r.to === null || t < r.to))!.value;
        expect(build(rows, true)(tenths) * tenths).toBeCloseTo(sum, 6);
      }),
      { seed: 45 },
    ));
});
