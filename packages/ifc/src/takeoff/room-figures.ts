import {
  deductRoomOpenings,
  measureFinishM,
  measurePolygonAreaM2,
  moveOutline,
  type PlanOpening,
  type Quantity,
  type RoomShape,
  RoomWalls,
  type RowAxis,
  toWallAxis,
} from '@tally/core';
import { findRoomShape } from './plan-shapes.ts';
import { exact, type MeasuredElement } from './site-figures.ts';

/**
 * Ceiling, walls and skirting of each room, openings of the walls around it deducted, and the same to the structural face: the
 * outline moved outward by the finish layers of those walls; by record number.
 */
export function measureRooms(
  measured: readonly MeasuredElement[],
  openings: readonly PlanOpening[],
  axes: readonly RowAxis[],
): Map<number, Quantity[]> {
  const finder = new RoomWalls(axes.map(toWallAxis));
  const out = new Map<number, Quantity[]>();
  for (const { element, outcome } of measured) {
    if (element.group !== 'space') continue;
    const find = (name: string) => outcome.quantities.find((q) => q.name === name)?.value;
    const [floor, perimeter, height] = [find('NetFloorArea'), find('GrossPerimeter'), find('Height')];
    const list: Quantity[] = floor === undefined ? [] : [exact('GrossCeilingArea', floor, 'm2')];
    const shape = findRoomShape(element, outcome);
    if (perimeter !== undefined && height !== undefined) {
      list.push(exact('GrossWallArea', perimeter * height, 'm2'));
      if (shape) {
        const { wallAreaM2, doorsM } = deductRoomOpenings(shape, openings);
        list.push(exact('NetWallArea', Math.max(0, perimeter * height - wallAreaM2), 'm2'));
        list.push(exact('NetPerimeter', Math.max(0, perimeter - doorsM), 'm'));
        list.push(...measureToStructure(shape, finder, axes, measured, wallAreaM2));
      }
    }
    out.set(element.id, list);
  }
  return out;
}

/** A room measured to the structural face of its walls, m and m2; openings take as much as they do of the finished walls. */
function measureToStructure(
  { outline, bottomM, topM }: RoomShape,
  finder: RoomWalls,
  axes: readonly RowAxis[],
  measured: readonly MeasuredElement[],
  openM2: number,
): Quantity[] {
  const stretches = finder.listStretches(outline, bottomM, topM).map((s) => {
    const axis = s.wall === null ? null : axes[s.wall]!;
    const layers = axis ? measured[axis.row]!.element.material.layers.map((l) => l.thicknessM ?? 0) : [];
    return { ...s, outM: axis ? measureFinishM(layers, s.isLeft === axis.isFirstLeft) : 0 };
  });
  const moved = moveOutline(outline, stretches);
  const run = moved.reduce((sum, [x, y], i) => {
    const [nx, ny] = moved[(i + 1) % moved.length]!;
    return sum + Math.hypot(nx - x, ny - y);
  }, 0);
  return [
    exact('StructuralFloorArea', measurePolygonAreaM2(moved), 'm2'),
    exact('StructuralPerimeter', run, 'm'),
    exact('StructuralWallArea', Math.max(0, run * (topM - bottomM) - openM2), 'm2'),
  ];
}
