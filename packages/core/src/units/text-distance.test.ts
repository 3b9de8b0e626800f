import fc from 'fast-check';
import { distanceOf } from './text-distance.ts';

it.each([
  ['kitten', 'sitting', 3],
  ['', 'abc', 3],
  ['wall', 'wall', 0],
  ['wal', 'wall', 1],
])('from %j to %j are %d steps', (a, b, steps) => expect(distanceOf(a, b)).toBe(steps));

it('is the same both ways, 0 only for the same, and no longer than the longer text', () =>
  fc.assert(
    fc.property(fc.string({ maxLength: 9 }), fc.string({ maxLength: 9 }), (a, b) => {
      const steps = distanceOf(a, b);
      expect([steps, steps === 0]).toEqual([distanceOf(b, a), a === b]);
      expect(steps).toBeLessThanOrEqual(Math.max(a.length, b.length));
    }),
    { seed: 5 },
  ));
