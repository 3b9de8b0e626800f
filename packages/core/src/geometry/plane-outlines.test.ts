import { measureRoof } from '../quantities/roof-edges.ts';
import { listPlaneOutlines } from './plane-outlines.ts';
import type { Vector3 } from './vector.ts';

const up = ([, , z]: Vector3) => z > 0.26;
const mesh = (faces: readonly (readonly Vector3[])[]) => {
  const corners = faces.flatMap((f) => f.slice(2).flatMap((p, i) => [f[0]!, f[i + 1]!, p]));
  return { positions: corners.flat(), indices: corners.map((_, i) => i) };
};

describe('flat parts of a mesh', () => {
  it('a hipped roof drawn as one closed body: four slopes, each whole', () => {
    // 10 x 6 m at 45°, ridge from (3, 3, 3) to (7, 3, 3).
    const [a, b]: Vector3[] = [[3, 3, 3], [7, 3, 3]]; // biome-ignore format: ridge ends
    const base: Vector3[] = [[0, 0, 0], [10, 0, 0], [10, 6, 0], [0, 6, 0]]; // biome-ignore format: one outline
    const roof = mesh([
      [...base].reverse(),
      [base[0]!, base[1]!, b!, a!],
      [base[2]!, base[3]!, a!, b!],
      [base[3]!, base[0]!, a!],
      [base[1]!, base[2]!, b!],
    ]);
    const planes = listPlaneOutlines(roof, up);
    expect(planes.map((p) => p.outline.length).sort()).toEqual([3, 3, 4, 4]);
    const near = (v: number) => expect.closeTo(v, 6);
    expect(measureRoof(planes.map((p) => ({ ...p, thicknessM: 0 })))).toEqual({
      slopedAreaM2: near(60 * Math.SQRT2),
      eavesM: near(32),
      ridgeM: near(4),
      hipM: near(4 * Math.sqrt(27)),
      valleyM: near(0),
      vergeM: near(0),
    });
  });
  it('a slope with a roof light cut out, in triangles whose corners lie on each other’s edges: its outer outline', () => {
    const at = (x: number, y: number): Vector3 => [x, y, y / 2];
    // 4 x 3 on plan with a hole from (1, 1) to (2, 2), drawn as four strips.
    const strips = [
      [at(0, 0), at(4, 0), at(4, 1), at(0, 1)],
      [at(0, 2), at(4, 2), at(4, 3), at(0, 3)],
      [at(0, 1), at(1, 1), at(1, 2), at(0, 2)],
      [at(2, 1), at(4, 1), at(4, 2), at(2, 2)],
    ];
    const [plane, ...rest] = listPlaneOutlines(mesh(strips), up);
    expect(rest).toEqual([]);
    expect(new Set(plane!.outline.map(String))).toEqual(new Set([at(0, 0), at(4, 0), at(4, 3), at(0, 3)].map(String)));
  });
});
