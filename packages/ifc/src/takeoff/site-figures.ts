import {
  appendToList,
  areaVector,
  type Exactness,
  type Figure,
  findJunctionsAmong,
  type GfaMethod,
  isDrawnAsPlate,
  type JunctionCounts,
  type JunctionsAmong,
  LineIndex,
  lengthOf,
  listPlaneOutlines,
  type MeasureOutcome,
  type ModelElement,
  type ModelStorey,
  measureCoveredSidesM2,
  measurePitchDegrees,
  measureRoof,
  measureUnionAreaM2,
  mergePrisms,
  moveMesh,
  multiplyMatrices,
  profileToPolygon,
  type Quantity,
  type RoofMeasures,
  type RoofPlane,
  type RoofSlope,
  type RoomShape,
  type RowAxis,
  sliceMesh,
  sweptDirection,
  TOLERANCE,
  toWallAxis,
  transformDirection,
  transformPoint,
  type Vector2,
  type Vector3,
  type WallAxis,
  weakerExactness,
} from '@tally/core';
import type { FileElement, FileModel } from '../reader/read-elements.ts';
import type { FileMeshes } from './list-faces.ts';
import { elementMesh, findOutline, findWallAxis } from './plan-shapes.ts';

/** A measured element with what its figures came from. */
export interface MeasuredElement {
  readonly element: FileElement;
  readonly outcome: MeasureOutcome;
  readonly meshes: FileMeshes | null;
}

/** Faces steeper than this are edges of a roof, not slopes: the upward part of their normal. */
const STEEPEST = Math.cos((75 * Math.PI) / 180);

/** Top or bottom faces, in the model's world, of a piece of a roof: of its solids, else of its mesh. */
function findRoofFace({ element, outcome, meshes }: MeasuredElement, wantsTop: boolean): RoofPlane[] {
  if (!isStraightRoof(element)) {
    const mesh = elementMesh(element, meshes);
    if (!mesh) return [];
    const isWanted = (n: Vector3) => {
      const rise = transformDirection(element.placement, n)[2];
      return wantsTop ? rise > STEEPEST : rise < -STEEPEST;
    };
    const depth = outcome.quantities.find((q) => q.name === 'Depth')?.value ?? 0;
    return listPlaneOutlines(mesh, isWanted).map(({ outline }) => ({
      outline: outline.map((p) => transformPoint(element.placement, p)),
      // A whole roof drawn as one body has no thickness that could part its slopes.
      thicknessM: element.ifcClass === 'IfcRoof' ? 0 : depth,
    }));
  }
  return element.body!.solids.map((solid): RoofPlane => {
    const world = multiplyMatrices(element.placement, solid.placement);
    const { direction: d, depth } = solid;
    const isUp = world[8] * d[0] + world[9] * d[1] + world[10] * d[2] > 0;
    const [dx, dy, dz] = isUp === wantsTop ? [d[0] * depth, d[1] * depth, d[2] * depth] : [0, 0, 0];
    const outline = profileToPolygon(solid.profile).map(([x, y]) => transformPoint(world, [x + dx, y + dy, dz]));
    return { outline, thicknessM: depth * Math.abs(d[2]) };
  });
}

/** True if a piece of a roof is drawn across its thickness by straight solids only. */
function isStraightRoof({ body, placement }: FileElement): boolean {
  if (!body || body.isClipped || body.hasOther || body.drawn?.length || body.formed?.length) return false;
  return (
    body.solids.length > 0 &&
    body.solids.every((solid) => {
      const along = sweptDirection({ ...solid, placement: multiplyMatrices(placement, solid.placement) });
      return Math.abs(along[2]) > STEEPEST && isDrawnAsPlate(solid, null);
    })
  );
}

/** Slopes that differ by less than this have one pitch, degrees. */
const ONE_PITCH = 0.1;

/**
 * Pitch of each roof slab, and of each roof as a whole its pitch where it has only one, its sloped area and the lengths of its edges,
 * from the slabs it is made of (else its own body); of a slab that belongs to no roof its own; by record number. Beside them every
 * slope for itself. Pieces that are cut, or drawn as faces, are measured on their mesh.
 */
