import {
  appendToList,
  type Figure,
  findJunctionsAmong,
  type GfaMethod,
  type JunctionCounts,
  type JunctionsAmong,
  listPlaneOutlines,
  type MeasureOutcome,
  type ModelElement,
  type ModelStorey,
  measureCoveredSidesM2,
  measurePitchDegrees,
  measureRoof,
  measureUnionAreaM2,
  multiplyMatrices,
  profileToPolygon,
  type Quantity,
  type RoofMeasures,
  type RoofPlane,
  type RowAxis,
  SegmentGrid,
  sliceMesh,
  TOLERANCE,
  toWallAxis,
  transformDirection,
  transformPoint,
  type Vector3,
  type WallAxis,
} from '@tally/core';
import type { FileElement, FileModel } from '../reader/read-elements.ts';
import type { FileMeshes } from './list-faces.ts';
import { findOutline, findWallAxis } from './plan-shapes.ts';

/** A measured element with what its figures came from. */
export interface MeasuredElement {
  readonly element: FileElement;
  readonly outcome: MeasureOutcome;
  readonly meshes: FileMeshes | null;
}

/** Faces steeper than this are edges of a roof, not slopes: the upward part of their normal. */
const STEEPEST = Math.cos((75 * Math.PI) / 180);

/** Top or bottom faces, in the model's world, of a piece of a roof: of its solids, or of its mesh where they are cut or there are none. */
function findRoofFace({ element, outcome, meshes }: MeasuredElement, wantsTop: boolean): RoofPlane[] {
  if (element.body?.isClipped || element.body?.hasOther) {
    if (!meshes?.net) return [];
    const isWanted = (n: Vector3) => {
      const rise = transformDirection(element.placement, n)[2];
      return wantsTop ? rise > STEEPEST : rise < -STEEPEST;
    };
    const depth = outcome.quantities.find((q) => q.name === 'Depth')?.value ?? 0;
    return listPlaneOutlines(meshes.net, isWanted).map(({ outline }) => ({
      outline: outline.map((p) => transformPoint(element.placement, p)),
      // A whole roof drawn as one body has no thickness that could part its slopes.
      thicknessM: element.ifcClass === 'IfcRoof' ? 0 : depth,
    }));
  }
  return (element.body?.solids ?? []).map((solid): RoofPlane => {
    const world = multiplyMatrices(element.placement, solid.placement);
    const { direction: d, depth } = solid;
    const isUp = world[8] * d[0] + world[9] * d[1] + world[10] * d[2] > 0;
    const [dx, dy, dz] = isUp === wantsTop ? [d[0] * depth, d[1] * depth, d[2] * depth] : [0, 0, 0];
    const outline = profileToPolygon(solid.profile).map(([x, y]) => transformPoint(world, [x + dx, y + dy, dz]));
    return { outline, thicknessM: depth * Math.abs(d[2]) };
  });
}

/**
 * Pitch of each roof slab, and of each roof as a whole its sloped area and the lengths of its edges, from the slabs it is made of
 * (else its own body); by record number. Pieces that are cut, or drawn as faces, are measured on their mesh.
 */
export function measureRoofs(measured: readonly MeasuredElement[]): Map<number, Quantity[]> {
  const out = new Map<number, Quantity[]>();
  const facesOf = new Map<string, { top: RoofPlane[]; bottom: RoofPlane[]; isMesh: boolean }>();
  for (const m of measured) {
    const { element } = m;
    const isSlab = /^IfcSlab/.test(element.ifcClass) && element.predefined === 'ROOF';
    if (!isSlab && element.ifcClass !== 'IfcRoof') continue;
    const [top, bottom] = [findRoofFace(m, true), findRoofFace(m, false)];
    if (top.length === 0) continue;
    const whole = isSlab ? element.parent : element.globalId;
    if (whole !== null) {
      const known = facesOf.get(whole) ?? { top: [], bottom: [], isMesh: false };
      const isMesh = known.isMesh || element.body!.isClipped || element.body!.hasOther;
      facesOf.set(whole, { top: [...known.top, ...top], bottom: [...known.bottom, ...bottom], isMesh });
    }
    if (isSlab && top.length === 1)
      out.set(element.id, [exact('Pitch', measurePitchDegrees(top[0]!.outline), 'number')]);
  }
  for (const { element } of measured) {
    const faces = element.ifcClass === 'IfcRoof' ? facesOf.get(element.globalId) : undefined;
    if (!faces) continue;
    // Pieces meet at their upper or at their lower edges, as they are cut; that side tells the lengths.
    const met = (m: RoofMeasures) => m.ridgeM + m.hipM + m.valleyM;
    const [upper, lower] = [measureRoof(faces.top), measureRoof(faces.bottom)];
    const r = met(lower) > met(upper) ? lower : upper;
    if (!(r.slopedAreaM2 > 0)) continue;
    const figures = [
      exact('SlopedArea', r.slopedAreaM2, 'm2'),
      exact('EavesLength', r.eavesM, 'm'),
      exact('RidgeLength', r.ridgeM, 'm'),
      exact('HipLength', r.hipM, 'm'),
      exact('ValleyLength', r.valleyM, 'm'),
      exact('VergeLength', r.vergeM, 'm'),
    ];
    out.set(element.id, faces.isMesh ? figures.map((q) => ({ ...q, method: 'mesh' as const })) : figures);
  }
  return out;
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
  const sums = new Map<string, { unit: Quantity['unit']; sum: number; count: number }>();
  for (const part of parts) {
    for (const q of part.quantities) {
      if (q.basis !== 'measured' || !ADDITIVE.has(q.unit) || own.has(q.name)) continue;
      const s = sums.get(q.name) ?? { unit: q.unit, sum: 0, count: 0 };
      sums.set(q.name, { ...s, sum: s.sum + q.value, count: s.count + 1 });
    }
  }
  return [...sums].flatMap(([name, s]): Quantity[] =>
    s.count === parts.length ? [{ name, value: s.sum, unit: s.unit, basis: 'measured', method: 'parts' }] : [],
  );
}

