import fc from 'fast-check';
import { addToSums, readSum, startSums } from './exact-sums.ts';

const sumUp = (values: readonly number[]) => {
  const sums = startSums(1);
  for (const v of values) addToSums(sums, 0, v);
  return readSum(sums, 0);
};

/** Quantities as they come: metres to a tenth of a millimetre and unrounded results of measuring, over nine orders of size. */
const figure = fc.oneof(
  fc.integer({ min: -1e9, max: 1e9 }).map((v) => v / 10_000),
  fc.double({ min: 1e-5, max: 1e4, noNaN: true }),
);

describe('exact sums', () => {
  it('read the same in whatever order the figures come', () =>
    fc.assert(
      fc.property(
        fc
          .array(figure, { minLength: 1, maxLength: 80 })
          .chain((list) => fc.tuple(fc.constant(list), fc.shuffledSubarray(list, { minLength: list.length }))),
        ([list, shuffled]) => expect(sumUp(shuffled)).toBe(sumUp(list)),
      ),
      { seed: 51, numRuns: 500 },
    ));
  it('are the sum of whole numbers to the last digit', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -1e15, max: 1e15 }), { minLength: 1, maxLength: 8 }), (list) => {
        const exact = list.reduce((sum, v) => sum + BigInt(v), 0n);
        expect(sumUp(list)).toBe(Number(exact));
      }),
      { seed: 52 },
    ));
  it('keep what a plain sum loses', () => {
    // 1e16 + 1 is 1e16 in a figure; the two ones are there when the large one has gone.
    expect(sumUp([1e16, 1, 1, -1e16])).toBe(2);
    expect(sumUp([0.1, 0.2, 0.3, -0.6])).toBeCloseTo(0, 16);
  });
  it('have no sum while nothing is known; what is unknown hides nothing', () => {
    expect(sumUp([])).toBeNull();
    expect(sumUp([Number.NaN])).toBeNull();
    expect(sumUp([Number.NaN, 3, Number.NaN, 4])).toBe(7);
    expect(sumUp([0])).toBe(0);
  });
});
