import fc from 'fast-check';
import { measureLengthWithin, measureWithin, type Region } from './measure-within.ts';
import { isPointInPolygon } from './outline.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import type { Vector2, Vector3 } from './vector.ts';

/** A box from a corner, its faces outward. */
function box([x, y, z]: Vector3, [dx, dy, dz]: Vector3): TriangleMesh {
  const positions = [0, 1].flatMap(
    (k) =>
    [[0, 0], [dx, 0], [dx, dy], [0, dy]].flatMap(([a, b]) => [x + a!, y + b!, z + k * dz]), // biome-ignore format: one ring
  );
  const quad = (a: number, b: number, c: number, d: number) => [a, b, c, a, c, d];
  const sides = [0, 1, 2, 3].flatMap((i) => quad(i, (i + 1) % 4, ((i + 1) % 4) + 4, i + 4));
  return { positions, indices: [...quad(0, 3, 2, 1), ...quad(4, 5, 6, 7), ...sides] };
}
const byLook = ([x, , z]: Vector3) => (z > 0.7 ? 'topM2' : z < -0.7 ? 'bottomM2' : Math.abs(x) > 0.7 ? 'endsM2' : 'sidesM2'); // biome-ignore format: one rule
const everything: Region = { fromM: null, toM: null, outline: null };
const near = (v: number) => expect.closeTo(v, 9);
const L_SHAPE: Vector2[] = [[0, 0], [4, 0], [4, 1], [1, 1], [1, 3], [0, 3]]; // biome-ignore format: one outline

describe('what of a body lies in a region', () => {
  const beam = box([0, 0, 0], [4, 1, 3]);
  it('all of it without bounds', () => {
    expect(measureWithin(beam, everything, byLook)).toEqual({
      volumeM3: near(12),
      topM2: near(4),
      bottomM2: near(4),
      sidesM2: near(24),
      endsM2: near(6), // biome-ignore format: one body
    });
  });
  it('below and above a level: cut faces are not counted', () => {
    // 4 x 1 x 1.2 below; its bottom is a face, the cut is none.
    expect(measureWithin(beam, { ...everything, toM: 1.2 }, byLook)).toEqual({
      volumeM3: near(4.8),
      topM2: near(0),
      bottomM2: near(4),
      sidesM2: near(9.6),
      endsM2: near(2.4), // biome-ignore format: one body
    });
    expect(measureWithin(beam, { ...everything, fromM: 1.2, toM: 1.2 }, byLook).volumeM3).toBe(0);
  });
  it('within an outline with a re-entrant corner', () => {
    // The beam covers 0 <= y <= 1, all of which lies in the L; a slab of 4 x 3 m has 4 + 2 = 6 m2 in it.
    expect(measureWithin(beam, { ...everything, outline: L_SHAPE }, byLook).volumeM3).toBeCloseTo(12, 9);
    const slab = box([0, 0, 5], [4, 3, 0.2]);
    expect(measureWithin(slab, { ...everything, outline: L_SHAPE }, byLook)).toMatchObject({
      volumeM3: near(1.2),
      topM2: near(6),
      bottomM2: near(6), // biome-ignore format: one body
    });
    const backwards = [...L_SHAPE].reverse();
    expect(measureWithin(slab, { ...everything, outline: backwards }, byLook).topM2).toBeCloseTo(6, 9);
  });
  it('below and above any level, left and right of any line, add up to the whole', () => {
    const figure = fc.double({ min: -1, max: 4, noNaN: true });
    fc.assert(
      fc.property(figure, figure, (level, line) => {
        const west: Vector2[] = [[-9, -9], [line, -9], [line, 9], [-9, 9]]; // biome-ignore format: one outline
        const east: Vector2[] = [[line, -9], [9, -9], [9, 9], [line, 9]]; // biome-ignore format: one outline
        const parts = [west, east].flatMap((outline) => [
          measureWithin(beam, { fromM: null, toM: level, outline }, byLook),
          measureWithin(beam, { fromM: level, toM: null, outline }, byLook),
        ]);
        expect(parts.reduce((sum, p) => sum + p.volumeM3, 0)).toBeCloseTo(12, 8);
        expect(parts.reduce((sum, p) => sum + p.sidesM2, 0)).toBeCloseTo(24, 8);
      }),
    );
  });
  it('of a line on plan', () => {
    expect(measureLengthWithin([[-1, 0.5], [6, 0.5]], L_SHAPE)).toBeCloseTo(4, 9); // biome-ignore format: one line
    expect(measureLengthWithin([[-1, 2], [6, 2]], L_SHAPE)).toBeCloseTo(1, 9); // biome-ignore format: one line
    expect(isPointInPolygon([3, 2], L_SHAPE)).toBe(false);
  });
});
