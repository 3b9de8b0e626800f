import { readText } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { FinishSurface, WallFinish } from '../elements/model-element.ts';
import type { PlanOpening, RoomPlan } from '../elements/site-data.ts';
import { measureJoinedPerimeterM } from '../geometry/split-polygon.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { Vector2 } from '../geometry/vector.ts';
import { appendToList } from '../result/append-to-list.ts';
import { compileTextMatcher } from '../scopes/text-matcher.ts';
import { foldText } from '../units/fold-text.ts';
import { ringToPoints } from './drawn-rooms.ts';
import { toWallAxis } from './junctions-among.ts';
import { RoomWalls } from './room-walls.ts';

/** What a surface of a room, or a part of its walls, is finished with and how much of it there is: m2, of skirting m. */
export interface RoomFinish {
  readonly row: number;
  readonly surface: FinishSurface;
  /** Null is "none assigned". */
  readonly finish: string | null;
  /** NaN where it is not known. */
  readonly amount: number;
}

/** Quantity that each surface is finished by. */
const SURFACE_QUANTITIES: Record<FinishSurface, string> = {
  floor: 'NetFloorArea',
  ceiling: 'GrossCeilingArea',
  wall: 'NetWallArea',
  skirting: 'NetPerimeter',
};
const FINISH_ORDER: readonly FinishSurface[] = ['floor', 'wall', 'ceiling', 'skirting'];

const known = new WeakMap<ElementTable, readonly RoomFinish[]>();
const finders = new WeakMap<ElementTable['wallAxes'], RoomWalls>();

/** Finishes of every room of a table, surface by surface; walls that take several finishes part by part. Worked out once per table. */
export function listRoomFinishes(table: ElementTable): readonly RoomFinish[] {
  let list = known.get(table);
  if (!list) {
    const plans = new Map(table.roomPlans.map((plan) => [plan.row, plan]));
    const columns = listEffectiveQuantities(table);
    list = [...table.rooms.keys()]
      .filter((row) => table.rooms[row])
      .flatMap((row) =>
        FINISH_ORDER.flatMap((surface): RoomFinish[] => {
          const general = readText(table.finishes[surface], row);
          const bands = surface === 'wall' ? table.wallFinishes?.get(row) : undefined;
          const plan = plans.get(row);
          if (bands && plan)
            return [...measureWallParts(table, plan, bands, general)].map(([finish, amount]) => ({
              row,
              surface,
              finish,
              amount,
            }));
          const amount = columns.get(SURFACE_QUANTITIES[surface].toLowerCase())?.values[row] ?? Number.NaN;
          return [{ row, surface, finish: general, amount }];
        }),
      );
    known.set(table, list);
  }
  return list;
}

const byRow = new WeakMap<readonly RoomFinish[], Map<number, RoomFinish[]>>();

/**
 * Area of a room's floor, walls and ceiling that have a finish (case, accents and spaces do not matter; `*` and `?` are wildcards), or
 * of one of them, m2. Null if it has none, or if one of them is not known.
 */
export function sumFinishes(
  table: ElementTable,
  row: number,
  pattern: string,
  surface: FinishSurface | null,
): number | null {
  const list = listRoomFinishes(table);
  let rows = byRow.get(list);
  if (!rows) {
    rows = new Map();
    for (const part of list) appendToList(rows, part.row, part);
    byRow.set(list, rows);
  }
  const match = compileTextMatcher(pattern);
  const meant = (rows.get(row) ?? []).filter(
    (p) =>
      p.finish !== null &&
      (surface === null ? p.surface !== 'skirting' : p.surface === surface) &&
      match(foldText(p.finish)),
  );
  const sum = meant.reduce((total, p) => total + p.amount, 0);
  return meant.length === 0 || Number.isNaN(sum) ? null : sum;
}

interface Stretch {
  readonly lengthM: number;
  /** ElementKey of the wall behind it; null where none is known. */
  readonly wall: number | null;
  readonly openings: PlanOpening[];
}

