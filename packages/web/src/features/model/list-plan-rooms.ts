import { readText } from '@tally/core';
import type { PlanRoom } from '../../store/change-rooms.ts';
import type { LoadedModel } from '../../store/loaded-models.ts';

/** A room with what its plan shows. */
export interface DrawnOnPlan extends PlanRoom {
  readonly areaM2: number | null;
  readonly isLeftOut: boolean;
}

/** Rooms of a storey, of models and drawn here, in the order of their sources. */
export function listPlanRooms(models: readonly LoadedModel[], storey: string | null): DrawnOnPlan[] {
  return models.flatMap(({ table }) => {
    const area = table.quantities.find((q) => q.name === 'NetFloorArea' && q.basis === 'measured');
    return table.roomPlans
      .filter(({ row }) => readText(table.storey, row) === storey)
      .map(({ row, rings, bottomM, topM }): DrawnOnPlan => {
        const areaM2 = area?.values[row] ?? Number.NaN;
        return {
          key: table.keys[row]!,
          name: readText(table.name, row) ?? 'Room',
          storey,
          rings,
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
