import {
  deductRoomOpenings,
  type Exactness,
  measureFinishM,
  measurePolygonAreaM2,
  moveOutline,
  OpeningIndex,
  type PlanOpening,
  type Quantity,
  type RoomShape,
  type RoomStretch,
  RoomWalls,
  type RowAxis,
  toWallAxis,
  weakerExactness,
} from '@tally/core';
import { listRoomShapes } from './plan-shapes.ts';
import { type MeasuredElement, planFigure, type RoomSides } from './site-figures.ts';

/**
 * Walls and skirting of each room, openings of the walls around it deducted, and the same to the structural face: the outline moved
 * outward by the finish layers of those walls; by record number. Beside them which sides of walls lie in rooms, and every room on plan.
 */
export function measureRooms(
  measured: readonly MeasuredElement[],
  openings: readonly PlanOpening[],
  axes: readonly RowAxis[],
): {
  readonly figures: Map<number, Quantity[]>;
  readonly sides: Map<number, RoomSides>;
  readonly shapes: Map<number, RoomShape[]>;
} {
  const sides = new Map<number, RoomSides>();
  const shapes = new Map<number, RoomShape[]>();
  const finder = new RoomWalls(axes.map(toWallAxis));
  const index = new OpeningIndex(openings);
  const figures = new Map<number, Quantity[]>();
  for (const { element, outcome, meshes } of measured) {
    if (element.group !== 'space') continue;
    const pieces = listRoomShapes(element, outcome, meshes);
    shapes.set(element.id, pieces);
    // Areas drawn for counting, and groups of rooms, have no walls of their own.
    if (element.spaceKind !== 'room') continue;
    const find = (name: string) => outcome.quantities.find((q) => q.name === name);
    const [perimeter, walls] = [find('GrossPerimeter'), find('GrossWallArea')];
    if (pieces.length === 0 || !perimeter || !walls) continue;
    const exactness = weakerExactness(perimeter.exactness ?? 'mesh', walls.exactness ?? 'mesh');
    const taken = pieces.map((shape) => deductRoomOpenings(shape, index.near(shape.outline)));
    const wallAreaM2 = taken.reduce((sum, t) => sum + t.wallAreaM2, 0);
    const doorsM = taken.reduce((sum, t) => sum + t.doorsM, 0);
    const stretches = pieces.map((s) => finder.listStretches(s.outline, s.bottomM, s.topM));
    for (const { wall, isLeft } of stretches.flat()) {
      if (wall === null) continue;
      const known = sides.get(axes[wall]!.row);
      sides.set(axes[wall]!.row, {
        isLeft: isLeft || (known?.isLeft ?? false),
        isRight: !isLeft || (known?.isRight ?? false),
      });
    }
    figures.set(element.id, [
      planFigure('NetWallArea', Math.max(0, walls.value - wallAreaM2), 'm2', exactness),
      planFigure('NetPerimeter', Math.max(0, perimeter.value - doorsM), 'm', exactness),
      ...(pieces.length === 1
        ? measureToStructure(pieces[0]!, stretches[0]!, axes, measured, { openM2: wallAreaM2, exactness })
        : []),
    ]);
  }
  return { figures, sides, shapes };
}

/** A room measured to the structural face of its walls, m and m2; openings take as much as they do of the finished walls. */
function measureToStructure(
  { outline, holes = [], bottomM, topM }: RoomShape,
  found: readonly RoomStretch[],
  axes: readonly RowAxis[],
  measured: readonly MeasuredElement[],
  { openM2, exactness }: { readonly openM2: number; readonly exactness: Exactness },
): Quantity[] {
  const stretches = found.map((s) => {
    const axis = s.wall === null ? null : axes[s.wall]!;
    const layers = axis ? measured[axis.row]!.element.material.layers.map((l) => l.thicknessM ?? 0) : [];
    return { ...s, outM: axis ? measureFinishM(layers, s.isLeft === axis.isFirstLeft) : 0 };
  });
  const moved = moveOutline(outline, stretches);
  const run = [moved, ...holes].reduce((sum, ring) => sum + runAround(ring), 0);
  const area = measurePolygonAreaM2(moved) - holes.reduce((sum, ring) => sum + measurePolygonAreaM2(ring), 0);
  return [
    planFigure('StructuralFloorArea', area, 'm2', exactness),
    planFigure('StructuralPerimeter', run, 'm', exactness),
    planFigure('StructuralWallArea', Math.max(0, run * (topM - bottomM) - openM2), 'm2', exactness),
  ];
}

/** Length of a closed outline, m. */
const runAround = (outline: RoomShape['outline']): number =>
  outline.reduce((sum, [x, y], i) => {
    const [nx, ny] = outline[(i + 1) % outline.length]!;
    return sum + Math.hypot(nx - x, ny - y);
  }, 0);
