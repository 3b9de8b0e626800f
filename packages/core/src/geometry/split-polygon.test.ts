import fc from 'fast-check';
import { measurePolygonAreaM2 } from './outline.ts';
import { measureJoinedPerimeterM, splitPolygon } from './split-polygon.ts';
import type { Vector2 } from './vector.ts';

const rect = (x: number, y: number, w: number, h: number): Vector2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];
const areas = (pieces: [Vector2[], Vector2[]] | null) => pieces?.map(measurePolygonAreaM2).sort((a, b) => a - b);

describe('splitPolygon', () => {
  it('cuts a rectangle, also from corner to corner', () => {
    expect(areas(splitPolygon(rect(0, 0, 4, 3), [1, 0], [1, 1]))).toEqual([3, 9]);
    expect(areas(splitPolygon(rect(0, 0, 4, 3), [0, 0], [4, 3]))).toEqual([6, 6]);
  });
  it('leaves whole what the line does not cross, and does not make three pieces of a U', () => {
    expect(splitPolygon(rect(0, 0, 4, 3), [5, 0], [5, 1])).toBeNull();
    expect(splitPolygon(rect(0, 0, 4, 3), [0, 0], [1, 0])).toBeNull();
    expect(splitPolygon(rect(0, 0, 4, 3), [1, 1], [1, 1])).toBeNull();
    const u: Vector2[] = [[0, 0], [6, 0], [6, 4], [4, 4], [4, 2], [2, 2], [2, 4], [0, 4]]; // biome-ignore format: one outline
    expect(splitPolygon(u, [0, 3], [6, 3])).toBeNull();
    expect(areas(splitPolygon(u, [0, 1], [6, 1]))).toEqual([6, 14]);
  });
  it('loses no area', () => {
    const at = fc.double({ min: -1, max: 5, noNaN: true });
    fc.assert(
      fc.property(at, at, at, at, (x, y, u, v) => {
        const pieces = splitPolygon(rect(0, 0, 4, 3), [x, y], [u, v]);
        if (pieces) expect(areas(pieces)!.reduce((a, b) => a + b)).toBeCloseTo(12, 6);
      }),
    );
  });
});

it('joined rings have no edge between them', () => {
  expect(measureJoinedPerimeterM([rect(0, 0, 2, 2), rect(2, 0, 2, 2)])).toBeCloseTo(12, 9);
  expect(measureJoinedPerimeterM([rect(0, 0, 2, 2), rect(2, 1, 2, 2)])).toBeCloseTo(14, 9);
  expect(measureJoinedPerimeterM([rect(0, 0, 2, 2), rect(2.1, 0, 2, 2)])).toBeCloseTo(16, 9);
});
