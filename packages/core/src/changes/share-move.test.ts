import fc from 'fast-check';
import { shareInProportion, shareMove } from './share-move.ts';

/** The average over all orders, one order after the other. */
function byOrders(inputs: number, values: readonly number[]): number[] {
  const sums = Array(inputs).fill(0);
  let orders = 0;
  const go = (left: number[], mask: number, steps: readonly (readonly [number, number])[]) => {
    if (left.length === 0) {
      orders++;
      for (const [i, step] of steps) sums[i] += step;
      return;
    }
    for (const i of left)
      go(left.filter((x) => x !== i), mask | (1 << i), [...steps, [i, values[mask | (1 << i)]! - values[mask]!]]); // biome-ignore format: one step
  };
  go([...Array(inputs).keys()], 0, []);
  return sums.map((s) => s / orders);
}

const game = fc.integer({ min: 1, max: 5 }).chain((inputs) => fc.tuple(fc.constant(inputs), fc.array(fc.integer({ min: -1e9, max: 1e9 }), { minLength: 2 ** inputs, maxLength: 2 ** inputs }))); // biome-ignore format: one chain

describe('a move shared out among the inputs that made it', () => {
  it('by hand: 10 m2 at 20 > 12 m2 at 25', () =>
    // The quantity first: 240 - 200 = 40, then the rate 60; the rate first: 50, then the quantity 50. So 45 and 55.
    expect(shareMove(2, (m) => [200, 240, 250, 300][m]!)).toEqual([45, 55]));
  it('an odd unit goes to one that acted, and the other way round back from it', () => {
    expect(shareMove(2, (m) => [0, 0, 0, 1][m]!)).toEqual([1, 0]);
    expect(shareMove(2, (m) => [1, 0, 0, 0][m]!)).toEqual([-1, 0]);
    expect(shareMove(3, (m) => [0, 0, 0, 5, 0, 0, 0, 5][m]!)).toEqual([3, 2, 0]);
  });
  it('is the average over all orders within a unit, adds up, and negates when old and new are swapped', () => {
    fc.assert(
      fc.property(game, ([inputs, values]) => {
        const all = values.length - 1;
        const shares = shareMove(inputs, (m) => values[m]!);
        expect(shares.reduce((s, x) => s + x, 0)).toBe(values[all]! - values[0]!);
        byOrders(inputs, values).forEach((x, i) => {
          expect(Math.abs(shares[i]! - x)).toBeLessThan(inputs);
        });
        const back = shareMove(inputs, (m) => values[all ^ m]!);
        expect(back).toEqual(shares.map((s) => -s + 0));
      }),
      { seed: 1, numRuns: 400 },
    );
  });
  it('is exact beyond what a product of numbers holds', () => {
    const values = [0, 4e15 + 1, 3, 8e15 + 5];
    const shares = shareMove(2, (m) => values[m]!);
    expect(shares[0]! + shares[1]!).toBe(values[3]);
    expect(shareMove(2, (m) => values[3 ^ m]!)).toEqual(shares.map((s) => -s));
  });
});

describe('a part shared out like its base', () => {
  it('adds up and mirrors, parts of either sign', () => {
    expect(shareInProportion(10, [3, -1, 0], 2)).toEqual([15, -5, 0]);
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -1e6, max: 1e6 }), { minLength: 1, maxLength: 6 }).filter((w) => w.reduce((s, x) => s + x, 0) !== 0), // biome-ignore format: one list
        fc.integer({ min: -1e9, max: 1e9 }),
        (weights, amount) => {
          const whole = weights.reduce((s, x) => s + x, 0);
          const shares = shareInProportion(amount, weights, whole);
          expect(shares.reduce((s, x) => s + x, 0)).toBe(amount);
          weights.forEach((w, i) => {
            if (w === 0) expect(shares[i]).toBe(0);
          });
          const back = shareInProportion(-amount, weights.map((w) => -w), -whole); // biome-ignore format: one call
          expect(back).toEqual(shares.map((s) => -s + 0));
        },
      ),
      { seed: 2, numRuns: 400 },
    );
  });
});
