import { BARE_ELEMENT } from '../elements/bare-element.ts';
import { buildElementTable, type ElementTable } from '../elements/element-table.ts';
import type { ModelElement, Quantity } from '../elements/model-element.ts';
import type { RoomPlan } from '../elements/site-data.ts';
import { isPointInPolygon } from '../geometry/outline.ts';
import { measureJoinedPerimeterM } from '../geometry/split-polygon.ts';
import { measureUnionAreaM2 } from '../geometry/union-area.ts';
import type { Vector2 } from '../geometry/vector.ts';
import type { SiUnit } from '../units/branded.ts';
import { deductRoomOpenings, type WallOpening } from './room.ts';

/** A room drawn in the project: where the model has none, or a piece or the sum of rooms that it has. Metres, model's world. */
export interface DrawnRoom {
  readonly name: string;
  readonly storey: string | null;
  /** Outlines as x, y pairs; a joined room has several. */
  readonly rings: readonly (readonly number[])[];
  /** Outlines of columns and courts in it; absent if it has none. */
  readonly holes?: readonly (readonly number[])[] | undefined;
  readonly bottomM: number;
  readonly topM: number;
}

/** Outline of x, y pairs as points. */
export function ringToPoints(ring: readonly number[]): Vector2[] {
  return Array.from({ length: Math.floor(ring.length / 2) }, (_, i): Vector2 => [ring[2 * i]!, ring[2 * i + 1]!]);
}

/** The outlines of a room as points, each with the columns and courts that lie in it. */
export function listRoomOutlines({ rings, holes = [] }: Pick<DrawnRoom, 'rings' | 'holes'>): {
  readonly outline: readonly Vector2[];
  readonly holes: readonly (readonly Vector2[])[];
}[] {
  const standing = holes.map(ringToPoints);
  return rings.map(ringToPoints).map((outline) => ({
    outline,
    holes: standing.filter(([at]) => at !== undefined && isPointInPolygon(at, outline)),
  }));
}

/**
 * Drawn rooms as elements like any other, by ElementKey (negative, so that none is ever that of a model's element). Floor and
 * ceiling are the area of the outlines without the columns and courts in them, walls their length x height without the openings of the
 * walls around them, those around columns and courts too; where two outlines of a joined room share an edge there is no wall.
 */
export function buildDrawnRooms(
  rooms: ReadonlyMap<number, DrawnRoom>,
  openings: readonly WallOpening[],
): ElementTable | null {
  if (rooms.size === 0) return null;
  const list = [...rooms].sort(([a], [b]) => b - a);
  const elements = list.map(([key, room]) => toElement(key, room, openings));
  const roomPlans = list.map(
    ([, { rings, holes, bottomM, topM }], row): RoomPlan => ({
      row,
      rings,
      ...(holes ? { holes } : {}),
      bottomM,
      topM,
    }),
  );
  const keys = Int32Array.from(list, ([key]) => key);
  return { ...buildElementTable(elements, keys, { roomPlans, wallOpenings: openings }), origin: { kind: 'hand' } };
}

function toElement(key: number, room: DrawnRoom, openings: readonly WallOpening[]): ModelElement {
  const { bottomM, topM } = room;
  const rings = room.rings.map(ringToPoints);
  const heightM = topM - bottomM;
  const outlines = listRoomOutlines(room);
  const area = measureUnionAreaM2(outlines.map(({ outline, holes }) => [outline, ...holes]));
  const perimeter = measureJoinedPerimeterM([...rings, ...(room.holes ?? []).map(ringToPoints)]);
  const deductions = outlines.map((o) => deductRoomOpenings({ ...o, bottomM, topM }, openings));
  const sum = (read: (d: (typeof deductions)[number]) => number) => deductions.reduce((n, d) => n + read(d), 0);
  const quantity = (name: string, value: number, unit: SiUnit): Quantity => ({
    name,
    value,
    unit,
    basis: 'measured',
    method: name === 'Count' ? 'count' : 'plan',
  });
  const xs = rings.flat().map((p) => p[0]);
  const ys = rings.flat().map((p) => p[1]);
  return {
    ...BARE_ELEMENT,
    globalId: `drawn-room${key}`,
    ifcClass: 'IfcSpace',
    name: room.name,
    storey: room.storey,
    quantities: [
      quantity('Count', 1, 'each'),
      quantity('Height', heightM, 'm'),
      quantity('NetFloorArea', area, 'm2'),
      quantity('GrossCeilingArea', area, 'm2'),
      quantity('GrossPerimeter', perimeter, 'm'),
      quantity('NetPerimeter', Math.max(0, perimeter - sum((d) => d.doorsM)), 'm'),
      quantity('GrossWallArea', perimeter * heightM, 'm2'),
      quantity('NetWallArea', Math.max(0, perimeter * heightM - sum((d) => d.wallAreaM2)), 'm2'),
      quantity('NetVolume', area * heightM, 'm3'),
    ],
    finishes: { floor: null, wall: null, ceiling: null, skirting: null },
    box: [Math.min(...xs), Math.min(...ys), room.bottomM, Math.max(...xs), Math.max(...ys), room.topM],
  };
}