export function measureRoofs(measured: readonly MeasuredElement[]): {
  readonly figures: Map<number, Quantity[]>;
  readonly slopes: RoofSlope[];
} {
  const figures = new Map<number, Quantity[]>();
  const slopes: RoofSlope[] = [];
  const roofs = new Set(measured.filter((m) => m.element.ifcClass === 'IfcRoof').map((m) => m.element.globalId));
  const facesOf = new Map<string, RoofFaces>();
  for (const [row, m] of measured.entries()) {
    const { element } = m;
    const isSlab = /^IfcSlab/.test(element.ifcClass) && element.predefined === 'ROOF';
    if (!isSlab && element.ifcClass !== 'IfcRoof') continue;
    const faces: RoofFaces = {
      top: findRoofFace(m, true),
      bottom: findRoofFace(m, false),
      exactness: isStraightRoof(element) ? 'exact' : 'mesh',
    };
    if (faces.top.length === 0) continue;
    for (const { outline } of faces.top) slopes.push(toSlope(row, outline));
    const whole = isSlab ? element.parent : element.globalId;
    if (whole !== null && roofs.has(whole)) {
      const known = facesOf.get(whole);
      facesOf.set(whole, known ? { top: [...known.top, ...faces.top], bottom: [...known.bottom, ...faces.bottom], exactness: weakerExactness(known.exactness, faces.exactness) } : faces); // biome-ignore format: one record
      if (isSlab) figures.set(element.id, [...listPitch(faces), ...listSlopedArea(faces)]);
    } else figures.set(element.id, [...listPitch(faces), ...listRoofEdges(faces)]);
  }
  for (const { element } of measured) {
    const faces = element.ifcClass === 'IfcRoof' ? facesOf.get(element.globalId) : undefined;
    if (faces) figures.set(element.id, [...listPitch(faces), ...listRoofEdges(faces)]);
  }
  return { figures, slopes };
}

interface RoofFaces {
  readonly top: readonly RoofPlane[];
  readonly bottom: readonly RoofPlane[];
  readonly exactness: Exactness;
}

function toSlope(row: number, outline: readonly Vector3[]): RoofSlope {
  const v = areaVector(outline);
  const up = v[2] < 0 ? -1 : 1;
  const falls = (Math.atan2(v[0] * up, v[1] * up) * 180) / Math.PI;
  return { row, pitch: measurePitchDegrees(outline), falls: (falls + 360) % 360, area: lengthOf(v) };
}

/** The pitch of a roof whose slopes all have the same; of others it has none. */
function listPitch({ top, exactness }: RoofFaces): Quantity[] {
  const pitches = top.map((p) => measurePitchDegrees(p.outline));
  const isOne = Math.max(...pitches) - Math.min(...pitches) < ONE_PITCH;
  return isOne ? [planFigure('Pitch', pitches[0]!, 'number', exactness)] : [];
}

const listSlopedArea = ({ top, exactness }: RoofFaces): Quantity[] => {
  const { slopedAreaM2 } = measureRoof(top);
  return slopedAreaM2 > 0 ? [planFigure('SlopedArea', slopedAreaM2, 'm2', exactness)] : [];
};

function listRoofEdges({ top, bottom, exactness }: RoofFaces): Quantity[] {
  // Pieces meet at their upper or at their lower edges, as they are cut; that side tells the lengths.
  const met = (m: RoofMeasures) => m.ridgeM + m.hipM + m.valleyM;
  const [upper, lower] = [measureRoof(top), measureRoof(bottom)];
  const r = met(lower) > met(upper) ? lower : upper;
  if (!(r.slopedAreaM2 > 0)) return [];
  const as = (name: string, value: number, unit: Quantity['unit']) => planFigure(name, value, unit, exactness);
  return [
    as('SlopedArea', r.slopedAreaM2, 'm2'),
    as('EavesLength', r.eavesM, 'm'),
    as('RidgeLength', r.ridgeM, 'm'),
    as('HipLength', r.hipM, 'm'),
    as('ValleyLength', r.valleyM, 'm'),
    as('VergeLength', r.vergeM, 'm'),
  ];
}

/** Units whose figures add up over the parts of a whole. */
const ADDITIVE = new Set(['m2', 'm3', 'kg']);

