import fc from 'fast-check';
import { meshSweptSolid } from './mesh-solid.ts';
import { SurfaceSum } from './surface-sketch.ts';
import type { SweptSolid } from './swept-solid.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { frameToMatrix, IDENTITY, type Matrix, multiplyMatrices, type Vector2 } from './vector.ts';

const prism = (x: number, y: number, z: number): SweptSolid => ({
  profile: { kind: 'rectangle', x, y, radius: 0 },
  placement: IDENTITY,
  direction: [0, 0, 1],
  depth: z,
});
const box = (x: number, y: number, z: number): TriangleMesh => meshSweptSolid(prism(x, y, z));
const sketchMesh = (mesh: TriangleMesh, matrix: Matrix = IDENTITY) => new SurfaceSum().addMesh(mesh).sketch(matrix)!;

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
    const sketch = sketchMesh(plate);
    expect(sketch.areaM2).toBeCloseTo(36, 9);
    expect(sketch.centre).toEqual([expect.closeTo(3, 9), expect.closeTo(3, 9), expect.closeTo(5, 9)]);
    expect(sketch.spread).toEqual([expect.closeTo(Math.sqrt(3), 9), expect.closeTo(Math.sqrt(3), 9), expect.closeTo(0, 6)]); // biome-ignore format: one list
    expect(new SurfaceSum().sketch(IDENTITY)).toBeNull();
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
        const sketch = new SurfaceSum().addSwept(prism(...sides), 96).sketch(placed)!;
        const area = 2 * (sides[0] * sides[1] + sides[1] * sides[2] + sides[0] * sides[2]);
        expect(Math.abs(sketch.areaM2 / area - 1)).toBeLessThan(1e-6);
        spreadOfBox(sides).forEach((expected, k) => {
          expect(Math.abs(sketch.spread[k]! - expected)).toBeLessThan(1e-5 * (1 + expected));
        });
      }),
      { seed: 5, numRuns: 200 },
    );
  });
  it('does not mind triangles that are turned round, or a lid that is missing', () => {
    const whole = box(2, 3, 4);
    const turned = { ...whole, indices: Uint32Array.from(whole.indices).reverse() };
    const [a, b] = [sketchMesh(whole), sketchMesh(turned)];
    expect(b.spread.map((x, k) => x - a.spread[k]!)).toEqual([0, 0, 0].map(() => expect.closeTo(0, 9)));
    const open = { ...whole, indices: Array.from(whole.indices).slice(0, -6) };
    expect(sketchMesh(open).areaM2).toBeLessThan(a.areaM2);
  });
  it('of a solid by its outline is that of its mesh: holes, hollows, leaning and turned', () => {
    const outline = (points: readonly Vector2[]) => points.map(([x, y]) => ({ x, y, sweep: 0 }));
    const shapes: SweptSolid[] = [
      {
        // An angle with a hollow corner, and a hole drawn the same way round as the outline.
        profile: {
          kind: 'outline',
          outer: outline([[0, 0], [4, 0], [4, 1], [1, 1], [1, 3], [0, 3]]), // biome-ignore format: one ring
          holes: [outline([[0.2, 0.2], [0.8, 0.2], [0.8, 0.8], [0.2, 0.8]])], // biome-ignore format: one ring
        },
        placement: frameToMatrix([12, -7, 3], [0.2, 0.5, 1], [1, 0.3, 0]),
        direction: [0, 0, 1],
        depth: 2.4,
      },
      { ...prism(0.3, 0.2, 5), direction: [0.6, 0, 0.8] },
      {
        // Begins at a hollow corner and runs clockwise: the fan of its first corner reaches outside.
        profile: { kind: 'outline', outer: outline([[1, 1], [1, 3], [0, 3], [0, 0], [4, 0], [4, 1]].reverse() as unknown as Vector2[]), holes: [] }, // biome-ignore format: one ring
        placement: IDENTITY,
        direction: [0, 0, -1],
        depth: 1,
      },
    ];
    for (const solid of shapes) {
      const [a, b] = [sketchMesh(meshSweptSolid(solid)), new SurfaceSum().addSwept(solid, 96).sketch(IDENTITY)!];
      expect(b.areaM2).toBeCloseTo(a.areaM2, 9);
      for (let k = 0; k < 3; k++) {
        expect(b.centre[k]).toBeCloseTo(a.centre[k]!, 9);
        expect(b.spread[k]).toBeCloseTo(a.spread[k]!, 9);
      }
    }
  });
});
