import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import type { Vector3 } from '../geometry/vector.ts';
import { describeFace, measureChosenFacesM2 } from './chosen-faces.ts';

/** Two boxes side by side that share the plane z = 3: 2 x 1 and 1 x 1 on plan, the second 5 m further on. */
function boxes(height: number): TriangleMesh {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const [x, dx] of [
    [0, 2],
    [5, 1],
  ] as const) {
    // biome-ignore format: one list
    const base = positions.length / 3;
    for (const z of [0, height])
      for (const [px, py] of [[x, 0], [x + dx, 0], [x + dx, 1], [x, 1]] as const) positions.push(px, py, z); // biome-ignore format: one ring
    const quad = (...q: number[]) => [0, 1, 2, 0, 2, 3].map((i) => base + q[i]!);
    indices.push(...quad(0, 3, 2, 1), ...quad(4, 5, 6, 7));
    for (let i = 0; i < 4; i++) indices.push(...quad(i, (i + 1) % 4, ((i + 1) % 4) + 4, i + 4));
  }
  return { positions, indices };
}
const middle = (height: number): Vector3 => [3, 0.5, height / 2];
const top = { normal: [0, 0, 1] as Vector3, offsetM: 1.5 };

describe('faces chosen by hand', () => {
  it('are all of the element in that plane, each once', () => {
    expect(measureChosenFacesM2(boxes(3), [top], middle(3))).toBeCloseTo(3, 9);
    expect(measureChosenFacesM2(boxes(3), [top, { ...top, offsetM: 1.45 }], middle(3))).toBeCloseTo(3, 9);
    const west = { normal: [-1, 0, 0] as Vector3, offsetM: 3 };
    // The west end of the first box only: that of the second lies in another plane.
    expect(measureChosenFacesM2(boxes(3), [top, west], middle(3))).toBeCloseTo(3 + 3, 9);
  });
  it('are found again where the element has grown a little, and not where they are gone', () => {
    expect(measureChosenFacesM2(boxes(3.4), [top], middle(3.4))).toBeCloseTo(3, 9);
    expect(measureChosenFacesM2(boxes(5), [top], middle(5))).toBeNaN();
    expect(measureChosenFacesM2(boxes(3), [{ normal: [0.6, 0, 0.8], offsetM: 0 }], middle(3))).toBeNaN();
  });
  it('are described by any of their triangles', () => {
    const found = describeFace(boxes(3), 6, middle(3))!;
    expect(found).toMatchObject({ face: { normal: [0, 0, 1], offsetM: 1.5 }, areaM2: expect.closeTo(3, 9) });
    expect(found.triangles).toHaveLength(4);
  });
});
