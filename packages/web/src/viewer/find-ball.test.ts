import fc from 'fast-check';
import { findBall } from './find-ball.ts';

describe('the ball around points', () => {
  it('of a cube of 2 m has its middle there, and reaches its corners', () => {
    const cube = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) => [n & 1 ? 5 : 3, n & 2 ? 1 : -1, n & 4 ? 2 : 0]);
    const { centre, radius } = findBall(Float32Array.from(cube));
    expect(centre).toEqual([4, 0, 1]);
    expect(radius).toBeCloseTo(Math.sqrt(3), 6);
  });
  it('holds every point and touches the furthest', () => {
    const place = fc.tuple(...[0, 1, 2].map(() => fc.float({ min: -500, max: 500, noNaN: true })));
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 20 }), (places) => {
        const { centre, radius } = findBall(Float32Array.from(places.flat()));
        const off = places.map(([x, y, z]) => Math.hypot(x! - centre[0], y! - centre[1], z! - centre[2]));
        expect(Math.max(...off)).toBeCloseTo(radius, 3);
      }),
      { seed: 3, numRuns: 200 },
    );
  });
  it('around nothing is empty', () => {
    expect(findBall(new Float32Array(0)).radius).toBeLessThan(0);
  });
});
