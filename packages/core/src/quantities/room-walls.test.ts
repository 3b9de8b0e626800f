import type { Vector2 } from '../geometry/vector.ts';
import { measureFinishM, moveOutline, RoomWalls } from './room-walls.ts';

/* A room of 4 x 3 m between walls whose inner faces are its edges: 0.3 m outer walls, one of them in two pieces, a 0.1 m partition. */
const room: Vector2[] = [[0, 0], [4, 0], [4, 3], [0, 3]]; // biome-ignore format: one outline
const wall = (points: Vector2[], widthM: number) => ({ points, widthM, bottomM: 0, topM: 3 });
const walls = [
  wall([[-0.15, -0.15], [1.5, -0.15]], 0.3), // biome-ignore format: one line
  wall([[1.5, -0.15], [4.05, -0.15]], 0.3), // biome-ignore format: one line
  wall([[4.05, 3.15], [4.05, -0.15]], 0.1), // biome-ignore format: one line
  wall([[4.05, 3.15], [-0.15, 3.15]], 0.3), // biome-ignore format: one line
  // Another storey's wall in the same place, and one that only crosses.
  { ...wall([[-0.15, -0.15], [4, -0.15]], 0.3), bottomM: 3, topM: 6 }, // biome-ignore format: one line
  wall([[2, -5], [2, 0]], 0.3), // biome-ignore format: one line
];
const stretches = new RoomWalls(walls).listStretches(room, 0, 2.6);

describe('the walls around a room', () => {
  it('are found edge by edge, with the side the room lies on', () => {
    expect(stretches.map((s) => [s.edge, s.fromM, s.toM, s.wall])).toEqual([
      [0, 0, 1.5, 0],
      [0, 1.5, 4, 1],
      [1, 0, 3, 2],
      [2, 0, 4, 3],
      [3, 0, 3, null],
    ]);
    // Wall 0 runs east with the room to its left; walls 2 and 3 run south and west with the room to the right and the left.
    expect(stretches.map((s) => s.isLeft)).toEqual([true, true, false, true, true]);
  });
  it('are the same for an outline drawn the other way round', () => {
    const back = new RoomWalls(walls).listStretches([...room].reverse(), 0, 2.6);
    expect(new Set(back.map((s) => `${s.wall}/${s.isLeft}`))).toEqual(new Set(stretches.map((s) => `${s.wall}/${s.isLeft}`))); // biome-ignore format: one comparison
  });
  it('give the outline to the structural face: each stretch moves by its own finish', () => {
    const out = [0.02, 0.05, 0.0125, 0.02, 0];
    const moved = moveOutline(room, stretches.map((s, i) => ({ ...s, outM: out[i]! }))); // biome-ignore format: one call
    const area = moved.reduce((sum, [x, y], i) => {
      const [nx, ny] = moved[(i + 1) % moved.length]!;
      return sum + (x * ny - nx * y) / 2;
    }, 0);
    // 4.0125 x 3 with strips of 1.5 x 0.02, 2.5125 x 0.05 below and 4.0125 x 0.02 above.
    expect(area).toBeCloseTo(4.0125 * 3 + 1.5 * 0.02 + 2.5125 * 0.05 + 4.0125 * 0.02, 9);
    expect(moved).toHaveLength(6);
  });
});

describe('the finish of a wall', () => {
  it('is what lies before its thickest layer, seen from the room', () => {
    expect(measureFinishM([0.0125, 0.0125, 0.075, 0.0125], true)).toBeCloseTo(0.025, 12);
    expect(measureFinishM([0.0125, 0.0125, 0.075, 0.0125], false)).toBeCloseTo(0.0125, 12);
    expect(measureFinishM([0.2], true)).toBe(0);
    expect(measureFinishM([], true)).toBe(0);
  });
});
