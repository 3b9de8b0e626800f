import fc from 'fast-check';
import { sliceMesh } from './slice-mesh.ts';
import { measureUnionAreaM2 } from './union-area.ts';
import type { Vector2 } from './vector.ts';

const rect = (x: number, y: number, w: number, h: number): Vector2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];
/** A tube or a block between two rings of equally many points: walls, bottom and top fans. */
function frustum(bottom: Vector2[], top: Vector2[], z0: number, z1: number) {
  const n = bottom.length;
  const positions = [...bottom.flatMap(([x, y]) => [x, y, z0]), ...top.flatMap(([x, y]) => [x, y, z1])];
  const indices: number[] = [];
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    indices.push(i, j, n + j, i, n + j, n + i);
    if (i > 0 && i + 1 < n) indices.push(0, i + 1, i, n, n + i, n + i + 1);
  }
  return { positions, indices };
}

describe('measureUnionAreaM2', () => {
  it.each<[string, Vector2[][][], number]>([
    ['one square', [[rect(0, 0, 2, 2)]], 4],
    ['two that share a strip', [[rect(0, 0, 2, 2)], [rect(1, 0, 2, 2)]], 6],
    ['the same twice', [[rect(0, 0, 2, 2)], [rect(0, 0, 2, 2)]], 4],
    ['two side by side', [[rect(0, 0, 2, 2)], [rect(2, 0, 2, 2)]], 8],
    ['a hole', [[rect(0, 0, 4, 4), rect(1, 1, 1, 1)]], 15],
    ['a hole that another covers', [[rect(0, 0, 4, 4), rect(1, 1, 1, 1)], [rect(1, 1, 1, 1)]], 16],
    // Two triangles over a base of 2: heights 2, apexes at x 0 and 2; they share a triangle of base 2 and height 1.
    ['two slanting ones', [[[[0, 0], [2, 0], [0, 2]]], [[[0, 0], [2, 0], [2, 2]]]], 3],
  ])('%s', (_, figures, area) => expect(measureUnionAreaM2(figures)).toBeCloseTo(area, 9)); // biome-ignore format: a table

  it('is never more than the sum and never less than the largest', () => {
    const box = fc.tuple(
      fc.double({ min: 0, max: 5, noNaN: true }),
      fc.double({ min: 0, max: 5, noNaN: true }),
      fc.double({ min: 0.1, max: 3, noNaN: true }),
      fc.double({ min: 0.1, max: 3, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(box, { minLength: 1, maxLength: 6 }), (boxes) => {
        const area = measureUnionAreaM2(boxes.map(([x, y, w, h]) => [rect(x, y, w, h)]));
        const sizes = boxes.map(([, , w, h]) => w * h);
        expect(area).toBeLessThanOrEqual(sizes.reduce((a, b) => a + b, 0) + 1e-6);
        expect(area).toBeGreaterThanOrEqual(Math.max(...sizes) - 1e-6);
      }),
    );
  });
});

describe('sliceMesh', () => {
  it('a tapering body: 4 x 4 m below, 2 x 2 m above, 3 m high', () => {
    const body = frustum(rect(0, 0, 4, 4), rect(1, 1, 2, 2), 0, 3);
    // Half way up it measures 3 x 3 m.
    expect(sliceMesh(body, 1.5)).toEqual({ areaM2: expect.closeTo(9, 5), perimeterM: expect.closeTo(12, 5) });
    expect(sliceMesh(body, 0)).toEqual({ areaM2: expect.closeTo(16, 5), perimeterM: expect.closeTo(16, 5) });
    expect(sliceMesh(body, 3.1)).toBeNull();
    expect(sliceMesh(body, -0.1)).toBeNull();
  });
  it('a body with a shaft through it', () => {
    const outer = frustum(rect(0, 0, 5, 4), rect(0, 0, 5, 4), 0, 3);
    const shaft = frustum(rect(1, 1, 1, 2).reverse(), rect(1, 1, 1, 2).reverse(), 0, 3);
    const n = outer.positions.length / 3;
    const both = {
      positions: [...outer.positions, ...shaft.positions],
      indices: [...outer.indices, ...shaft.indices.map((i) => i + n)],
    };
    // 20 - 2 = 18 m2; 18 + 6 = 24 m of edges.
    expect(sliceMesh(both, 1)).toEqual({ areaM2: expect.closeTo(18, 6), perimeterM: expect.closeTo(24, 6) });
  });
});
