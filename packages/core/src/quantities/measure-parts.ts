import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import type { LimitParts, PartShares } from '../elements/element-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { RoomPlan } from '../elements/site-data.ts';
import { measureLengthWithin, measureWithin, type Region, type WithinMeasures } from '../geometry/measure-within.ts'; // biome-ignore format: one module
import { isPointInPolygon } from '../geometry/outline.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { measureUnionAreaM2 } from '../geometry/union-area.ts';
import type { Vector2, Vector3 } from '../geometry/vector.ts';
import { listRoomOutlines, ringToPoints } from './drawn-rooms.ts';
import { nameFace } from './face-areas.ts';
import { type Limit, placeLimit } from './limit.ts';
import { deductRoomOpenings } from './room.ts';

/** The mesh of a row in the model's world, openings cut out; null if there is none. */
export type MeshOfRow = (row: number) => TriangleMesh | null;

const EVERYTHING: Region = { fromM: null, toM: null, outline: null };
const UP: Vector3 = [0, 0, 1];

/** What of a table's elements lies within a limit: whole ones by their extents, those it cuts by their shape. */
export function measureLimit(table: ElementTable, limit: Limit, meshOf: MeshOfRow): LimitParts {
  const inside = new Set<number>();
  const crossing = new Map<number, PartShares>();
  const unknown = new Set<number>();
  const region = placeLimit(limit, table);
  const rooms = new Map(table.roomPlans.map((room) => [room.row, room]));
  const axes = new Map(table.wallAxes.map((axis) => [axis.row, axis.points]));
  for (let row = 0; row < table.count; row++) {
    const place = region ? locateBox(table.boxes.subarray(row * 6, row * 6 + 6), region) : 'unknown';
    if (place === 'inside') inside.add(row);
    if (place === 'unknown') unknown.add(row);
    if (place !== 'crossing') continue;
    const room = rooms.get(row);
    const mesh = room ? null : meshOf(row);
    const shares = room
      ? measureRoomShares(room, region!, table)
      : mesh
        ? measureShares(mesh, region!, table, row, axes.get(row))
        : null;
    if (shares) crossing.set(row, shares);
    else unknown.add(row);
  }
  return { name: limit.name, inside, crossing, unknown };
}

/** Where a box lies to a region; `crossing` also where only a closer look can tell. */
function locateBox(box: Float64Array, { fromM, toM, outline }: Region): 'inside' | 'outside' | 'crossing' | 'unknown' {
  const [x0, y0, z0, x1, y1, z1] = box as unknown as [number, number, number, number, number, number];
  if (Number.isNaN(x0)) return 'unknown';
  const [from, to] = [fromM ?? -Infinity, toM ?? Infinity];
  if (z1 <= from || z0 >= to) return 'outside';
  const isBetween = z0 >= from && z1 <= to;
  if (!outline) return isBetween ? 'inside' : 'crossing';
  const corners: Vector2[] = [[x0, y0], [x1, y0], [x1, y1], [x0, y1]]; // biome-ignore format: one box
  const edge = measureLengthWithin([...corners, corners[0]!], outline);
  const around = 2 * (x1 - x0 + y1 - y0);
  const isCornerIn = outline.some(([x, y]) => x > x0 && x < x1 && y > y0 && y < y1);
  if (isCornerIn || (edge > 0 && edge < around * (1 - 1e-9))) return 'crossing';
  if (edge > 0) return isBetween ? 'inside' : 'crossing';
  return isPointInPolygon([(x0 + x1) / 2, (y0 + y1) / 2], outline) ? (isBetween ? 'inside' : 'crossing') : 'outside';
}

function measureShares(
  mesh: TriangleMesh,
  region: Region,
  table: ElementTable,
  row: number,
  axis: readonly number[] | undefined,
): PartShares {
  const ifcClass = table.ifcClass.pool[table.ifcClass.index[row]!] ?? '';
  const across = isClassOrSubtype(ifcClass, 'IfcWall') ? findAcross(mesh) : undefined;
  const look = (normal: Vector3) => nameFace(normal, { up: UP, across });
  const [whole, part] = [measureWithin(mesh, EVERYTHING, look), measureWithin(mesh, region, look)];
  const share = (read: (m: WithinMeasures) => number) => {
    const all = read(whole);
    return all > 0 ? Math.min(1, Math.max(0, read(part) / all)) : 0;
  };
  const volume = share((m) => m.volumeM3);
  const line = axis ? ringToPoints(axis) : null;
  return {
    volume,
    top: share((m) => m.topM2),
    bottom: share((m) => m.bottomM2),
    sides: share((m) => m.sidesM2),
    ends: share((m) => m.endsM2),
    surface: share((m) => m.topM2 + m.bottomM2 + m.sidesM2 + m.endsM2),
    // A wall is as long as its middle line within the outline, whatever is cut off its height.
    length: line ? (region.outline ? measureLengthWithin(line, region.outline) / runOf(line) : 1) : volume,
  };
}