/** Gives a whole without a body of its own the sums of its parts' measured areas, volumes and weights, parts of parts included. */
export function sumParts(elements: readonly ModelElement[]): ModelElement[] {
  const partsOf = new Map<string, ModelElement[]>();
  for (const e of elements) if (e.parent !== null) appendToList(partsOf, e.parent, e);
  if (partsOf.size === 0) return [...elements];
  const done = new Map<ModelElement, ModelElement>();
  const complete = (e: ModelElement, depth: number): ModelElement => {
    const known = done.get(e);
    if (known || depth > 16) return known ?? e;
    const parts = e.box === null ? (partsOf.get(e.globalId) ?? []).map((p) => complete(p, depth + 1)) : [];
    const made = parts.length > 0 ? { ...e, quantities: [...e.quantities, ...addUp(e, parts)] } : e;
    done.set(e, made);
    return made;
  };
  return elements.map((e) => complete(e, 0));
}

/** Sums of the figures that every part has and the whole has not; one part without it leaves the sum unknown. */
function addUp(whole: ModelElement, parts: readonly ModelElement[]): Quantity[] {
  const own = new Set(whole.quantities.filter((q) => q.basis === 'measured').map((q) => q.name));
  const sums = new Map<string, { unit: Quantity['unit']; sum: number; count: number; exactness: Exactness }>();
  for (const part of parts) {
    for (const q of part.quantities) {
      if (q.basis !== 'measured' || !ADDITIVE.has(q.unit) || own.has(q.name)) continue;
      const s = sums.get(q.name) ?? { unit: q.unit, sum: 0, count: 0, exactness: 'exact' };
      const exactness = weakerExactness(s.exactness, q.exactness ?? 'mesh');
      sums.set(q.name, { ...s, sum: s.sum + q.value, count: s.count + 1, exactness });
    }
  }
  return [...sums].flatMap(([name, s]): Quantity[] =>
    s.count === parts.length
      ? [{ name, value: s.sum, unit: s.unit, basis: 'measured', method: 'parts', exactness: s.exactness }]
      : [],
  );
}

/** A measured figure from where elements stand on plan. */
export const planFigure = (
  name: string,
  value: number,
  unit: Quantity['unit'],
  exactness: Exactness = 'exact',
): Quantity => ({ name, value, unit, basis: 'measured', method: 'plan', exactness });

/** Junctions of all walls, with the middle lines they were found by, and what of their sides others cover, m2 by row. */
export function measureJunctions(
  measured: readonly MeasuredElement[],
): JunctionsAmong & { readonly axes: readonly RowAxis[]; readonly coveredM2: ReadonlyMap<number, number> } {
  const axes = measured.flatMap(({ element, outcome, meshes }, row): RowAxis[] => {
    const axis = element.group === 'wall' ? findWallAxis(element, outcome, meshes) : null;
    return axis
      ? [{ row, ...axis, points: axis.points.flat(), isFirstLeft: liesFirstLayerLeft(element, axis.points) }]
      : [];
  });
  const walls = axes.map(toWallAxis);
  const grid = new LineIndex(walls);
  const covered = measureCoveredSidesM2(walls, grid);
  return {
    ...findJunctionsAmong(axes, walls, grid),
    axes,
    coveredM2: new Map(axes.map(({ row }, i) => [row, covered[i]!])),
  };
}

/** True if the first layer of a wall lies to the left of its middle line. Layers follow each other along the wall's own y axis. */
function liesFirstLayerLeft({ placement: p, material }: FileElement, points: WallAxis['points']): boolean {
  const [[ax, ay], [bx, by]] = [points[0]!, points[1]!];
  const isAlongX = (bx - ax) * p[0] + (by - ay) * p[4] >= 0;
  // Where the line runs along x, y is to its left: layers that go that way begin on the right.
  return (material.isReversed ?? false) === isAlongX;
}

/** On which sides of a wall's middle line rooms lie. */
export interface RoomSides {
  readonly isLeft: boolean;
  readonly isRight: boolean;
}

/** Junction counts of a wall as quantities, and the jambs of its openings. */
export function listJunctionQuantities(counts: JunctionCounts | undefined, openings: number): Quantity[] {
  if (!counts) return [];
  return [
    planFigure('Corners', counts.corners, 'each'),
    planFigure('Tees', counts.tees, 'each'),
    planFigure('Crosses', counts.crosses, 'each'),
    planFigure('FreeEnds', counts.freeEnds, 'each'),
    planFigure('Jambs', 2 * openings, 'each'),
  ];
}

/**
 * The sides of a wall told apart: an outer wall has one side outside and one inside, an inner wall both inside; IsExternal says
 * which it is, else rooms do, on one of its sides or on both. The exposed part is both sides less what other walls cover.
 */
