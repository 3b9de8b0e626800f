import type { Vector3 } from '@tally/core';
import { distanceToSee } from './camera-fit.ts';

const alongY: Vector3 = [0, -1, 0];
const camera = (aspect: number) => ({ fov: 90, aspect, up: [0, 0, 1] as const });

describe('distance at which a camera sees a box', () => {
  test('an opening of 90° sees half the height at that distance from the near face', () => {
    // Half of 6 m is seen 3 m before the face, which is 2 m before the centre.
    expect(distanceToSee([4, 4, 6], alongY, camera(1))).toBeCloseTo(5, 9);
  });

  test('a narrow picture of something wide needs more room', () => {
    // Half of 20 m is 10 m; at half the width as the height that is 20 m before the face, 2 m before the centre.
    expect(distanceToSee([20, 4, 6], alongY, camera(0.5))).toBeCloseTo(22, 9);
  });

  test('something small stays at arm’s length', () => {
    expect(distanceToSee([0.02, 0.02, 0.02], alongY, camera(1))).toBe(1);
  });
});
