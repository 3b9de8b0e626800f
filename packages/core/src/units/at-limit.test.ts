import fc from 'fast-check';
import { exceeds, isAt, isBelow, reaches, stepsDown, stepsNear, stepsUp } from './at-limit.ts';

describe('a figure at a limit', () => {
  // What measuring leaves of 0.8 m: 3 x 0.8 / 3, 0.1 + 0.7 and the like.
  it.each([
    [0.7999999999999998, 0.8, true],
    [0.1 + 0.2, 0.3, true],
    [0.8000009, 0.8, true],
    [0.8000011, 0.8, false],
    [1e6 + 9e-4, 1e6, true],
    [1e6 + 2e-3, 1e6, false],
    [2, Number.POSITIVE_INFINITY, false],
  ])('%d at %d: %s', (figure, limit, at) => {
    expect(isAt(figure, limit)).toBe(at);
    expect(reaches(figure, limit)).toBe(at || figure > limit);
    expect(isBelow(figure, limit)).toBe(!at && figure < limit);
    expect(exceeds(figure, limit)).toBe(!at && figure > limit);
  });
  it('is judged in SI whatever the unit: 0.0009 mm is nothing, 0.0011 mm is', () => {
    expect(isAt(800.0009, 800, 0.001)).toBe(true);
    expect(isAt(800.0011, 800, 0.001)).toBe(false);
  });
  it('is below, at or above it: one of the three', () => {
    const figure = fc.double({ min: -1e9, max: 1e9, noNaN: true });
    fc.assert(
      fc.property(figure, figure, (x, y) => {
        expect([isBelow(x, y), isAt(x, y), exceeds(x, y)].filter(Boolean)).toHaveLength(1);
      }),
      { seed: 11 },
    );
  });
});

describe('started, full and nearest steps', () => {
  it('do not take one more for a last digit', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.constantFrom(0.05, 0.1, 0.3, 0.6, 2.4, 25), (n, step) => {
        // The sum of n steps, off in its last digits, is n steps either way.
        let sum = 0;
        for (let i = 0; i < n; i++) sum += step;
        expect([stepsUp(sum, step), stepsDown(sum, step), stepsNear(sum, step)]).toEqual([n, n, n]);
      }),
      { seed: 3, numRuns: 200 },
    );
  });
  it.each([
    [2.5, 0.6, 5, 4, 4],
    [2.4, 0.6, 4, 4, 4],
    [2.7, 0.6, 5, 4, 5],
    [0, 0.6, 0, 0, 0],
    [1e-4, 1, 1, 0, 0],
  ])('%d in steps of %d: %d up, %d down, %d near', (figure, step, up, down, near) =>
    expect([stepsUp(figure, step), stepsDown(figure, step), stepsNear(figure, step)]).toEqual([up, down, near]),
  );
  it('are never lost in a step as small as the tolerance', () => expect(stepsUp(2.5e-6, 1e-6)).toBe(3));
});
