import fc from 'fast-check';
import { meshSweptSolid } from './mesh-solid.ts';
import { sketchSurface } from './surface-sketch.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { frameToMatrix, IDENTITY, type Matrix, multiplyMatrices } from './vector.ts';

const box = (x: number, y: number, z: number): TriangleMesh =>
  meshSweptSolid({
    profile: { kind: 'rectangle', x, y, radius: 0 },
    placement: IDENTITY,
    direction: [0, 0, 1],
    depth: z,
  });

/** Spread of a box by its six faces, each summed by hand: of a face a x b at distance d, (a²/12, b²/12, d²) times its area. */
function spreadOfBox(sides: readonly [number, number, number]): number[] {
  const area = 2 * (sides[0] * sides[1] + sides[1] * sides[2] + sides[0] * sides[2]);
  return [0, 1, 2]
    .map((axis) => {
      let sum = 0;
      for (const normal of [0, 1, 2]) {
        const [a, b] = [0, 1, 2].filter((k) => k !== normal) as [number, number];
        const face = 2 * sides[a]! * sides[b]!;
        sum += face * (axis === normal ? (sides[axis]! / 2) ** 2 : sides[axis]! ** 2 / 12);
      }
      return Math.sqrt(sum / area);
    })
    .sort((a, b) => b - a);
}

describe('the sketch of a surface', () => {
  it('of a square plate is its area, its middle and a/√12 along two axes', () => {
    const plate: TriangleMesh = {
      positions: Float64Array.of(0, 0, 5, 6, 0, 5, 6, 6, 5, 0, 6, 5),
      indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
    };
    const sketch = sketchSurface([plate], IDENTITY)!;
    expect(sketch.areaM2).toBeCloseTo(36, 9);
    expect(sketch.centre).toEqual([expect.closeTo(3, 9), expect.closeTo(3, 9), expect.closeTo(5, 9)]);
    expect(sketch.spread).toEqual([expect.closeTo(Math.sqrt(3), 9), expect.closeTo(Math.sqrt(3), 9), expect.closeTo(0, 6)]); // biome-ignore format: one list
    expect(sketchSurface([], IDENTITY)).toBeNull();
  });
  it('of a box is that of its faces, wherever it stands, however it is turned, far from the origin too', () => {
    const side = fc.double({ min: 0.05, max: 30, noNaN: true });
    const turn = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(side, side, side), fc.tuple(turn, turn, turn), (sides, [a, b, c]) => {
        fc.pre(Math.hypot(a, b, c) > 0.1 && Math.hypot(b, a) > 0.1);
        const placed: Matrix = multiplyMatrices(
          frameToMatrix([4_500_000 * a, 9000, 120 * c]),
          frameToMatrix([0, 0, 0], [a, b, c], [-b, a, 0.3]),
        );
        const sketch = sketchSurface([box(...sides)], placed)!;
        const area = 2 * (sides[0] * sides[1] + sides[1] * sides[2] + sides[0] * sides[2]);
        expect(Math.abs(sketch.areaM2 / area - 1)).toBeLessThan(1e-6);
        spreadOfBox(sides).forEach((expected, k) => {
          expect(Math.abs(sketch.spread[k]! - expected)).toBeLessThan(1e-6 * (1 + expected));
        });
      }),
      { seed: 5, numRuns: 200 },
    );
  });
  it('does not mind triangles that are turned round, or a lid that is missing', () => {
    const whole = box(2, 3, 4);
    const turned = { ...whole, indices: Uint32Array.from(whole.indices).reverse() };
    const [a, b] = [sketchSurface([whole], IDENTITY)!, sketchSurface([turned], IDENTITY)!];
    expect(b.spread.map((x, k) => x - a.spread[k]!)).toEqual([0, 0, 0].map(() => expect.closeTo(0, 9)));
    const open = { ...whole, indices: Array.from(whole.indices).slice(0, -6) };
    expect(sketchSurface([open], IDENTITY)!.areaM2).toBeLessThan(a.areaM2);
  });
});
