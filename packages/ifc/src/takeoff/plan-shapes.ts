import {
  boundBox,
  boundPoints,
  type ElementMeshes,
  listPlaneOutlines,
  listSweptPoints,
  type Matrix,
  type MeasureOutcome,
  measureOwnRectangle,
  measurePolygonAreaM2,
  multiplyMatrices,
  outlineToPolygon,
  type PlacedBody,
  profileToOutlines,
  type RoomShape,
  type SweptSolid,
  sweptDirection,
  TOLERANCE,
  type TriangleMesh,
  transformDirection,
  transformPoint,
  type Vector2,
  type Vector3,
  type WallAxis,
  type WallOpening,
} from '@tally/core';
import type { FileElement } from '../reader/read-elements.ts';

const flat = ([x, y]: Vector3): Vector2 => [x, y];

/** Height range of an element in the model's world, m; null without a shape. */
function heightRange(e: FileElement, outcome: MeasureOutcome): { bottomM: number; topM: number } | null {
  if (!outcome.extents) return null;
  const world = boundBox(e.placement, outcome.extents);
  return { bottomM: world.min[2], topM: world.max[2] };
}

/** Middle line of a wall in the model's world: the file's axis, else along the middle of the body. Null without either. */
export function findWallAxis(e: FileElement, outcome: MeasureOutcome, meshes: ElementMeshes | null): WallAxis | null {
  const range = heightRange(e, outcome);
  const widthM = outcome.quantities.find((q) => q.name === 'Width')?.value;
  if (!range || widthM === undefined) return null;
  const local = e.axis ?? findBodyAxis(e, meshes);
  if (!local) return null;
  return { points: local.map(([x, y]) => flat(transformPoint(e.placement, [x, y, 0]))), widthM, ...range };
}

/** The middle of the longer way through the body's smallest rectangle on plan. */
function findBodyAxis(e: FileElement, meshes: ElementMeshes | null): Vector2[] | null {
  const points: Vector2[] = (e.body?.solids ?? []).flatMap((s) => listSweptPoints(s).map(flat));
  const mesh = points.length === 0 ? meshes?.net : null;
  if (mesh)
    for (let i = 0; i < mesh.positions.length; i += 3) points.push([mesh.positions[i]!, mesh.positions[i + 1]!]);
  if (points.length < 3) return null;
  const { angle } = measureOwnRectangle(points);
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const along = points.map(([x, y]) => x * cos + y * sin);
  const across = points.map(([x, y]) => y * cos - x * sin);
  const middle = (Math.min(...across) + Math.max(...across)) / 2;
  return [Math.min(...along), Math.max(...along)].map((u): Vector2 => [u * cos - middle * sin, u * sin + middle * cos]);
}

/** Outline on plan, in the model's world, of a solid that is drawn straight up; null for others. */
export function findOutline(placement: Matrix, solid: SweptSolid): { outer: Vector2[]; holes: Vector2[][] } | null {
  const world = { ...solid, placement: multiplyMatrices(placement, solid.placement) };
  if (Math.abs(sweptDirection(world)[2]) < 0.999) return null;
  const { outer, holes } = profileToOutlines(solid.profile);
  const ring = (outline: typeof outer) =>
    outlineToPolygon(outline).map(([x, y]) => flat(transformPoint(world.placement, [x, y, 0])));
  return { outer: ring(outer), holes: holes.map(ring) };
}

/** A room on plan: of a straight body its outline, of any other the flat floor of its mesh. Null without a shape or a flat floor. */
export function findRoomShape(e: FileElement, outcome: MeasureOutcome, meshes: ElementMeshes | null): RoomShape | null {
  const range = heightRange(e, outcome);
  const solid = e.body?.solids.length === 1 && !e.body.hasOther ? e.body.solids[0]! : null;
  const outline = solid && findOutline(e.placement, solid);
  if (range && outline) return { outline: outline.outer, ...range };
  const floor = range && meshes?.net && !solid ? findFloor(meshes.net, e.placement, range.bottomM) : null;
  return range && floor ? { outline: floor, ...range } : null;
}

/** Outline of the largest flat part of a mesh that looks down and lies at its bottom, in the model's world; null if there is none. */
function findFloor(mesh: TriangleMesh, placement: Matrix, bottomM: number): Vector2[] | null {
  const floors = listPlaneOutlines(mesh, (n) => transformDirection(placement, n)[2] < -0.999)
    .map(({ outline }) => outline.map((p) => transformPoint(placement, p)))
    .filter(([first]) => first![2] - bottomM < TOLERANCE.joint)
    .map((outline) => outline.map(flat))
    .sort((a, b) => measurePolygonAreaM2(b) - measurePolygonAreaM2(a));
  return floors[0] ?? null;
}

/** Openings of a wall on plan. */
export function listWallOpenings(e: FileElement, outcome: MeasureOutcome): WallOpening[] {
  const wallM = outcome.quantities.find((q) => q.name === 'Width')?.value;
  if (wallM === undefined) return [];
  return (e.body?.openings ?? []).flatMap((o, i): WallOpening[] => {
    const size = outcome.openings[i];
    if (!o.solid || size?.width == null) return [];
    const box = boundPoints(listSweptPoints(o.solid).map((p) => transformPoint(e.placement, p)))!;
    return [
      {
        at: [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2],
        wallM,
        widthM: size.width,
        bottomM: box.min[2],
        topM: box.max[2],
      },
    ];
  });
}

/** A body in the model's world for the search for overlaps; null without a shape or a volume. */
export function placeBody(e: FileElement, outcome: MeasureOutcome): PlacedBody | null {
  const volumeM3 = outcome.quantities.find((q) => q.name === 'GrossVolume' || q.name === 'NetVolume')?.value;
  if (!outcome.extents || volumeM3 === undefined || e.group === 'filler') return null;
  const solid = e.body?.solids.length === 1 && !e.body.hasOther && !e.body.isClipped ? e.body.solids[0]! : null;
  const bounds = solid
    ? boundPoints(listSweptPoints(solid).map((p) => transformPoint(e.placement, p)))!
    : boundBox(e.placement, outcome.extents);
  const outline = solid && findOutline(e.placement, solid);
  return {
    globalId: e.globalId,
    label: `${e.ifcClass} ${e.name ?? e.globalId}`,
    kind: e.group === 'other' ? e.ifcClass : e.group,
    min: bounds.min,
    max: bounds.max,
    volumeM3,
    figure: outline ? [outline.outer, ...outline.holes] : null,
  };
}
