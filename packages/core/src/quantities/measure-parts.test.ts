import { applyAdditions, measureParts, type ProjectAdditions } from '../contract/project-additions.ts';
import { receiveParts, sendParts } from '../contract/send-parts.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import { buildElementTable, type ElementTable } from '../elements/element-table.ts';
import type { Box } from '../elements/model-element.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { listTakeoffFields } from '../reports/takeoff-fields.ts';
import { buildTakeoffTable } from '../reports/takeoff-table.ts';
import { NO_ADDITIONS } from '../testing/no-additions.ts';
import { sampleElement } from '../testing/sample-element.ts';
import type { Limit } from './limit.ts';

function toMesh([x0, y0, z0, x1, y1, z1]: Box): TriangleMesh {
  const ring = (z: number) => [x0, y0, z, x1, y0, z, x1, y1, z, x0, y1, z];
  const quad = (a: number, b: number, c: number, d: number) => [a, b, c, a, c, d];
  const sides = [0, 1, 2, 3].flatMap((i) => quad(i, (i + 1) % 4, ((i + 1) % 4) + 4, i + 4));
  return { positions: [...ring(z0), ...ring(z1)], indices: [...quad(0, 3, 2, 1), ...quad(4, 5, 6, 7), ...sides] };
}
const wallBox: Box = [0, 0, 0, 4, 0.3, 3];
const roomBox: Box = [0, 0.3, 0, 4, 5.3, 2.5];
const elements = [
  sampleElement({
    globalId: 'wall',
    name: 'Wall',
    box: wallBox,
    quantities: { Length: 4, NetSideArea: 12, NetVolume: 3.6 },
  }),
  sampleElement({
    globalId: 'slab',
    name: 'Slab',
    ifcClass: 'IfcSlab',
    box: [0, 0, -0.2, 4, 5, 0],
    quantities: { NetArea: 20 },
  }),
  sampleElement({
    globalId: 'room',
    name: 'Room',
    ifcClass: 'IfcSpace',
    box: roomBox,
    // 4 x 5 m, 2.5 m high, with a door of 1 x 2 m on the side of the wall.
    quantities: { NetFloorArea: 20, NetWallArea: 43, NetPerimeter: 17, GrossWallArea: 45, NetVolume: 50 },
    finishes: { floor: null, wall: null, ceiling: null, skirting: null },
  }),
  sampleElement({ globalId: 'lost', name: 'Lost', quantities: { NetSideArea: 5 } }),
];
/** 20 less 1.5 m2; edges of 18 and 5.5 m. */
const COURT = { NetFloorArea: 18.5, NetWallArea: 56.75, NetPerimeter: 22.5, GrossWallArea: 58.75, NetVolume: 46.25 };
const table = buildElementTable(elements, Int32Array.of(1, 2, 3, 4), {
  storeys: [{ name: 'Ground floor', elevation: 0, gfa: null, gfaMethod: null }],
  roomPlans: [{ row: 2, rings: [[0, 0.3, 4, 0.3, 4, 5.3, 0, 5.3]], bottomM: 0, topM: 2.5 }],
  wallAxes: [{ row: 0, points: [0, 0.15, 4, 0.15], isFirstLeft: false, widthM: 0.3, bottomM: 0, topM: 3 }],
  wallOpenings: [{ at: [1, 0.15], wallM: 0.3, widthM: 1, bottomM: 0, topM: 2 }],
});
const additions = (
  limits: readonly Limit[],
  chosen: ProjectAdditions['chosenFaces'] = new Map(),
): ProjectAdditions => ({
  ...NO_ADDITIONS,
  limits,
  chosenFaces: chosen,
});
/** The same room with a court of 0.75 x 2 m in it. */
const withCourt = buildElementTable(
  elements.map((e) => (e.name === 'Room' ? { ...e, quantities: e.quantities.map((q) => ({ ...q, value: COURT[q.name as keyof typeof COURT] })) } : e)),
  Int32Array.of(1, 2, 3, 4),
  {
    storeys: [{ name: 'Ground floor', elevation: 0, gfa: null, gfaMethod: null }],
    roomPlans: [{ row: 2, rings: [[0, 0.3, 4, 0.3, 4, 5.3, 0, 5.3]], holes: [[0.5, 1.3, 1.25, 1.3, 1.25, 3.3, 0.5, 3.3]], bottomM: 0, topM: 2.5 }],
    wallOpenings: [{ at: [1, 0.15], wallM: 0.3, widthM: 1, bottomM: 0, topM: 2 }],
  },
); // biome-ignore format: one table
const meshOf = (row: number) => (row === 0 ? toMesh(wallBox) : row === 1 ? toMesh([0, 0, -0.2, 4, 5, 0]) : null);

