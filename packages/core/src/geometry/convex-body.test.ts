import fc from 'fast-check';
import { measureConvexCommon, toConvexBody } from './convex-body.ts';
import { measureCommonVolume, measureSharedVolume } from './shared-volume.ts';
import { measureMesh, type TriangleMesh } from './triangle-mesh.ts';
import type { Vector3 } from './vector.ts';

/** A box of a size, turned about the upright axis and then tilted about the first one, at a place. */
function makeBox(size: Vector3, at: Vector3, turn = 0, tilt = 0): TriangleMesh {
  const positions: number[] = [];
  for (const z of [0, size[2]])
    for (const y of [0, size[1]])
      for (const x of [0, size[0]]) {
        const [u, v] = [x * Math.cos(turn) - y * Math.sin(turn), x * Math.sin(turn) + y * Math.cos(turn)];
        const [p, q] = [v * Math.cos(tilt) - z * Math.sin(tilt), v * Math.sin(tilt) + z * Math.cos(tilt)];
        positions.push(at[0] + u, at[1] + p, at[2] + q);
      }
  const quads = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]; // biome-ignore format: one face each
  return { positions, indices: quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]) };
}
const common = (a: TriangleMesh, b: TriangleMesh) => measureConvexCommon(toConvexBody(a)!, toConvexBody(b)!);
const CUBE = makeBox([2, 2, 2], [0, 0, 0]);

describe('what two bodies without dents have in common', () => {
  it('is worked out by hand', () => {
    expect(common(CUBE, makeBox([2, 2, 2], [1, 0, 0]))).toBeCloseTo(4, 9);
    expect(common(CUBE, makeBox([2, 2, 2], [1, 1, 1]))).toBeCloseTo(1, 9);
    expect(common(CUBE, CUBE)).toBeCloseTo(8, 9);
    expect(common(CUBE, makeBox([0.5, 0.5, 9], [0.3, 0.4, -3]))).toBeCloseTo(0.5 * 0.5 * 2, 9);
    // Turned by 45 degrees about its corner in the middle: what of the cube lies within it is a triangle of 2 m by 1 m, 1 m high.
    expect(common(CUBE, makeBox([3, 3, 1], [1, 1, 0], Math.PI / 4))).toBeCloseTo(1, 9);
  });
  it('is nothing where they touch, or lie apart', () => {
    expect(common(CUBE, makeBox([2, 2, 2], [2, 0, 0]))).toBe(0);
    expect(common(CUBE, makeBox([2, 2, 2], [5, 5, 0]))).toBeCloseTo(0, 12);
    expect(common(CUBE, makeBox([1, 1, 1], [2, 2, 0], Math.PI / 8))).toBeCloseTo(0, 12);
  });
  it('far from the origin is as exact', () => {
    const far: Vector3 = [512_000, 4_800_000, 120];
    const moved = makeBox([2, 2, 2], [far[0] + 1.5, far[1], far[2]], 0.3);
    const near = makeBox([2, 2, 2], [1.5, 0, 0], 0.3);
    expect(common(makeBox([2, 2, 2], far), moved)).toBeCloseTo(common(CUBE, near), 6);
  });
  it('is that of level cuts, for any two boxes, and the same both ways', () => {
    const figure = fc.double({ min: 0.1, max: 3, noNaN: true });
    const place = fc.double({ min: -1.5, max: 1.5, noNaN: true });
    const angle = fc.double({ min: 0.05, max: 1.4, noNaN: true });
    const box = fc.tuple(fc.tuple(figure, figure, figure), fc.tuple(place, place, place), angle, angle);
    fc.assert(
      fc.property(box, box, (p, q) => {
        const [a, b] = [makeBox(...p), makeBox(...q)];
        const exact = common(a, b);
        const smaller = Math.min(measureMesh(a)!.volumeM3, measureMesh(b)!.volumeM3);
        expect(Math.abs(exact - measureSharedVolume([a, b]).sharedM3)).toBeLessThan(0.005 * (exact + smaller));
        expect(Math.abs(exact - common(b, a))).toBeLessThan(1e-9);
      }),
      { numRuns: 120, seed: 7 },
    );
  });
});

describe('a mesh is no body without dents', () => {
  const box = { ...CUBE, indices: Array.from(CUBE.indices) };
  it('where it has a dent, is open, drawn twice, or flat', () => {
    // A corner of the upper face is pushed down into the body, past the plane of what it hangs on.
    const dented = { ...box, positions: Array.from(box.positions, (v, i) => (i === 23 ? 0.2 : v)) };
    expect(toConvexBody(box)).not.toBeNull();
    expect(toConvexBody(dented)).toBeNull();
    expect(toConvexBody({ ...box, indices: box.indices.slice(6) })).toBeNull();
    const again = Array.from(box.positions);
    const twice = {
      positions: [...again, ...again],
      indices: [...box.indices, ...box.indices.map((i) => i + 8)],
    };
    expect(toConvexBody(twice)).toBeNull();
    expect(toConvexBody(makeBox([2, 2, 0], [0, 0, 0]))).toBeNull();
  });
  it('faces that look inward are turned', () => {
    const inward = {
      ...box,
      indices: box.indices.map((_, i) => box.indices[i % 3 === 1 ? i + 1 : i % 3 === 2 ? i - 1 : i]!),
    };
    expect(common(inward, CUBE)).toBeCloseTo(8, 9);
  });
});

describe('what is cut out of a body', () => {
  // A wall of 4 x 0.3 x 3 m with a door of 1 x 2 m from 1 m on; a beam of 0.2 x 0.2 m through it.
  const wall = makeBox([4, 0.3, 3], [0, 0, 0]);
  const door = makeBox([1, 0.5, 2], [1, -0.1, 0]);
  const beamAt = (x: number, z: number) => ({ mesh: makeBox([0.2, 2, 0.2], [x, -1, z]), cuts: [] });
  it('takes away only where it is', () => {
    const cut = { mesh: wall, cuts: [door] };
    expect(measureCommonVolume(cut, beamAt(3, 2.5))).toBeCloseTo(0.2 * 0.3 * 0.2, 9);
    expect(measureCommonVolume(cut, beamAt(1.4, 1))).toBeCloseTo(0, 6);
    // Half in the door, half in the wall beside it.
    expect(measureCommonVolume(cut, beamAt(1.9, 1))).toBeCloseTo(0.1 * 0.3 * 0.2, 4);
  });
});
