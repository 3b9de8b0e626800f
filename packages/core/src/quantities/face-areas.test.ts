import type { SweptSolid } from '../geometry/swept-solid.ts';
import { frameToMatrix, IDENTITY } from '../geometry/vector.ts';
import { measureMeshFaces, measureSweptFaces } from './face-areas.ts';

const rect = (x: number, y: number, depth: number, placement = IDENTITY): SweptSolid => ({
  profile: { kind: 'rectangle', x, y, radius: 0 },
  placement,
  direction: [0, 0, 1],
  depth,
});
const near = (value: number) => expect.closeTo(value, 6);

describe('faces of a body', () => {
  it('a lying beam 0.2 wide, 0.4 high, 5 long', () => {
    // Its profile stands upright: profile x across, profile y up, drawn along x.
    const beam = rect(0.2, 0.4, 5, frameToMatrix([0, 0, 0], [1, 0, 0], [0, 1, 0]));
    expect(measureSweptFaces(beam, { up: [0, 0, 1], along: [1, 0, 0] })).toEqual({
      topM2: near(1),
      bottomM2: near(1),
      sidesM2: near(4),
      endsM2: near(0.16),
    });
  });
  it('a standing wall 4 x 0.3 x 2.5: sides told from ends', () => {
    expect(measureSweptFaces(rect(4, 0.3, 2.5), { up: [0, 0, 1], across: [0, 1, 0] })).toEqual({
      topM2: near(1.2),
      bottomM2: near(1.2),
      sidesM2: near(20),
      endsM2: near(1.5),
    });
  });
  it('a round column: sides are its exact mantle', () => {
    const column: SweptSolid = { ...rect(1, 1, 3), profile: { kind: 'circle', radius: 0.2 } };
    expect(measureSweptFaces(column, { up: [0, 0, 1], along: [0, 0, 1] })).toEqual({
      topM2: 0,
      bottomM2: 0,
      sidesM2: near(2 * Math.PI * 0.2 * 3),
      endsM2: near(2 * Math.PI * 0.04),
    });
  });
  it('an L-shaped prism: every face counted, inner corner too', () => {
    const outer = [[0, 0], [2, 0], [2, 1], [1, 1], [1, 2], [0, 2]].map(([x, y]) => ({ x: x!, y: y!, sweep: 0 })); // biome-ignore format: one outline
    const solid: SweptSolid = { ...rect(1, 1, 0.5), profile: { kind: 'outline', outer, holes: [] } };
    expect(measureSweptFaces(solid, { up: [0, 0, 1] })).toEqual({
      topM2: near(3),
      bottomM2: near(3),
      sidesM2: near(4),
      endsM2: 0,
    });
  });
  it('a mesh of a unit tetrahedron', () => {
    const mesh = { positions: [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1], indices: [0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3] };
    // Base 0.5 looks down, two faces of 0.5 sideways, the slanting one (0.866) at 54.7° from up: sideways.
    expect(measureMeshFaces(mesh, { up: [0, 0, 1] })).toEqual({
      topM2: 0,
      bottomM2: near(0.5),
      sidesM2: near(1 + Math.sqrt(3) / 2),
      endsM2: 0,
    });
  });
});
