import {
  deductRoomOpenings,
  measureFinishM,
  measurePolygonAreaM2,
  moveOutline,
  type PlanOpening,
  type Quantity,
  type RoomShape,
  type RoomStretch,
  RoomWalls,
  type RowAxis,
  toWallAxis,
} from '@tally/core';
import { findRoomShape } from './plan-shapes.ts';
import { exact, type MeasuredElement, type RoomSides } from './site-figures.ts';

/**
 * Ceiling, walls and skirting of each room, openings of the walls around it deducted, and the same to the structural face: the
 * outline moved outward by the finish layers of those walls; by record number.
 */
export function measureRooms(
  measured: readonly MeasuredElement[],
  openings: readonly PlanOpening[],
  axes: readonly RowAxis[],
): { figures: Map<number, Quantity[]>; sides: Map<number, RoomSides> } {
  const sides = new Map<number, RoomSides>();
  const finder = new RoomWalls(axes.map(toWallAxis));
  const out = new Map<number, Quantity[]>();
  for (const { element, outcome, meshes } of measured) {
    if (element.group !== 'space') continue;
    const find = (name: string) => outcome.quantities.find((q) => q.name === name)?.value;
    const [floor, height] = [find('NetFloorArea'), find('Height')];
    const list: Quantity[] = floor === undefined ? [] : [exact('GrossCeilingArea', floor, 'm2')];
    const shape = findRoomShape(element, outcome, meshes);
    let perimeter = find('GrossPerimeter');
    if (perimeter === undefined && shape) {
      perimeter = runAround(shape.outline);
      list.push({ ...exact('GrossPerimeter', perimeter, 'm'), method: 'mesh' });
    }
    if (perimeter !== undefined && height !== undefined) {
      list.push(exact('GrossWallArea', perimeter * height, 'm2'));
      if (shape) {
        const { wallAreaM2, doorsM } = deductRoomOpenings(shape, openings);
        list.push(exact('NetWallArea', Math.max(0, perimeter * height - wallAreaM2), 'm2'));
        list.push(exact('NetPerimeter', Math.max(0, perimeter - doorsM), 'm'));
        const stretches = finder.listStretches(shape.outline, shape.bottomM, shape.topM);
        for (const { wall, isLeft } of stretches) {
          if (wall === null) continue;
          const known = sides.get(axes[wall]!.row);
          sides.set(axes[wall]!.row, {
            isLeft: isLeft || (known?.isLeft ?? false),
            isRight: !isLeft || (known?.isRight ?? false),
          });
        }
        list.push(...measureToStructure(shape, stretches, axes, measured, wallAreaM2));
      }
    }
    out.set(element.id, list);
  }
  return { figures: out, sides };
}

/** A room measured to the structural face of its walls, m and m2; openings take as much as they do of the finished walls. */
function measureToStructure(
  { outline, bottomM, topM }: RoomShape,
  found: readonly RoomStretch[],
  axes: readonly RowAxis[],
  measured: readonly MeasuredElement[],
  openM2: number,
): Quantity[] {
  const stretches = found.map((s) => {
    const axis = s.wall === null ? null : axes[s.wall]!;
    const layers = axis ? measured[axis.row]!.element.material.layers.map((l) => l.thicknessM ?? 0) : [];
    return { ...s, outM: axis ? measureFinishM(layers, s.isLeft === axis.isFirstLeft) : 0 };
  });
  const moved = moveOutline(outline, stretches);
  const run = runAround(moved);
  return [
    exact('StructuralFloorArea', measurePolygonAreaM2(moved), 'm2'),
    exact('StructuralPerimeter', run, 'm'),
    exact('StructuralWallArea', Math.max(0, run * (topM - bottomM) - openM2), 'm2'),
  ];
}

/** Length of a closed outline, m. */
const runAround = (outline: RoomShape['outline']): number =>
  outline.reduce((sum, [x, y], i) => {
    const [nx, ny] = outline[(i + 1) % outline.length]!;
    return sum + Math.hypot(nx - x, ny - y);
  }, 0);
