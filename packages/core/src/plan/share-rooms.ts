import { readText } from '../elements/columns.ts';
import { type ElementTable, readBox } from '../elements/element-table.ts';
import { relateElements } from '../elements/relations.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { Vector2 } from '../geometry/vector.ts';
import { RoomWalls } from '../quantities/room-walls.ts';
import { readRoomNames } from '../scopes/related-text.ts';

/** The part of an element that a room has; those of one element add up to 1. */
export interface RoomShare {
  readonly room: string;
  readonly share: number;
}

/** A stretch of a wall that a room lies along. */
interface WallStretch {
  readonly room: number;
  readonly from: Vector2;
  readonly to: Vector2;
  readonly bottomM: number;
  readonly topM: number;
}

const known = new WeakMap<ElementTable, readonly (readonly RoomShare[])[]>();
const NONE: readonly RoomShare[] = [];

/**
 * How each element of a table is shared out over rooms, by row; none for what belongs to no room. A room and what lies in it are that room's alone. A wall is
 * shared by the lengths along which rooms lie beside it, both sides together; what a wall hosts in equal parts by the rooms beside it there; a part as its whole.
 * @example a wall with 4 m of the hall on one side and 3 m of the store on the other: 4/7 and 3/7; the door between them: half and half
 */
export function shareOverRooms(table: ElementTable): readonly (readonly RoomShare[])[] {
  const kept = known.get(table);
  if (kept) return kept;
  const names = nameRooms(table);
  const along = gatherStretches(table);
  const { wholes, hosts } = relateElements(table);
  const rowOf = listRowsByKey(table.keys);
  const ownName = readRoomNames(table);
  const shares: (readonly RoomShare[] | undefined)[] = new Array(table.count);
  const toShares = (weights: ReadonlyMap<number, number>): readonly RoomShare[] => {
    const sum = [...weights.values()].reduce((a, b) => a + b, 0);
    return sum > 0 ? [...weights].map(([room, w]) => ({ room: names.get(room)!, share: w / sum })) : NONE;
  };
  const find = (row: number, depth: number): readonly RoomShare[] => {
    const done = shares[row];
    if (done) return done;
    const own = ((): readonly RoomShare[] => {
      if (table.rooms[row]) return [{ room: names.get(row)!, share: 1 }];
      const inside = rowOfRoom.get(readText(table.space, row) ?? '');
      if (inside !== undefined) return [{ room: names.get(inside)!, share: 1 }];
      const elsewhere = readText(ownName, row);
      if (elsewhere !== null) return [{ room: elsewhere, share: 1 }];
      const beside = along.get(row);
      if (beside) return toShares(sumLengths(beside));
      const host = rowOf.get(hosts[row]!);
      if (host !== undefined) {
        const near = findNear(table, row, along.get(host) ?? []);
        return near.size > 0 ? toShares(near) : depth > 0 ? find(host, depth - 1) : NONE;
      }
      const whole = rowOf.get(wholes[row]!);
      return whole !== undefined && depth > 0 ? find(whole, depth - 1) : NONE;
    })();
    shares[row] = own;
    return own;
  };
  const rowOfRoom = new Map<string, number>();
  for (const row of names.keys()) rowOfRoom.set(readText(table.identity, row) ?? `row ${row}`, row);
  for (let row = 0; row < table.count; row++) find(row, MOST_STEPS);
  known.set(table, shares as (readonly RoomShare[])[]);
  return shares as (readonly RoomShare[])[];
}

/** Steps from a part to its whole, from a filling to its host, that are followed. */
const MOST_STEPS = 8;

/** Names of rooms by row; of several with one name each says its storey. */
function nameRooms(table: ElementTable): ReadonlyMap<number, string> {
  const all = readRoomNames(table);
  const rows = [...table.rooms].flatMap((isRoom, row) => (isRoom ? [row] : []));
  const counts = new Map<string, number>();
  const plain = (row: number) => readText(all, row) ?? 'Room';
  for (const row of rows) counts.set(plain(row), (counts.get(plain(row)) ?? 0) + 1);
  return new Map(
    rows.map((row) => {
      const name = plain(row);
      const storey = readText(table.storey, row);
      return [row, counts.get(name)! > 1 && storey !== null ? `${name} (${storey})` : name];
    }),
  );
}

/** The stretches of walls that rooms lie along, by row of the wall. */
function gatherStretches(table: ElementTable): ReadonlyMap<number, WallStretch[]> {
  const walls = new RoomWalls(table.wallAxes.map((axis) => ({ ...axis, points: toPoints(axis.points) })));
  const found = new Map<number, WallStretch[]>();
  for (const { row: room, rings, bottomM, topM } of table.roomPlans)
    for (const ring of rings) {
      const outline = toPoints(ring);
      for (const { edge, fromM, toM, wall } of walls.listStretches(outline, bottomM, topM)) {
        if (wall === null) continue;
        const [a, b] = [outline[edge]!, outline[(edge + 1) % outline.length]!];
        const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
        const at = (m: number): Vector2 => [a[0] + ((b[0] - a[0]) * m) / length, a[1] + ((b[1] - a[1]) * m) / length];
        const row = table.wallAxes[wall]!.row;
        const list = found.get(row) ?? [];
        list.push({ room, from: at(fromM), to: at(toM), bottomM, topM });
        found.set(row, list);
      }
    }
  return found;
}

const toPoints = (flat: readonly number[]): Vector2[] =>
  Array.from({ length: flat.length / 2 }, (_, i) => [flat[2 * i]!, flat[2 * i + 1]!]);

function sumLengths(stretches: readonly WallStretch[]): Map<number, number> {
  const lengths = new Map<number, number>();
  for (const { room, from, to } of stretches)
    lengths.set(room, (lengths.get(room) ?? 0) + Math.hypot(to[0] - from[0], to[1] - from[1]));
  return lengths;
}

/** The rooms beside the middle of an element that a wall hosts, each once. */
function findNear(table: ElementTable, row: number, stretches: readonly WallStretch[]): Map<number, number> {
  const near = new Map<number, number>();
  const [x0, y0, z0, x1, y1, z1] = readBox(table, row);
  if (Number.isNaN(x0)) return near;
  const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
  for (const { room, from, to, bottomM, topM } of stretches) {
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const along = ((x - from[0]) * (to[0] - from[0]) + (y - from[1]) * (to[1] - from[1])) / length;
    const isAlong = along > -TOLERANCE.joint && along < length + TOLERANCE.joint;
    if (isAlong && Math.min(z1, topM) - Math.max(z0, bottomM) > TOLERANCE.joint) near.set(room, 1);
  }
  return near;
}