/** Area of a room's walls by finish, m2: height bands and chosen walls in the order given, the general finish for what is left. */
function measureWallParts(
  table: ElementTable,
  plan: RoomPlan,
  bands: readonly WallFinish[],
  general: string | null,
): Map<string | null, number> {
  const height = plan.topM - plan.bottomM;
  const cuts = [0, height, ...bands.flatMap((b) => [b.fromM ?? 0, b.toM ?? height])]
    .filter((h) => h >= 0 && h <= height)
    .sort((a, b) => a - b);
  const out = new Map<string | null, number>();
  for (const { lengthM, wall, openings } of listStretches(table, plan)) {
    for (let i = 0; i + 1 < cuts.length; i++) {
      const [from, to] = [cuts[i]!, cuts[i + 1]!];
      if (to - from < TOLERANCE.point) continue;
      const band = bands.find(
        (b) =>
          (b.fromM ?? 0) <= from + TOLERANCE.point &&
          (b.toM ?? height) >= to - TOLERANCE.point &&
          (b.walls === undefined || (wall !== null && b.walls.includes(wall))),
      );
      const open = openings.reduce(
        (sum, o) =>
          sum + o.widthM * Math.max(0, Math.min(o.topM - plan.bottomM, to) - Math.max(o.bottomM - plan.bottomM, from)),
        0,
      );
      const finish = band ? band.finish : general;
      out.set(finish, (out.get(finish) ?? 0) + lengthM * (to - from) - open);
    }
  }
  return out;
}

/** The walls around a room stretch by stretch, each with its openings. A room of several outlines is one stretch without walls. */
function listStretches(table: ElementTable, { rings, holes = [], bottomM, topM }: RoomPlan): Stretch[] {
  const outlines = rings.map(ringToPoints);
  const near = table.wallOpenings.filter(
    (o) => Math.min(o.topM, topM) - Math.max(o.bottomM, bottomM) > TOLERANCE.touch,
  );
  const isAt = (o: PlanOpening, outline: readonly Vector2[]) => findNearest(o.at, outline).gapM <= o.wallM / 2 + TOLERANCE.joint; // biome-ignore format: one rule
  const [outline] = outlines;
  // What stands in the room has finishes too.
  const standing = holes.map(ringToPoints).map(
    (ring): Stretch => ({
      lengthM: measureJoinedPerimeterM([ring]),
      wall: null,
      openings: near.filter((o) => isAt(o, ring)),
    }),
  );
  if (!outline || outlines.length > 1)
    return [
      ...standing,
      {
        lengthM: measureJoinedPerimeterM(outlines),
        wall: null,
        openings: near.filter((o) => outlines.some((ring) => isAt(o, ring))),
      },
    ];
  const finder = finders.get(table.wallAxes) ?? new RoomWalls(table.wallAxes.map(toWallAxis));
  finders.set(table.wallAxes, finder);
  const found = finder.listStretches(outline, bottomM, topM);
  const stretches = found.map(
    (s): Stretch => ({
      lengthM: s.toM - s.fromM,
      wall: s.wall === null ? null : table.keys[table.wallAxes[s.wall]!.row]!,
      openings: [],
    }),
  );
  for (const o of near) {
    if (!isAt(o, outline)) continue;
    const { edge, alongM } = findNearest(o.at, outline);
    const at = found.findIndex((s) => s.edge === edge && alongM >= s.fromM - 1e-9 && alongM <= s.toM + 1e-9);
    stretches[at < 0 ? found.findIndex((s) => s.edge === edge) : at]?.openings.push(o);
  }
  return [...stretches, ...standing];
}

/** Walls around a room by ElementKey, each once, in the order of its outline. */
export function listRoomWalls(table: ElementTable, row: number): number[] {
  const plan = table.roomPlans.find((p) => p.row === row);
  return plan ? [...new Set(listStretches(table, plan).flatMap((s) => (s.wall === null ? [] : [s.wall])))] : [];
}

function findNearest([x, y]: Vector2, outline: readonly Vector2[]): { edge: number; alongM: number; gapM: number } {
  let best = { edge: 0, alongM: 0, gapM: Number.POSITIVE_INFINITY };
  for (const [edge, a] of outline.entries()) {
    const b = outline[(edge + 1) % outline.length]!;
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (length === 0) continue;
    const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const alongM = Math.max(0, Math.min(length, (x - a[0]) * ux + (y - a[1]) * uy));
    const gapM = Math.hypot(a[0] + ux * alongM - x, a[1] + uy * alongM - y);
    if (gapM < best.gapM) best = { edge, alongM, gapM };
  }
  return best;
}