export function listSideQuantities(
  { element, outcome }: MeasuredElement,
  coveredM2: number | undefined,
  rooms: RoomSides | undefined,
): Quantity[] {
  const sides = outcome.quantities.find((q) => q.name === 'SidesArea');
  if (element.group !== 'wall' || !sides) return [];
  const said = Object.values(element.properties).find((set) => set.IsExternal !== undefined)?.IsExternal;
  const isOuter = said ?? (rooms ? !(rooms.isLeft && rooms.isRight) : undefined);
  const part = (name: string, value: number): Quantity => ({ ...sides, name, value });
  const outer = isOuter === true ? findOuterSide(outcome, sides.value, rooms) : null;
  return [
    ...(outer === null ? [] : [part('OuterSideArea', outer), part('InnerSideArea', sides.value - outer)]),
    ...(isOuter === false ? [part('InnerSideArea', sides.value)] : []),
    ...(coveredM2 === undefined ? [] : [part('ExposedSidesArea', Math.max(0, sides.value - coveredM2))]),
  ];
}

/** The side of an outer wall that lies outside: where no room is; of a ring the outer one. Null if the sides differ and nothing tells. */
function findOuterSide({ sides }: MeasureOutcome, sidesM2: number, rooms: RoomSides | undefined): number | null {
  if (!sides || Math.abs(sides.leftM2 - sides.rightM2) < 1e-6 * sidesM2) return sidesM2 / 2;
  if (rooms && rooms.isLeft !== rooms.isRight) return rooms.isLeft ? sides.rightM2 : sides.leftM2;
  const [first, last] = [sides.middle[0]!, sides.middle.at(-1)!];
  return Math.hypot(first[0] - last[0], first[1] - last[1]) < TOLERANCE.joint ? sides.rightM2 : null;
}

/** Slabs that are no floor. */
const NOT_FLOOR = new Set(['ROOF', 'LANDING']);
/** A floor slab carries its storey's level within this of its top, m. */
const FLOOR_REACH = 0.6;

/**
 * Gross floor area of each storey: stated by the file, else the area that its floor slabs cover together, else the sum of its
 * rooms' floors, else what its level cuts out of masses (proxies of an early design); null if there is none of these.
 */
export function measureStoreys(
  model: FileModel,
  measured: readonly MeasuredElement[],
  rooms: ReadonlyMap<number, readonly RoomShape[]>,
  axes: readonly RowAxis[],
): ModelStorey[] {
  // Masses are an early design's stand-in for floors: where floors or rooms are drawn, a proxy is something else.
  const isMassing = !measured.some(
    (m) => m.element.group === 'space' || model.storeys.some((s) => findFloor(m, s.levelM).length > 0),
  );
  const byStorey = new Map<string | null, MeasuredElement[]>();
  for (const m of measured) appendToList(byStorey, m.element.storey, m);
  const floorOf = ({ outcome }: MeasuredElement) => outcome.quantities.find((q) => q.name === 'NetFloorArea')?.value ?? 0; // biome-ignore format: one line
  return model.storeys.map(({ name, elevation, levelM, statedGfa }): ModelStorey => {
    const own = byStorey.get(name) ?? [];
    const spaces = own.filter(({ element }) => element.group === 'space');
    const found = ((): [number, GfaMethod] | null => {
      if (statedGfa !== null && statedGfa > 0) return [statedGfa, 'stated'];
      const gross = spaces.filter((m) => m.element.spaceKind === 'gross-area').reduce((sum, m) => sum + floorOf(m), 0);
      if (gross > 0) return [gross, 'gross-spaces'];
      const slabs = own.flatMap((m) => findFloor(m, levelM));
      if (slabs.length > 0) return [measureUnionAreaM2(slabs), 'slabs'];
      const sum = spaces.filter((m) => m.element.spaceKind === 'room').reduce((total, m) => total + floorOf(m), 0);
      if (sum > 0) return [sum, 'spaces'];
      const sliced = !isMassing ? 0 : measured.reduce((total, m) => total + sliceMass(m, levelM + TOLERANCE.touch), 0);
      return sliced > 0 ? [sliced, 'slices'] : null;
    })();
    const uncoveredM2 = measureUncovered(own, levelM, rooms, measured, axes);
    return {
      name,
      elevation: elevation ?? levelM,
      levelM,
      gfa: found?.[0] ?? null,
      gfaMethod: found?.[1] ?? null,
      ...(uncoveredM2 === null ? {} : { uncoveredM2 }),
    };
  });
}

