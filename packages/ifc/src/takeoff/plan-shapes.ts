import {
  asAlignedBox,
  boundPoints,
  type ElementMeshes,
  type Figure,
  listPlaneOutlines,
  listSweptPoints,
  type Matrix,
  type MeasureOutcome,
  measureOwnRectangle,
  mergePrisms,
  meshOwnBody,
  multiplyMatrices,
  outlineToPolygon,
  profileToOutlines,
  type RoomShape,
  type SweptSolid,
  sweptDirection,
  TOLERANCE,
  type TriangleMesh,
  transformDirection,
  transformPoint,
  uniteFigures,
  type Vector2,
  type Vector3,
  type WallAxis,
  type WallOpening,
} from '@tally/core';
import type { FileElement } from '../reader/read-elements.ts';

const flat = ([x, y]: Vector3): Vector2 => [x, y];

/** Height range of an element in the model's world, m; null without a shape. */
function heightRange({ worldExtents: world }: MeasureOutcome): { bottomM: number; topM: number } | null {
  return world && { bottomM: world.min[2], topM: world.max[2] };
}

/** Shape of an element as triangles in its own frame, openings cut out where that is known; null without one. */
export function elementMesh({ body }: FileElement, meshes: ElementMeshes | null): TriangleMesh | null {
  return meshes?.net ?? (body && meshOwnBody(body));
}

/**
 * Middle line of a wall in the model's world: that of the body if it is bent or curved, else the file's axis moved to the middle of the
 * body (files draw it on a face as well), else along the middle of the body. Null without a shape.
 */
export function findWallAxis(e: FileElement, outcome: MeasureOutcome, meshes: ElementMeshes | null): WallAxis | null {
  const range = heightRange(outcome);
  const widthM = outcome.quantities.find((q) => q.name === 'Width')?.value ?? outcome.planWidthM;
  if (!range || widthM === null) return null;
  const middle = outcome.sides?.middle;
  const local = middle && middle.length > 2 ? middle : findStraightAxis(e, meshes);
  if (!local) return null;
  return { points: local.map(([x, y]) => flat(transformPoint(e.placement, [x, y, 0]))), widthM, ...range };
}

/** Directions are one if they differ by less than this: 1°. */
const ALONG = Math.cos(Math.PI / 180);

/** The file's axis of a wall that is a box along its own frame, moved to the middle of it; null for others. */
function centreOnBox({ axis, body }: FileElement): readonly Vector2[] | null {
  const solid = body?.solids.length === 1 && !body.hasOther && !body.isClipped && !body.drawn?.length ? body.solids[0]! : null; // biome-ignore format: one test
  if (!solid || axis?.length !== 2) return null;
  const box = asAlignedBox(solid);
  const [[ax, ay], [bx, by]] = axis as [Vector2, Vector2];
  const isAlongX = Math.abs(by - ay) < 1e-9 && box !== null && box.max[0] - box.min[0] >= box.max[1] - box.min[1];
  if (!isAlongX || ax === bx) return null;
  const middle = (box.min[1] + box.max[1]) / 2;
  return [[ax, middle], [bx, middle]]; // biome-ignore format: one line
}

function findStraightAxis(e: FileElement, meshes: ElementMeshes | null): readonly Vector2[] | null {
  const plain = centreOnBox(e);
  if (plain) return plain;
  const points = listPlanPoints(e, meshes);
  if (points.length < 3) return e.axis;
  const { angle } = measureOwnRectangle(points);
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const across = points.map(([x, y]) => y * cos - x * sin);
  const middle = (Math.min(...across) + Math.max(...across)) / 2;
  const on = (u: number): Vector2 => [u * cos - middle * sin, u * sin + middle * cos];
  const [first, last] = e.axis ? [e.axis[0]!, e.axis.at(-1)!] : [];
  if (e.axis && first && last) {
    const length = Math.hypot(last[0] - first[0], last[1] - first[1]);
    const isAlong = Math.abs((last[0] - first[0]) * cos + (last[1] - first[1]) * sin) >= ALONG * length;
    if (e.axis.length === 2 && length > 0 && isAlong) return [first, last].map(([x, y]) => on(x * cos + y * sin));
    // A line that is bent while no strip was found is the file's word alone, moved by what its layers say.
    if (e.axis.length > 2) return moveLine(e.axis, e.material);
  }
  const along = points.map(([x, y]) => x * cos + y * sin);
  return [on(Math.min(...along)), on(Math.max(...along))];
}

/** Points of a body on plan, in the element's frame. */
function listPlanPoints(e: FileElement, meshes: ElementMeshes | null): Vector2[] {
  const points: Vector2[] = (e.body?.solids ?? []).flatMap((s) => listSweptPoints(s).map(flat));
  const mesh = points.length === 0 || e.body?.drawn?.length ? elementMesh(e, meshes) : null;
  if (mesh)
    for (let i = 0; i < mesh.positions.length; i += 3) points.push([mesh.positions[i]!, mesh.positions[i + 1]!]);
  return points;
}

