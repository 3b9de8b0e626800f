import fc from 'fast-check';
import { buildElementTable } from '../elements/element-table.ts';
import type { WallFinish } from '../elements/model-element.ts';
import type { RowAxis } from '../elements/site-data.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { listRoomFinishes, listRoomWalls, sumFinishes } from './room-finishes.ts';

/*
 * A shower of 3 x 2 m, 2.5 m high, between four 0.1 m walls with keys 11 (south), 12 (east), 13 (north), 14 (west). The south wall has
 * a door of 0.9 x 2 m, the north wall a window of 0.6 x 0.6 m with its sill at 1.5 m.
 */
const finishes = { floor: 'Non-slip vinyl', wall: 'Emulsion', ceiling: null, skirting: null };
const room = sampleElement({
  globalId: 'room',
  ifcClass: 'IfcSpace',
  finishes,
  quantities: { NetFloorArea: 6, GrossCeilingArea: 6, NetPerimeter: 9.1, NetWallArea: 22.84 },
});
const walls = ['s', 'e', 'n', 'w'].map((id) => sampleElement({ globalId: id }));
const axis = (row: number, points: number[]): RowAxis => ({
  row,
  points,
  isFirstLeft: false,
  widthM: 0.1,
  bottomM: 0,
  topM: 3,
});
const plain = buildElementTable([room, ...walls], Int32Array.of(10, 11, 12, 13, 14), {
  roomPlans: [{ row: 0, rings: [[0, 0, 3, 0, 3, 2, 0, 2]], bottomM: 0, topM: 2.5 }],
  wallAxes: [
    axis(1, [-0.05, -0.05, 3.05, -0.05]),
    axis(2, [3.05, -0.05, 3.05, 2.05]),
    axis(3, [3.05, 2.05, -0.05, 2.05]),
    axis(4, [-0.05, 2.05, -0.05, -0.05]),
  ],
  wallOpenings: [
    { at: [1, -0.05], wallM: 0.1, widthM: 0.9, bottomM: 0, topM: 2 },
    { at: [1.5, 2.05], wallM: 0.1, widthM: 0.6, bottomM: 1.5, topM: 2.1 },
  ],
});
const withParts = (parts: readonly WallFinish[]) => ({ ...plain, wallFinishes: new Map([[0, parts]]) });
const wallAreas = (parts: readonly WallFinish[]) =>
  Object.fromEntries(
    listRoomFinishes(withParts(parts)).flatMap((f) => (f.surface === 'wall' ? [[f.finish ?? 'none', f.amount]] : [])),
  );
const near = (v: number) => expect.closeTo(v, 9);

describe('finishes of a room', () => {
  it('surface by surface, none assigned among them', () => {
    expect(listRoomFinishes(plain).map((f) => [f.surface, f.finish, f.amount])).toEqual([
      ['floor', 'Non-slip vinyl', 6],
      ['wall', 'Emulsion', 22.84],
      ['ceiling', null, 6],
      ['skirting', null, 9.1],
    ]);
  });
  it('a band of tiles to 2 m all round, the general finish above it', () => {
    // 10 x 2 less the door 1.8 and 0.6 x 0.5 of the window; above 10 x 0.5 less 0.6 x 0.1.
    expect(wallAreas([{ finish: 'Tiles', toM: 2 }])).toEqual({ Tiles: near(17.9), Emulsion: near(4.94) });
  });
  it('also on what stands in the room', () => {
    // A pillar of 0.4 x 0.4 m: 1.6 m more of wall, without an opening.
    const roomPlans = [{ ...plain.roomPlans[0]!, holes: [[1, 1, 1.4, 1, 1.4, 1.4, 1, 1.4]] }];
    const standing = { ...withParts([{ finish: 'Tiles', toM: 2 }]), roomPlans };
    const amounts = listRoomFinishes(standing).flatMap((f) => (f.surface === 'wall' ? [[f.finish, f.amount]] : []));
    expect(amounts).toEqual(expect.arrayContaining([['Tiles', near(17.9 + 3.2)], ['Emulsion', near(4.94 + 0.8)]])); // biome-ignore format: two parts
  });
  it('tiles to the ceiling on two walls, a splashback on a third, nothing on the last part', () => {
    const parts = [
      { finish: 'Tiles', walls: [12, 14] },
      { finish: 'Splashback', fromM: 0.9, toM: 1.5, walls: [13] },
      { finish: null, fromM: 2.4 },
    ];
    expect(wallAreas(parts)).toEqual({
      Tiles: near(10),
      Splashback: near(1.8),
      // North and south above 2.4 m: 2 x 3 x 0.1.
      none: near(0.6),
      // South 3 x 2.4 - 1.8, north 3 x 1.8 - 0.36.
      Emulsion: near(5.4 + 5.04),
    });
  });
  it('are the net wall area together, however they are divided', () => {
    const height = fc.double({ min: 0, max: 2.5, noNaN: true });
    const part = fc.record({ from: height, to: height, walls: fc.subarray([11, 12, 13, 14]), name: fc.constantFrom('A', 'B', null) }); // biome-ignore format: one record
    fc.assert(
      fc.property(fc.array(part, { maxLength: 5 }), (drawn) => {
        const parts = drawn.map((d) => ({
          finish: d.name,
          fromM: Math.min(d.from, d.to),
          toM: Math.max(d.from, d.to),
          ...(d.walls.length > 0 ? { walls: d.walls } : {}),
        }));
        const total = Object.values(wallAreas(parts)).reduce((sum, m2) => sum + m2, 0);
        expect(total).toBeCloseTo(22.84, 2);
      }),
    );
  });
  it('add up by name and surface for a formula', () => {
    const table = withParts([{ finish: 'Wall tiles', toM: 2 }]);
    expect(sumFinishes(table, 0, '*tiles', 'wall')).toBeCloseTo(17.9, 9);
    expect(sumFinishes(table, 0, '*', null)).toBeCloseTo(6 + 22.84, 9);
    expect(sumFinishes(table, 0, 'Oak', null)).toBeNull();
  });
  it('know the walls around the room', () => {
    expect(listRoomWalls(plain, 0)).toEqual([11, 12, 13, 14]);
  });
});