/** Area of a storey's floors under no room, wall or column of it, m2; null if it has no floors or no rooms. */
function measureUncovered(
  own: readonly MeasuredElement[],
  levelM: number,
  rooms: ReadonlyMap<number, readonly RoomShape[]>,
  measured: readonly MeasuredElement[],
  axes: readonly RowAxis[],
): number | null {
  const floors = own.flatMap((m) => findFloor(m, levelM));
  const shapes = own.flatMap((m) => (m.element.spaceKind === 'room' ? (rooms.get(m.element.id) ?? []) : []));
  if (floors.length === 0 || shapes.length === 0) return null;
  const covers = shapes.map((s): Figure => [s.outline, ...(s.holes ?? [])]);
  const ids = new Set(own.map((m) => m.element.id));
  // Walls reach over each other's ends to the corner they make.
  for (const { row, points, widthM } of axes)
    if (ids.has(measured[row]!.element.id)) covers.push(...listBands(points, widthM));
  for (const { element, outcome } of own)
    if (element.group === 'linear' && outcome.worldExtents) covers.push([boxOutline(outcome.worldExtents)]);
  return measureUnionAreaM2([...floors, ...covers]) - measureUnionAreaM2(covers);
}

/** Rectangles along a middle line, each longer by half its width at both ends. */
function listBands(points: readonly number[], widthM: number): Figure[] {
  const out: Figure[] = [];
  for (let i = 0; i + 3 < points.length; i += 2) {
    const [ax, ay, bx, by] = [points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!];
    const length = Math.hypot(bx - ax, by - ay);
    if (length === 0) continue;
    const half = widthM / 2 + TOLERANCE.joint;
    const [ux, uy] = [((bx - ax) / length) * half, ((by - ay) / length) * half];
    out.push([[[ax - ux + uy, ay - uy - ux], [bx + ux + uy, by + uy - ux], [bx + ux - uy, by + uy + ux], [ax - ux - uy, ay - uy + ux]]]); // biome-ignore format: one rectangle
  }
  return out;
}

const boxOutline = ({ min, max }: { readonly min: Vector3; readonly max: Vector3 }): Vector2[] => [[min[0], min[1]], [max[0], min[1]], [max[0], max[1]], [min[0], max[1]]]; // biome-ignore format: one rectangle

/** Area that a level cuts out of a body without a trade of its own, as masses of an early design are; 0 if it misses it. */
function sliceMass({ element, outcome, meshes }: MeasuredElement, levelM: number): number {
  if (element.group !== 'other' || !/Proxy$/.test(element.ifcClass) || !outcome.extents) return 0;
  const { body, placement } = element;
  const isPlain = body && !body.hasOther && !body.isClipped && !body.drawn?.length && !body.formed?.length;
  const solid = isPlain ? mergePrisms(body.solids) : null;
  const outline = solid ? findOutline(placement, solid) : null;
  if (outline) {
    const isCut = levelM > outcome.worldExtents!.min[2] && levelM < outcome.worldExtents!.max[2];
    return isCut ? measureUnionAreaM2([[outline.outer, ...outline.holes]]) : 0;
  }
  const mesh = elementMesh(element, meshes);
  return mesh ? (sliceMesh(moveMesh(mesh, placement), levelM)?.areaM2 ?? 0) : 0;
}

function findFloor({ element, outcome }: MeasuredElement, levelM: number): Figure[] {
  if (element.properties.Pset_SlabCommon?.IsExternal === true) return [];
  if (!/^IfcSlab/.test(element.ifcClass) || NOT_FLOOR.has(element.predefined ?? '')) return [];
  if (!element.body || !outcome.worldExtents) return [];
  if (Math.abs(outcome.worldExtents.max[2] - levelM) > FLOOR_REACH) return [];
  const solids = element.body.solids.flatMap((solid): Figure[] => {
    const outline = findOutline(element.placement, solid);
    return outline ? [[outline.outer, ...outline.holes]] : [];
  });
  const drawn = (element.body.drawn ?? []).flatMap((mesh) =>
    listPlaneOutlines(moveMesh(mesh, element.placement), (n) => n[2] > 0.999, true).map(
      ({ outline, holes = [] }): Figure => [outline, ...holes].map((ring) => ring.map(([x, y]): Vector2 => [x, y])),
    ),
  );
  return [...solids, ...drawn];
}