/** A reference line moved to the middle of the layers that lie beside it. */
function moveLine(line: readonly Vector2[], { layers, isReversed, offsetM }: FileElement['material']): Vector2[] {
  if (offsetM === undefined) return [...line];
  const thickness = layers.reduce((sum, l) => sum + (l.thicknessM ?? 0), 0);
  const aside = offsetM + (isReversed ? -thickness : thickness) / 2;
  return line.map((p, i): Vector2 => {
    const [a, b] = [line[Math.max(0, i - 1)]!, line[Math.min(line.length - 1, i + 1)]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    return [p[0] - ((b[1] - a[1]) / length) * aside, p[1] + ((b[0] - a[0]) / length) * aside];
  });
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

/** A room on plan, as pieces: of a straight body its outline, of any other the flat floors of its mesh. Empty without a flat floor. */
export function listRoomShapes(e: FileElement, outcome: MeasureOutcome, meshes: ElementMeshes | null): RoomShape[] {
  const range = heightRange(outcome);
  if (!range || !e.body) return [];
  const isPlain = !e.body.hasOther && !e.body.isClipped && !e.body.formed?.length && !e.body.drawn?.length;
  const solid = isPlain ? mergePrisms(e.body.solids) : null;
  const found = solid && findOutline(e.placement, solid);
  if (found) return [toRoom([found.outer, ...found.holes], range)];
  const mesh = elementMesh(e, meshes);
  return mesh ? listFloors(mesh, e.placement, range.bottomM).map((rings) => toRoom(rings, range)) : [];
}

function toRoom([outline, ...holes]: Figure, range: { bottomM: number; topM: number }): RoomShape {
  return { outline: outline!, ...(holes.length > 0 ? { holes } : {}), ...range };
}

/** Flat parts of a mesh that look down and lie at its bottom, in the model's world; those side by side are one. */
function listFloors(mesh: TriangleMesh, placement: Matrix, bottomM: number): Figure[] {
  const toPlan = (ring: readonly Vector3[]) => ring.map((p) => transformPoint(placement, p));
  const floors = listPlaneOutlines(mesh, (n) => transformDirection(placement, n)[2] < -0.999, true)
    .map(({ outline, holes = [] }) => [outline, ...holes].map(toPlan))
    .filter(([outer]) => outer![0]![2] - bottomM < TOLERANCE.joint)
    .map((rings): Figure => rings.map((ring) => ring.map(flat)));
  return floors.length > 1 ? uniteFigures(floors) : floors;
}

/** Openings of a wall on plan: where they lie in it, and how deep. */
export function listWallOpenings(e: FileElement, outcome: MeasureOutcome, axis: WallAxis | null): WallOpening[] {
  const wallM = outcome.quantities.find((q) => q.name === 'Width')?.value ?? outcome.planWidthM;
  if (wallM === null) return [];
  return (e.body?.openings ?? []).flatMap((o, i): WallOpening[] => {
    const size = outcome.openings[i];
    const points = o.solid
      ? listSweptPoints(o.solid).map((p) => transformPoint(e.placement, p))
      : o.drawn
        ? [...pointsOf(o.drawn)].map((p) => transformPoint(e.placement, p))
        : [];
    if (points.length === 0 || size?.width == null) return [];
    const box = boundPoints(points)!;
    const middle: Vector2 = [(box.min[0] + box.max[0]) / 2, (box.min[1] + box.max[1]) / 2];
    const part = axis ? findDepth(points.map(flat), middle, axis) : null;
    return [
      {
        at: part?.at ?? middle,
        wallM: part?.depthM ?? wallM,
        widthM: size.width,
        bottomM: box.min[2],
        topM: box.max[2],
      },
    ];
  });
}

function* pointsOf({ positions }: TriangleMesh): Generator<Vector3> {
  for (let i = 0; i < positions.length; i += 3) yield [positions[i]!, positions[i + 1]!, positions[i + 2]!];
}

/** What an opening takes from its wall across it: the middle of that part on plan and how deep it is; null if it lies beside the wall. */
function findDepth(
  points: readonly Vector2[],
  middle: Vector2,
  { points: line, widthM }: WallAxis,
): { at: Vector2; depthM: number } | null {
  let best: { gap: number; foot: Vector2; normal: Vector2 } | null = null;
  for (let i = 0; i + 1 < line.length; i++) {
    const [a, b] = [line[i]!, line[i + 1]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (length === 0) continue;
    const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const t = Math.max(0, Math.min(length, (middle[0] - a[0]) * ux + (middle[1] - a[1]) * uy));
    const foot: Vector2 = [a[0] + ux * t, a[1] + uy * t];
    const gap = Math.hypot(foot[0] - middle[0], foot[1] - middle[1]);
    if (!best || gap < best.gap) best = { gap, foot, normal: [-uy, ux] };
  }
  if (!best) return null;
  const { foot, normal } = best;
  const across = points.map(([x, y]) => (x - foot[0]) * normal[0] + (y - foot[1]) * normal[1]);
  const [from, to] = [Math.max(-widthM / 2, Math.min(...across)), Math.min(widthM / 2, Math.max(...across))];
  if (to - from < TOLERANCE.point) return null;
  const off = (from + to) / 2;
  const isThrough = widthM - (to - from) < TOLERANCE.joint;
  return {
    at: isThrough ? foot : [foot[0] + normal[0] * off, foot[1] + normal[1] * off],
    depthM: isThrough ? widthM : to - from,
  };
}
