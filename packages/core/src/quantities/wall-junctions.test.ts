import fc from 'fast-check';
import type { Vector2 } from '../geometry/vector.ts';
import { countJunctions, findJunctions, type WallAxis } from './wall-junctions.ts';

const wall = (from: Vector2, to: Vector2, more: Partial<WallAxis> = {}): WallAxis => ({
  points: [from, to],
  widthM: 0.2,
  bottomM: 0,
  topM: 3,
  ...more,
});
const count = (walls: WallAxis[]) => countJunctions(findJunctions(walls), walls.length);
const total = (walls: WallAxis[]) => {
  const { corners, tees, crosses, freeEnds } = count(walls).total;
  return [corners, tees, crosses, freeEnds];
};

describe('how walls meet', () => {
  it.each<[string, WallAxis[], number[]]>([
    ['one wall has two free ends', [wall([0, 0], [5, 0])], [0, 0, 0, 2]],
    ['an L has a corner and two free ends', [wall([0, 0], [5, 0]), wall([5, 0], [5, 4])], [1, 0, 0, 2]],
    ['a corner drawn to the faces is one too', [wall([0, 0], [5.1, 0]), wall([5, 0.1], [5, 4])], [1, 0, 0, 2]],
    ['a wall that goes on in line is no junction', [wall([0, 0], [5, 0]), wall([5, 0], [9, 0])], [0, 0, 0, 2]],
    [
      'a room of four walls',
      [wall([0, 0], [5, 0]), wall([5, 0], [5, 4]), wall([5, 4], [0, 4]), wall([0, 4], [0, 0])],
      [4, 0, 0, 0],
    ],
    ['a tee against a face', [wall([0, 0], [8, 0]), wall([4, 0.1], [4, 3])], [0, 1, 0, 3]],
    ['a tee to the middle line', [wall([0, 0], [8, 0]), wall([4, 0], [4, 3])], [0, 1, 0, 3]],
    [
      'a tee into a wall drawn in two pieces',
      [wall([0, 0], [4, 0]), wall([4, 0], [8, 0]), wall([4, 0.1], [4, 3])],
      [0, 1, 0, 3],
    ],
    ['two walls through each other', [wall([0, 0], [8, 0]), wall([4, -3], [4, 3])], [0, 0, 1, 4]],
    [
      'two stems on opposite sides are a cross',
      [wall([0, 0], [8, 0]), wall([4, 0.1], [4, 3]), wall([4, -0.1], [4, -3])],
      [0, 0, 1, 4],
    ],
    [
      'stems apart from each other are two tees',
      [wall([0, 0], [8, 0]), wall([2, 0.1], [2, 3]), wall([6, 0.1], [6, 3])],
      [0, 2, 0, 4],
    ],
    [
      'walls above each other do not meet',
      [wall([0, 0], [5, 0]), wall([5, 0], [5, 4], { bottomM: 3, topM: 6 })],
      [0, 0, 0, 4],
    ],
    ['a gap of 0.3 m is a gap', [wall([0, 0], [8, 0]), wall([4, 0.4], [4, 3])], [0, 0, 0, 4]],
  ])('%s', (_, walls, expected) => expect(total(walls)).toEqual(expected));

  it('a curved wall meets at its ends and along its arc', () => {
    const arc = Array.from({ length: 13 }, (_, i): Vector2 => {
      const angle = (i * Math.PI) / 24;
      return [5 * Math.cos(angle), 5 * Math.sin(angle)];
    });
    const middle = arc[6]!;
    const outward: Vector2 = [middle[0] * 2, middle[1] * 2];
    // The curve begins square to the straight wall, which runs along y: in line, no junction there.
    const walls = [{ ...wall([0, 0], [1, 0]), points: arc }, wall([5, -4], [5, 0]), wall(middle, outward)];
    expect(total(walls)).toEqual([0, 1, 0, 3]);
  });

  it('counts a tee with the wall that ends, a corner with the first', () => {
    const { byWall } = count([wall([0, 0], [8, 0]), wall([4, 0.1], [4, 3]), wall([8, 0], [8, 3])]);
    expect(byWall.map((w) => [w.corners, w.tees, w.freeEnds])).toEqual([
      [1, 0, 1],
      [0, 1, 1],
      [0, 0, 1],
    ]);
  });

  it('does not change when the plan is turned and moved, and sums over walls are the whole', () => {
    const plan: [Vector2, Vector2][] = [
      [[0, 0], [10, 0]], [[10, 0], [10, 8]], [[10, 8], [0, 8]], [[0, 8], [0, 0]], [[4, 0], [4, 8]], [[4, 4], [10, 4]], [[1, 4], [3, 4]],
    ]; // biome-ignore format: a plan
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6, noNaN: true }),
        fc.double({ min: -500, max: 500, noNaN: true }),
        (angle, shift) => {
          const turn = ([x, y]: Vector2): Vector2 => [
            x * Math.cos(angle) - y * Math.sin(angle) + shift,
            x * Math.sin(angle) + y * Math.cos(angle) - shift,
          ];
          const walls = plan.map(([a, b]) => wall(turn(a), turn(b)));
          // Four corners; tees at both ends of the dividing wall, at both ends of the next; one loose wall.
          expect(total(walls)).toEqual([4, 4, 0, 2]);
          const { total: whole, byWall } = count(walls);
          for (const kind of ['corners', 'tees', 'crosses', 'freeEnds'] as const)
            expect(byWall.reduce((sum, w) => sum + w[kind], 0)).toBe(whole[kind]);
        },
      ),
    );
  });
});
