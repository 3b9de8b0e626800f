import { readElement } from '../elements/element-table.ts';
import { buildDrawnRooms, type DrawnRoom } from './drawn-rooms.ts';

const room = (rings: number[][]): DrawnRoom => ({ name: 'Hall', storey: 'Ground', rings, bottomM: 0, topM: 2.5 });
const figures = (rooms: [number, DrawnRoom][], openings: Parameters<typeof buildDrawnRooms>[1] = []) => {
  const table = buildDrawnRooms(new Map(rooms), openings)!;
  return Object.fromEntries(readElement(table, 0).quantities.map((q) => [q.name, q.value]));
};
const near = (value: number) => expect.closeTo(value, 6);

describe('drawn rooms', () => {
  it('measure like those of a model, openings deducted', () => {
    // 4 x 3 m; a door of 0.9 x 2.1 in the wall along y = 0, a window of 1.2 x 1 at 0.9.
    const openings = [
      { at: [2, -0.05], wallM: 0.1, widthM: 0.9, bottomM: 0, topM: 2.1 },
      { at: [4.1, 1], wallM: 0.2, widthM: 1.2, bottomM: 0.9, topM: 1.9 },
      { at: [9, 9], wallM: 0.2, widthM: 5, bottomM: 0, topM: 2 },
    ] as const;
    expect(figures([[-7, room([[0, 0, 4, 0, 4, 3, 0, 3]])]], openings)).toMatchObject({
      NetFloorArea: near(12),
      GrossPerimeter: near(14),
      GrossWallArea: near(35),
      NetWallArea: near(35 - 1.89 - 1.2),
      NetPerimeter: near(13.1),
      NetVolume: near(30),
    });
  });
  it('joined ones have no wall between them', () =>
    expect(figures([[-8, room([[0, 0, 2, 0, 2, 2, 0, 2], [2, 0, 4, 0, 4, 2, 2, 2]])]])).toMatchObject({
      NetFloorArea: near(8),
      GrossPerimeter: near(12),
    })); // biome-ignore format: outlines
  it('are without the columns in them, which have walls around', () => {
    // 4 x 3 m and 2 x 3 m side by side; a column of 0.5 x 0.4 m in the second, with a niche of 0.4 x 1 m that is deducted.
    const hall: DrawnRoom = {
      ...room([[0, 0, 4, 0, 4, 3, 0, 3], [4, 0, 6, 0, 6, 3, 4, 3]]),
      holes: [[5, 1, 5.5, 1, 5.5, 1.4, 5, 1.4]],
    }; // biome-ignore format: outlines
    const niche = { at: [5.25, 1], wallM: 0.1, widthM: 0.4, bottomM: 0.5, topM: 1.5 } as const;
    expect(figures([[-9, hall]], [niche])).toMatchObject({
      NetFloorArea: near(18 - 0.2),
      GrossCeilingArea: near(17.8),
      GrossPerimeter: near(18 + 1.8),
      GrossWallArea: near(19.8 * 2.5),
      NetWallArea: near(19.8 * 2.5 - 0.4),
      NetVolume: near(17.8 * 2.5),
    });
    expect(buildDrawnRooms(new Map([[-9, hall]]), [])!.roomPlans[0]!.holes).toEqual(hall.holes);
  });
  it('none make no table', () => expect(buildDrawnRooms(new Map(), [])).toBeNull());
});