/** A measured figure from where elements stand on plan. */
export const exact = (name: string, value: number, unit: Quantity['unit']): Quantity => ({
  name,
  value,
  unit,
  basis: 'measured',
  method: 'plan',
});

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
  const grid = new SegmentGrid(walls);
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
    exact('Corners', counts.corners, 'each'),
    exact('Tees', counts.tees, 'each'),
    exact('Crosses', counts.crosses, 'each'),
    exact('FreeEnds', counts.freeEnds, 'each'),
    exact('Jambs', 2 * openings, 'each'),
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
  return [
    ...(isOuter === true ? [part('OuterSideArea', sides.value / 2), part('InnerSideArea', sides.value / 2)] : []),
    ...(isOuter === false ? [part('InnerSideArea', sides.value)] : []),
    ...(coveredM2 === undefined ? [] : [part('ExposedSidesArea', Math.max(0, sides.value - coveredM2))]),
  ];
}

/** Slabs that are no floor. */
const NOT_FLOOR = new Set(['ROOF', 'LANDING']);
/** A floor slab carries its storey's level within this of its top, m. */
const FLOOR_REACH = 0.6;

/**
 * Gross floor area of each storey: stated by the file, else the area that its floor slabs cover together, else the sum of its
 * rooms' floors, else what its level cuts out of masses (proxies of an early design); null if there is none of these.
 */
export function measureStoreys(model: FileModel, measured: readonly MeasuredElement[]): ModelStorey[] {
  // Masses are an early design's stand-in for floors: where floors or rooms are drawn, a proxy is something else.
  const isMassing = !measured.some(
    (m) => m.element.group === 'space' || model.storeys.some((s) => findFloor(m, s.levelM).length > 0),
  );
  return model.storeys.map(({ name, elevation, levelM, statedGfa }): ModelStorey => {
    const own = measured.filter(({ element }) => element.storey === name);
    const found = ((): [number, GfaMethod] | null => {
      if (statedGfa !== null && statedGfa > 0) return [statedGfa, 'stated'];
      const slabs = own.flatMap((m) => findFloor(m, levelM));
      if (slabs.length > 0) return [measureUnionAreaM2(slabs), 'slabs'];
      const rooms = own
        .filter(({ element }) => element.group === 'space')
        .map(({ outcome }) => outcome.quantities.find((q) => q.name === 'NetFloorArea')?.value ?? 0);
      const sum = rooms.reduce((a, b) => a + b, 0);
      if (sum > 0) return [sum, 'spaces'];
      const sliced = !isMassing ? 0 : measured.reduce((total, m) => total + sliceMass(m, levelM + TOLERANCE.touch), 0);
      return sliced > 0 ? [sliced, 'slices'] : null;
    })();
    return { name, elevation: elevation ?? levelM, gfa: found?.[0] ?? null, gfaMethod: found?.[1] ?? null };
  });
}

/** Area that a level cuts out of a body without a trade of its own, as masses of an early design are; 0 if it misses it. */
function sliceMass({ element, outcome, meshes }: MeasuredElement, levelM: number): number {
  if (element.group !== 'other' || !/Proxy$/.test(element.ifcClass) || !outcome.extents) return 0;
  const solid = element.body?.solids.length === 1 && !element.body.hasOther ? element.body.solids[0]! : null;
  const outline = solid && !element.body!.isClipped ? findOutline(element.placement, solid) : null;
  if (outline) {
    const bottomM = element.placement[11] + outcome.extents.min[2];
    const isCut = levelM > bottomM && levelM < element.placement[11] + outcome.extents.max[2];
    return isCut ? measureUnionAreaM2([[outline.outer, ...outline.holes]]) : 0;
  }
  // Meshes are in the element's frame; only one that stands upright there can be cut level.
  const isUpright = Math.abs(element.placement[10] - 1) < TOLERANCE.parallel;
  return isUpright && meshes?.net ? (sliceMesh(meshes.net, levelM - element.placement[11])?.areaM2 ?? 0) : 0;
}

function findFloor({ element, outcome }: MeasuredElement, levelM: number): Figure[] {
  if (element.properties.Pset_SlabCommon?.IsExternal === true) return [];
  if (!/^IfcSlab/.test(element.ifcClass) || NOT_FLOOR.has(element.predefined ?? '')) return [];
  if (!element.body || !outcome.extents) return [];
  const topM = element.placement[11] + outcome.extents.max[2];
  if (Math.abs(topM - levelM) > FLOOR_REACH) return [];
  return element.body.solids.flatMap((solid): Figure[] => {
    const outline = findOutline(element.placement, solid);
    return outline ? [[outline.outer, ...outline.holes]] : [];
  });
}
