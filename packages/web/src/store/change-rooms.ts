import {
  type DrawnRoom,
  type EntryDiff,
  FINISH_SURFACES,
  listRoomOutlines,
  type ProjectStateDto,
  type RoomFinishes,
  type WallFinish,
} from '@tally/core';
import { makeKey } from './make-key.ts';

/** A room as it is seen on the plan, from a model or drawn here. */
export interface PlanRoom {
  readonly key: number;
  readonly name: string;
  readonly storey: string | null;
  readonly rings: readonly (readonly number[])[];
  /** Columns and courts in it. */
  readonly holes: readonly (readonly number[])[];
  readonly bottomM: number;
  readonly topM: number;
  readonly finishes: RoomFinishes;
}

type Layer = ProjectStateDto['layer'];
interface Draft {
  readonly cause: string;
  readonly diff: { added: EntryDiff['added'][number][]; removed: EntryDiff['removed'][number][] };
}

const start = (cause: string): Draft => ({ cause, diff: { added: [], removed: [] } });

/** Adds a drawn room; its key. */
function addRoom({ diff }: Draft, room: DrawnRoom): string {
  const id = String(makeKey());
  diff.added.push({ kind: 'drawnRoom', id, body: room });
  return id;
}

/** Adds a drawn room that comes from another: it has the finishes of that, and what was said of it here. */
function addRoomFrom(from: PlanRoom, layer: Layer, draft: Draft, room: DrawnRoom): void {
  const { diff } = draft;
  const id = addRoom(draft, room);
  const given = Object.fromEntries(FINISH_SURFACES.flatMap((s) => (from.finishes[s] ? [[s, from.finishes[s]]] : [])));
  if (Object.keys(given).length > 0) diff.added.push({ kind: 'finishes', id, body: given });
  const wallParts = partsOf(layer, from);
  if (wallParts.length > 0) diff.added.push({ kind: 'wallFinishes', id, body: wallParts });
  for (const kind of ['attributes', 'zones'] as const) {
    const body = layer[kind][String(from.key)];
    if (body) diff.added.push({ kind, id, body });
  }
}

/** Takes a room out of the count: one drawn here goes, with what hangs on it; one of a model is left out. */
function takeOut({ diff }: Draft, layer: Layer, { key }: PlanRoom, reason: string): void {
  const id = String(key);
  const drawn = layer.drawnRooms[id];
  if (!drawn) {
    diff.added.push({ kind: 'leftOut', id, body: { reason } });
    return;
  }
  diff.removed.push({ kind: 'drawnRoom', id, body: drawn });
  for (const kind of ['finishes', 'wallFinishes', 'attributes', 'zones', 'chosenFaces'] as const) {
    const body = layer[kind][id];
    if (body) diff.removed.push({ kind, id, body });
  }
}

/** Parts of a room's walls that hold all round: single walls are not those of the new room. */
const partsOf = (layer: Layer, { key }: PlanRoom): WallFinish[] =>
  (layer.wallFinishes[String(key)] ?? []).filter((p) => p.walls === undefined);

type Rings = DrawnRoom['rings'];
const toDrawn = ({ name, storey, bottomM, topM }: PlanRoom, rings: Rings, holes: Rings): DrawnRoom => ({
  name,
  storey,
  rings,
  ...(holes.length > 0 ? { holes } : {}),
  bottomM,
  topM,
});

/** Draws a room where the model has none. */
export function drawRoom(room: DrawnRoom): Draft {
  const draft = start(`Room drawn: ${room.name}`);
  addRoom(draft, room);
  return draft;
}

/** Puts two pieces in the place of a room; each has the columns and courts that lie in it. */
export function divideRoom(layer: Layer, room: PlanRoom, pieces: Rings): Draft {
  const draft = start(`Room divided: ${room.name}`);
  takeOut(draft, layer, room, 'Divided here');
  for (const [i, { outline, holes }] of listRoomOutlines({ rings: pieces, holes: room.holes }).entries()) {
    const piece = toDrawn(
      room,
      [outline.flat()],
      holes.map((hole) => hole.flat()),
    );
    addRoomFrom(room, layer, draft, { ...piece, name: `${room.name} ${i + 1}` });
  }
  return draft;
}

/** Puts one room in the place of several; it has the name and the finishes of the first, and what was said of that here. */
export function joinRooms(layer: Layer, rooms: readonly PlanRoom[]): Draft {
  const [first] = rooms as readonly [PlanRoom, ...PlanRoom[]];
  const draft = start(`Rooms joined: ${rooms.map((r) => r.name).join(', ')}`);
  for (const room of rooms) takeOut(draft, layer, room, 'Joined here');
  const [bottomM, topM] = [Math.min(...rooms.map((r) => r.bottomM)), Math.max(...rooms.map((r) => r.topM))];
  const [rings, holes] = [rooms.flatMap((r) => r.rings), rooms.flatMap((r) => r.holes)];
  addRoomFrom(first, layer, draft, { ...toDrawn(first, rings, holes), bottomM, topM });
  return draft;
}

/** Leaves rooms out of the count. */
export function leaveOutRooms(layer: Layer, rooms: readonly PlanRoom[]): Draft {
  const draft = start(`Left out: ${rooms.map((r) => r.name).join(', ')}`);
  for (const room of rooms) takeOut(draft, layer, room, 'Left out here');
  return draft;
}

/** Takes rooms of a model in again. */
export function takeInRooms(layer: Layer, rooms: readonly PlanRoom[]): Draft {
  const draft = start(`Taken in again: ${rooms.map((r) => r.name).join(', ')}`);
  for (const { key } of rooms) {
    const reason = layer.leftOut[String(key)];
    if (reason !== undefined) draft.diff.removed.push({ kind: 'leftOut', id: String(key), body: { reason } });
  }
  return draft;
}
