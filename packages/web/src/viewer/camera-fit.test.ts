import { dot, type Vector3 } from '@tally/core';
import fc from 'fast-check';
import { dropFarBoxes, fitCamera, type ViewBox } from './camera-fit.ts';

const alongY: Vector3 = [0, -1, 0];
const camera = (aspect: number) => ({ fov: 90, aspect, up: [0, 0, 1] as const });
const around = (x: number, y: number, z: number): ViewBox => [-x / 2, -y / 2, -z / 2, x / 2, y / 2, z / 2];

describe('the place from which a camera sees boxes', () => {
  test('an opening of 90° sees half the height at that distance from the near face', () => {
    // Half of 6 m is seen 3 m before the face, which is 2 m before the centre.
    const place = fitCamera([around(4, 4, 6)], alongY, camera(1))!;
    expect(place.position).toEqual([expect.closeTo(0, 9), expect.closeTo(-5, 9), expect.closeTo(0, 9)]);
    expect(place.target).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9), expect.closeTo(0, 9)]);
  });
  test('a narrow picture of something wide needs more room', () => {
    // Half of 20 m is 10 m; at half the width as the height that is 20 m before the face, 2 m before the centre.
    expect(fitCamera([around(20, 4, 6)], alongY, camera(0.5))!.position[1]).toBeCloseTo(-22, 9);
  });
  test('something small stays at arm’s length; nothing has no place', () => {
    expect(fitCamera([around(0.02, 0.02, 0.02)], alongY, camera(1))!.position[1]).toBeCloseTo(-1, 9);
    expect(fitCamera([], alongY, camera(1))).toBeNull();
  });
  test('in any direction every corner lies within the picture, and two opposite edges are touched', () => {
    const figure = fc.double({ min: -40, max: 40, noNaN: true });
    const box = fc.tuple(figure, figure, figure, fc.tuple(figure, figure, figure)).map(([x, y, z, [a, b, c]]): ViewBox => [x, y, z, x + Math.abs(a) + 2, y + Math.abs(b) + 2, z + Math.abs(c) + 2]); // biome-ignore format: one box
    fc.assert(
      fc.property(
        fc.array(box, { minLength: 1, maxLength: 5 }),
        figure,
        figure,
        fc.double({ min: 0.4, max: 3, noNaN: true }),
        (boxes, a, b, aspect) => {
          // biome-ignore format: one property
          fc.pre(Math.hypot(a, b) > 1);
          const length = Math.hypot(a, b, 20);
          const direction: Vector3 = [a / length, b / length, 20 / length];
          const { position, target } = fitCamera(boxes, direction, { fov: 40, aspect, up: [0, 0, 1] })!;
          // Right and up of the picture by another way: right is level and square to the direction.
          const right: Vector3 = [-b / Math.hypot(a, b), a / Math.hypot(a, b), 0];
          const up: Vector3 = [
            direction[1] * right[2] - direction[2] * right[1],
            direction[2] * right[0] - direction[0] * right[2],
            direction[0] * right[1] - direction[1] * right[0],
          ];
          const tan = Math.tan((20 * Math.PI) / 180);
          const seen = boxes.flatMap((corner) =>
            [0, 1, 2, 3, 4, 5, 6, 7].map((n) => {
              const from: Vector3 = [
                corner[n & 1 ? 3 : 0] - position[0],
                corner[n & 2 ? 4 : 1] - position[1],
                corner[n & 4 ? 5 : 2] - position[2],
              ];
              const depth = -dot(from, direction);
              expect(depth).toBeGreaterThan(0);
              return [dot(from, right) / depth / tan / aspect, dot(from, up) / depth / tan] as const;
            }),
          );
          const [xs, ys] = [seen.map((s) => s[0]), seen.map((s) => s[1])];
          const ends = [Math.max(...xs), -Math.min(...xs), Math.max(...ys), -Math.min(...ys)] as const;
          for (const end of ends) expect(end).toBeLessThan(1 + 1e-9);
          const touches = (p: number, q: number) => Math.abs(p - 1) < 1e-6 && Math.abs(q - 1) < 1e-6;
          expect(touches(ends[0], ends[1]) || touches(ends[2], ends[3])).toBe(true);
          expect(-dot([target[0] - position[0], target[1] - position[1], target[2] - position[2]], direction)).toBeGreaterThan(0); // biome-ignore format: one figure
        },
      ),
      { seed: 11, numRuns: 150 },
    );
  });
});

describe('what is far from the building', () => {
  const house = Array.from({ length: 30 }, (_, i): ViewBox => [i, 0, 0, i + 1, 4, 3]);
  const survey: ViewBox = [4200, -900, 0, 4200.1, -899.9, 0.1];
  test('does not decide what is seen, if it is little', () => {
    expect(dropFarBoxes([...house, survey])).toEqual(house);
    expect(dropFarBoxes(house)).toEqual(house);
  });
  test('is the building where it is much, and so is what stands beside it', () => {
    const second = house.map((b): ViewBox => [b[0] + 4000, b[1], b[2], b[3] + 4000, b[4], b[5]]);
    expect(dropFarBoxes([...house, ...second])).toHaveLength(60);
    const shed: ViewBox = [45, 20, 0, 50, 25, 3];
    expect(dropFarBoxes([...house, shed])).toContain(shed);
    expect(dropFarBoxes([survey, house[0]!])).toHaveLength(2);
  });
});
