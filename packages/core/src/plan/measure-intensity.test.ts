import fc from 'fast-check';
import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { measureIntensity, stepQuantiles } from './measure-intensity.ts';

const TABLE = buildElementTable(
  [
    sampleElement({ globalId: 'a', quantities: { NetVolume: 2, NetSideArea: 10 } }),
    sampleElement({ globalId: 'b', quantities: { GrossVolume: 4 } }),
    sampleElement({ globalId: 'c' }),
    sampleElement({ globalId: 'd', quantities: { NetVolume: 1 } }),
  ],
  Int32Array.from([1, 2, 3, 4]),
);
const stateOf = (key: number) => ({ state: 'priced' as const, amount: key === 4 ? 0 : 100 * key });

it('intensity is cost per unit; what has no cost, or not the quantity, has none', () => {
  expect([...measureIntensity([TABLE], stateOf, 'm3')]).toEqual([[1, 50], [2, 50]]); // biome-ignore format: short
  expect([...measureIntensity([TABLE], stateOf, 'm2')]).toEqual([[1, 10]]);
  expect([...measureIntensity([TABLE], stateOf, 'each')]).toEqual([[1, 100], [2, 200], [3, 300]]); // biome-ignore format: short
  expect(measureIntensity([TABLE], stateOf, 'kg').size).toBe(0);
});

describe('steps', () => {
  const of = (...values: number[]) => new Map(values.map((v, i) => [i + 1, v]));
  it('hold about as many each, alike figures together', () => {
    expect(stepQuantiles(of(1, 1, 1, 2, 3, 9), 3).map((s) => [s.from, s.to, s.keys.length])).toEqual([[1, 1, 3], [2, 3, 2], [9, 9, 1]]); // biome-ignore format: short
    expect(stepQuantiles(of(7, 7, 7), 5).map((s) => [s.from, s.to])).toEqual([[7, 7]]);
    expect(stepQuantiles(new Map(), 5)).toEqual([]);
  });
  it('rise, do not overlap, and have every element once, over random figures', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 1, max: 7 }),
        (values, most) => {
          const steps = stepQuantiles(of(...values), most);
          expect(steps.length).toBeLessThanOrEqual(most);
          expect(steps.flatMap((s) => [...s.keys]).sort((a, b) => a - b)).toEqual(values.map((_, i) => i + 1));
          for (const [i, s] of steps.entries()) {
            for (const key of s.keys) expect(values[key - 1]).toBeGreaterThanOrEqual(s.from);
            if (i > 0) expect(s.from).toBeGreaterThan(steps[i - 1]!.to);
          }
        },
      ),
      { seed: 9, numRuns: 60 },
    ));
});
