import { appendToList, readText, ringToPoints } from '@tally/core';
import type { PlanRoom } from '../../store/change-rooms.ts';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { allRows, boundRows } from './bound-rows.ts';

/** A room with what its plan shows. */
export interface DrawnOnPlan extends PlanRoom {
  readonly areaM2: number | null;
  readonly isLeftOut: boolean;
}

const NO_HOLES: DrawnOnPlan['holes'] = [];

/** Rooms of a storey, of models and drawn here, in the order of their sources. */
export function listPlanRooms(models: readonly LoadedModel[], storey: string | null): DrawnOnPlan[] {
  return models.flatMap(({ table }) => {
    const area = table.quantities.find((q) => q.name === 'NetFloorArea' && q.basis === 'measured');
    return table.roomPlans
      .filter(({ row }) => readText(table.storey, row) === storey)
      .map(({ row, rings, holes = NO_HOLES, bottomM, topM }): DrawnOnPlan => {
        const areaM2 = area?.values[row] ?? Number.NaN;
        return {
          key: table.keys[row]!,
          name: readText(table.name, row) ?? 'Room',
          storey,
          rings,
          holes,
          bottomM,
          topM,
          finishes: {
            floor: readText(table.finishes.floor, row),
            wall: readText(table.finishes.wall, row),
            ceiling: readText(table.finishes.ceiling, row),
            skirting: readText(table.finishes.skirting, row),
          },
          areaM2: Number.isNaN(areaM2) ? null : areaM2,
          isLeftOut: table.excluded?.[row] === 1,
        };
      });
  });
}

/** From where to where most of the rooms reach that count, m; null where there is none. */
export function findUsualHeight(
  rooms: readonly DrawnOnPlan[],
): { readonly bottomM: number; readonly topM: number } | null {
  const alike = new Map<string, DrawnOnPlan[]>();
  for (const room of rooms)
    if (!room.isLeftOut) appendToList(alike, `${room.bottomM.toFixed(3)} ${room.topM.toFixed(3)}`, room);
  const [most] = [...alike.values()].sort((a, b) => b.length - a.length);
  return most ? { bottomM: most[0]!.bottomM, topM: most[0]!.topM } : null;
}

/** Extent of a storey on plan, m: of its rooms, else of everything on it; null if there is nothing. */
export function boundPlan(
  rooms: readonly DrawnOnPlan[],
  models: readonly LoadedModel[],
  storey: string | null,
): { readonly x0: number; readonly x1: number; readonly y0: number; readonly y1: number } | null {
  const points = rooms.flatMap((r) => r.rings.flatMap(ringToPoints));
  if (points.length === 0) {
    const isOn = ({ model, row }: { model: LoadedModel; row: number }) =>
      storey !== null && readText(model.table.storey, row) === storey;
    const box = boundRows([...allRows(models)].filter(isOn));
    return box && { x0: box[0], x1: box[3], y0: box[1], y1: box[4] };
  }
  const reach = (pick: (...of: number[]) => number, axis: 0 | 1) =>
    points.reduce((to, p) => pick(to, p[axis]), points[0]![axis]);
  return { x0: reach(Math.min, 0), x1: reach(Math.max, 0), y0: reach(Math.min, 1), y1: reach(Math.max, 1) };
}
