import { buildElementTable } from '../elements/element-table.ts';
import { runPipeline } from '../pipeline.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { groupPlan } from './group-plan.ts';
import { shareOverRooms } from './share-rooms.ts';

const BARE_ROOM = { floor: null, wall: null, ceiling: null, skirting: null };
/** A wall of 7 m with a hall of 4 m on one side and a store of 3 m on the other; a door where both are, a window where only the hall is, a post by itself. */
const TABLE = buildElementTable(
  [
    sampleElement({ globalId: 'wall', quantities: { NetSideArea: 14 } }),
    sampleElement({ globalId: 'door', ifcClass: 'IfcDoor', host: 'wall', box: [1.5, -0.1, 0, 2.4, 0.1, 2.1], quantities: { NetSideArea: 2 } }),
    sampleElement({ globalId: 'window', ifcClass: 'IfcWindow', host: 'wall', box: [3.2, -0.1, 1, 3.8, 0.1, 2], quantities: { NetSideArea: 1 } }),
    sampleElement({ globalId: 'post', ifcClass: 'IfcColumn', quantities: { NetSideArea: 3 } }),
    sampleElement({ globalId: 'hall', ifcClass: 'IfcSpace', name: 'Hall', finishes: BARE_ROOM }),
    sampleElement({ globalId: 'store', ifcClass: 'IfcSpace', name: 'Store', finishes: BARE_ROOM }),
    sampleElement({ globalId: 'shelf', ifcClass: 'IfcFurniture', space: 'store', quantities: { NetSideArea: 5 } }),
  ],
  Int32Array.from([1, 2, 3, 4, 5, 6, 7]),
  {
    wallAxes: [{ row: 0, isFirstLeft: true, points: [0, 0, 7, 0], widthM: 0.2, bottomM: 0, topM: 3 }],
    roomPlans: [
      { row: 4, rings: [[0, 0.1, 4, 0.1, 4, 3, 0, 3]], bottomM: 0, topM: 2.6 },
      { row: 5, rings: [[0, -3, 3, -3, 3, -0.1, 0, -0.1]], bottomM: 0, topM: 2.6 },
    ],
  },
); // biome-ignore format: seven elements
const shares = () => shareOverRooms(TABLE).map((list) => list.map((s) => [s.room, Number(s.share.toFixed(6))]).sort());

describe('rooms', () => {
  it('share a wall by the lengths along it, a door half and half, and have alone what only they have', () =>
    expect(shares()).toEqual([
      [['Hall', 0.571429], ['Store', 0.428571]], // 4 m and 3 m of 7
      [['Hall', 0.5], ['Store', 0.5]],
      [['Hall', 1]],
      [],
      [['Hall', 1]],
      [['Store', 1]],
      [['Store', 1]],
    ])); // biome-ignore format: a line each
  it('divide the plan without a rest: the same total, amounts and quantities that add up', () => {
    const plan = runPipeline(sampleBasis([sampleItem('I', 'm2', '10.00')], [{ item: 'I', quantity: 'Driver' }]), [
      { sourceId: 'm', table: TABLE },
    ]);
    const grouped = groupPlan(plan, ['room'], { sections: [] });
    // Wall 140.00: 80 and 60; door 20.00: 10 and 10; window 10.00 the hall's, shelf 50.00 the store's; the post 30.00 in none.
    expect(grouped.groups.map((g) => [g.label, g.minor, g.lines[0]!.net])).toEqual([
      ['Hall', 10_000, expect.closeTo(10, 9)],
      ['No room', 3000, 3],
      ['Store', 12_000, expect.closeTo(12, 9)],
    ]);
    expect(grouped.minor).toBe(25_000);
  });
});