const runOf = (line: readonly Vector2[]) =>
  line.reduce((sum, p, i) => (i > 0 ? sum + Math.hypot(p[0] - line[i - 1]![0], p[1] - line[i - 1]![1]) : 0), 0);

/** Direction across a wall: that of most of its upright faces, whichever side they look to. */
function findAcross({ positions, indices }: TriangleMesh): Vector3 {
  let [cos, sin] = [0, 0];
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => indices[i + k]! * 3) as [number, number, number];
    const [ux, uy, uz] = [0, 1, 2].map((k) => positions[b + k]! - positions[a + k]!) as [number, number, number];
    const [vx, vy, vz] = [0, 1, 2].map((k) => positions[c + k]! - positions[a + k]!) as [number, number, number];
    const [nx, ny] = [uy * vz - uz * vy, uz * vx - ux * vz];
    const size = Math.hypot(nx, ny);
    if (size === 0) continue;
    // Doubling the angle makes opposite directions one.
    cos += (nx * nx - ny * ny) / size;
    sin += (2 * nx * ny) / size;
  }
  const angle = Math.atan2(sin, cos) / 2;
  return [Math.cos(angle), Math.sin(angle), 0];
}

/** A room lies on plan: its outlines and the openings around it are cut, not a mesh. */
function measureRoomShares(room: RoomPlan, region: Region, table: ElementTable): PartShares {
  const outlines = room.rings.map(ringToPoints);
  const holes = (room.holes ?? []).map(ringToPoints);
  // What has walls along it: the outlines, and what stands in the room.
  const rings = [...outlines, ...holes];
  const [bottomM, topM] = [Math.max(room.bottomM, region.fromM ?? -Infinity), Math.min(room.topM, region.toM ?? Infinity)]; // biome-ignore format: one band
  const heightShare = (topM - bottomM) / (room.topM - room.bottomM);
  const { outline } = region;
  const areaOf = (ring: readonly Vector2[]) => measureUnionAreaM2([[ring]]);
  const edgeOf = (ring: readonly Vector2[]) => [...ring, ring[0]!];
  const ratio = (part: number, whole: number) => (whole > 0 ? Math.max(0, part / whole) : 0);
  const sum = (read: (ring: readonly Vector2[]) => number) => rings.reduce((n, ring) => n + read(ring), 0);
  const floorOf = (read: (ring: readonly Vector2[]) => number) =>
    outlines.reduce((n, ring) => n + read(ring), 0) - holes.reduce((n, ring) => n + read(ring), 0);
  const floor = outline
    ? ratio(
        floorOf((r) => areaWithin(r, outline)),
        floorOf(areaOf),
      )
    : 1;
  const length = outline ? ratio(sum((r) => measureLengthWithin(edgeOf(r), outline)), sum((r) => runOf(edgeOf(r)))) : 1; // biome-ignore format: one share
  const openings = outline ? table.wallOpenings.filter((o) => isPointInPolygon(o.at, outline)) : table.wallOpenings;
  const perimeter = sum((r) => runOf(edgeOf(r)));
  const wallsOf = (band: readonly [number, number], run: number, list: ElementTable['wallOpenings']) => {
    const deduct = (from: number, to: number) =>
      listRoomOutlines(room).map((o) => deductRoomOpenings({ ...o, bottomM: from, topM: to }, list));
    const [taken, doors] = [deduct(...band), deduct(room.bottomM, room.topM)];
    return {
      area: run * (band[1] - band[0]) - taken.reduce((n, d) => n + d.wallAreaM2, 0),
      skirting: run - doors.reduce((n, d) => n + d.doorsM, 0),
    };
  };
  const [all, part] = [
    wallsOf([room.bottomM, room.topM], perimeter, table.wallOpenings),
    wallsOf([bottomM, topM], perimeter * length, openings),
  ];
  const isFloorIn = bottomM <= room.bottomM + 1e-9;
  const isCeilingIn = topM >= room.topM - 1e-9;
  return {
    volume: floor * heightShare,
    top: isCeilingIn ? floor : 0,
    bottom: isFloorIn ? floor : 0,
    sides: length * heightShare,
    ends: 0,
    surface: length * heightShare,
    length: isFloorIn ? length : 0,
    named: {
      NetWallArea: ratio(part.area, all.area),
      NetPerimeter: isFloorIn ? ratio(part.skirting, all.skirting) : 0,
      NetFloorArea: isFloorIn ? floor : 0,
      GrossFloorArea: isFloorIn ? floor : 0,
      GrossCeilingArea: isCeilingIn ? floor : 0,
    },
  };
}

/** Area that two outlines share: what they cover each, less what they cover together. */
function areaWithin(ring: readonly Vector2[], outline: readonly Vector2[]): number {
  const [a, b] = [measureUnionAreaM2([[ring]]), measureUnionAreaM2([[outline]])];
  return Math.max(0, a + b - measureUnionAreaM2([[ring], [outline]]));
}
