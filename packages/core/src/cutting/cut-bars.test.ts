import fc from 'fast-check';
import { type CutPlan, cutBars, type NeededPiece } from './cut-bars.ts';

const bars = (...lengths: number[]) => lengths.map((lengthM) => ({ lengthM, price: null }));
const pieces = (...list: (readonly [number, number])[]): NeededPiece[] =>
  list.map(([lengthM, count], i) => ({ lengthM, count, from: `P${i}` }));
const cut = (...of: Parameters<typeof cutBars>): CutPlan => {
  const made = cutBars(...of);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const shape = (plan: CutPlan) => plan.bars.map((b) => [b.stockM, ...b.pieces.map((p) => p.lengthM)]);

describe('cutting bars', () => {
  it('fills each bar around its longest piece', () =>
    expect(shape(cut(pieces([2.4, 3], [1.2, 2]), bars(4.8)))).toEqual([
      [4.8, 2.4, 2.4],
      [4.8, 2.4, 1.2, 1.2],
    ]));
  it('takes what each cut takes away, but none behind the last piece of a full bar', () => {
    // 3 x 1.6 m fill 4.8 m; with cuts of 4 mm only two go into a bar.
    expect(cut(pieces([1.6, 3]), bars(4.8)).bars).toHaveLength(1);
    expect(shape(cut(pieces([1.6, 3]), bars(4.8), { kerfM: 0.004 }))).toEqual([[4.8, 1.6, 1.6], [4.8, 1.6]]); // biome-ignore format: short
    expect(cut(pieces([1.598, 2], [1.596, 1]), bars(4.8), { kerfM: 0.004 }).bars).toHaveLength(1);
  });
  it('takes the sold length that costs least for what is used', () => {
    const stock = [
      { lengthM: 3, price: 9 },
      { lengthM: 5, price: 20 },
    ];
    // Two bars of 3 m cost 18.00, one of 5 m 20.00.
    expect(shape(cut(pieces([2.5, 2]), stock))).toEqual([[3, 2.5], [3, 2.5]]); // biome-ignore format: short
    expect(shape(cut(pieces([2.5, 2]), [{ lengthM: 3, price: 12 }, stock[1]!]))).toEqual([[5, 2.5, 2.5]]);
  });
  it('beats first-fit-decreasing where that leaves more over', () => {
    // 6.0 m: 3.5 with 2.5, twice; first fit takes 3.5 + 2.4 first and needs a third bar.
    const plan = cut(pieces([3.5, 2], [2.5, 1], [2.4, 1], [2.6, 1], [1.0, 1]), bars(6));
    expect(plan.bars).toHaveLength(3);
    expect(plan.stockM).toBe(plan.lowerBoundM);
  });
  it('keeps offcuts that are long enough, and counts only the rest as waste', () => {
    const plan = cut(pieces([3.2, 1], [4.5, 1]), bars(5), { keepOverM: 1 });
    expect(plan.bars.map((b) => [b.offcutM, b.isKept])).toEqual([[0.5, false], [1.8, true]]); // biome-ignore format: short
    expect([plan.stockM, plan.piecesM, plan.keptM, plan.wasteM]).toEqual([10, 7.7, 1.8, 0.5]);
  });
  it('joins pieces longer than the longest bar where that is allowed, else refuses them by name', () => {
    const plan = cut(pieces([13, 1]), bars(6), { isJoined: true });
    expect([plan.joints, plan.piecesM, plan.stockM]).toEqual([2, 13, 18]);
    expect(cutBars([{ lengthM: 6.001, count: 1, from: 'Rafter 7' }], bars(4, 6))).toMatchObject({
      ok: false,
      problem: { code: 'piece-too-long', message: expect.stringContaining('6.001 m for Rafter 7') },
    });
    expect(cutBars(pieces([1, 1]), [])).toMatchObject({ ok: false, problem: { code: 'stock-missing' } });
    expect(cutBars(pieces([0, 1]), bars(1))).toMatchObject({ ok: false, problem: { code: 'piece-not-positive' } });
    expect(cutBars(pieces([0.01, 1e9]), bars(1))).toMatchObject({ ok: false, problem: { code: 'pieces-too-many' } });
  });
  it('says for each piece what it is for', () =>
    expect(
      cut([{ lengthM: 2, count: 2, from: 'Wall 1' }, { lengthM: 2, count: 1, from: 'Wall 2' }], bars(6)).bars[0]!.pieces.map((p) => p.from), // biome-ignore format: short
    ).toEqual(['Wall 1', 'Wall 1', 'Wall 2']));

  it('cuts every piece once, fills no bar over, and needs no less than the bound, over random lists', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 100, max: 5900 }), fc.integer({ min: 1, max: 6 })), { minLength: 1, maxLength: 25 }),
        fc.uniqueArray(fc.constantFrom(5900, 6000, 7200, 4800, 3600), { minLength: 1, maxLength: 3 }),
        fc.constantFrom(0, 0.003),
        (list, stock, kerfM) => {
          const lengths = [...stock, 5900].map((mm) => mm / 1000);
          const plan = cut(pieces(...list.map(([mm, n]) => [mm / 1000, n] as const)), bars(...lengths), { kerfM });
          const wanted = list.flatMap(([mm, n]) => new Array<number>(n).fill(mm)).sort((a, b) => a - b);
          const got = plan.bars.flatMap((b) => b.pieces.map((p) => Math.round(p.lengthM * 1000))).sort((a, b) => a - b);
          expect(got).toEqual(wanted);
          for (const { stockM, pieces: own } of plan.bars) {
            const used = own.reduce((m, p) => m + p.lengthM, 0) + kerfM * (own.length - 1);
            expect(used).toBeLessThanOrEqual(stockM + 1e-9);
          }
          expect(plan.stockM).toBeGreaterThanOrEqual(plan.lowerBoundM - 1e-9);
          expect(plan.stockM - plan.piecesM - plan.keptM).toBeCloseTo(plan.wasteM, 9);
        },
      ),
      { seed: 16, numRuns: 100 },
    )); // biome-ignore format: short
});