/** Figures of a takeoff within a limit, by element name. */
function takeOff(limit: Limit, ...names: string[]) {
  return takeOffOf(table, limit, ...names);
}
function takeOffOf(table: ElementTable, limit: Limit, ...names: string[]) {
  const asked = additions([limit]);
  const parts = receiveParts(JSON.parse(JSON.stringify(sendParts('r', measureParts(table, asked, meshOf)!))));
  const seen = applyAdditions(table, asked, parts);
  const columns = ['name', ...names.map((n) => `q:${n}`)];
  const spec = { row: 'element', scope: null, columns, groups: [], sort: null, isBundled: false } as const;
  const t = buildTakeoffTable([seen], listTakeoffFields([seen], 'element', limit.name), {
    ...spec,
    within: limit.name,
  });
  return Object.fromEntries(t.lines.map((l) => [l.cells[0], l.cells.slice(1)]));
}
const near = (v: number) => expect.closeTo(v, 6);

describe('quantities within a limit', () => {
  it('below a level of a storey: a plinth of 0.3 m', () => {
    const limit = { name: 'Plinth', below: { storey: 'ground FLOOR', offsetM: 0.3 } };
    expect(takeOff(limit, 'NetSideArea', 'NetVolume', 'Length', 'NetArea')).toEqual({
      // 4 x 0.3 = 1.2 m2 and 0.36 m3; the wall is as long as ever.
      Wall: [near(1.2), near(0.36), near(4), null],
      Slab: [null, null, null, near(20)],
      // 20 x 0.3 m3.
      Room: [null, near(6), null, null],
      // Nobody knows where it is: it is listed, without a figure.
      Lost: [null, null, null, null],
    });
  });
  it('in an outline on plan: the west 1.5 m of everything', () => {
    const limit = { name: 'West', outline: [-1, -1, 1.5, -1, 1.5, 9, -1, 9] };
    expect(takeOff(limit, 'NetSideArea', 'Length', 'NetArea', 'NetFloorArea', 'NetWallArea', 'NetPerimeter')).toEqual({
      Wall: [near(4.5), near(1.5), null, null, null, null],
      Slab: [null, null, near(7.5), null, null, null],
      // 1.5 x 5 m2; walls of 5 + 1.5 + 1.5 = 8 m x 2.5 m less the whole door, which lies in it; skirting 8 m less 1 m.
      Room: [null, null, null, near(7.5), near(18), near(7)],
      Lost: [null, null, null, null, null, null],
    });
  });
  it('in an outline on plan: the court of a room is no floor of it, and has walls around', () => {
    const limit = { name: 'West', outline: [-1, -1, 1.5, -1, 1.5, 9, -1, 9] };
    expect(takeOffOf(withCourt, limit, 'NetFloorArea', 'NetWallArea', 'NetPerimeter', 'NetVolume').Room).toEqual([
      // 1.5 x 5 less 0.75 x 2; walls of 8 and 5.5 m x 2.5 m less the door; skirting less the door; 6 x 2.5 m3.
      near(6),
      near(31.75),
      near(12.5),
      near(15),
    ]);
  });
  it('above a level: the walls of a room from 2 m up are free of its door; its floor is below', () => {
    const limit = { name: 'Upper wall', above: { storey: null, offsetM: 2 } };
    expect(takeOff(limit, 'NetWallArea', 'NetFloorArea', 'NetPerimeter').Room).toEqual([near(9), near(0), near(0)]);
  });
  it('of a storey that is not there: unknown, not nothing', () => {
    const limit = { name: 'Attic', above: { storey: 'Attic', offsetM: 0 } };
    expect(takeOff(limit, 'NetSideArea')).toMatchObject({ Wall: [null], Slab: [null] });
  });
});

describe('chosen faces', () => {
  it('are a quantity under their name; unknown where one is gone', () => {
    const south = { normal: [0, -1, 0] as const, offsetM: 0.15 };
    const chosen = new Map([
      [1, { 'Render area': [south] }],
      [2, { 'Render area': [{ normal: [0.6, 0.8, 0] as const, offsetM: 0 }] }],
    ]);
    const asked = additions([], chosen);
    const seen = applyAdditions(table, asked, measureParts(table, asked, meshOf));
    const figures = listEffectiveQuantities(seen).get('render area')!;
    expect([...figures.values]).toEqual([near(12), Number.NaN, Number.NaN, Number.NaN]);
    expect(measureParts(table, additions([]), meshOf)).toBeNull();
  });
});
