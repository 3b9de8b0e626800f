import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import type { Opening, Quantity } from '../elements/model-element.ts';
import { listFaceDirections } from '../geometry/facets.ts';
import { deductOpenings, measureDrawnOpening, measureOpeningSize } from '../geometry/opening-deduction.ts';
import { crossesItself, isPointInPolygon, outlineToPolygon } from '../geometry/outline.ts';
import { profileToPolygon } from '../geometry/profile.ts';
import { asAlignedBox, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { IDENTITY, invertRigid, type Matrix, transformPoint, type Vector2, type Vector3 } from '../geometry/vector.ts';
import { type BodyShape, findMeshNeed, type MeshNeed, mergePrisms, shapeBody } from './body-shape.ts';
import {
  type BodyProblem,
  boundBody,
  type ElementBody,
  type ElementMeshes,
  type Extents,
  type OpeningBody,
} from './element-body.ts';
import { measureFiller, measureFooting, measureOther } from './measure-bulk.ts';
import type { AddFigure, MeasureContext } from './measure-context.ts';
import { measureLinear } from './measure-linear.ts';
import { isDrawnAsPlate, measureSlab } from './measure-slab.ts';
import { measureSpace } from './measure-space.ts';
import { measureWall, type WallSides } from './measure-wall.ts';
import { turnToOwnFrame } from './own-frame.ts';
import { type MeasureGroup, QUANTITY_DEFINITIONS } from './quantity-names.ts';
import { isSaneBox } from './sane-box.ts';

export interface MeasureInput {
  readonly group: MeasureGroup;
  readonly body: ElementBody | null;
  readonly meshes: ElementMeshes | null;
  /** Sum of the layer thicknesses, m, if the element is layered. */
  readonly layersM: number | null;
  /** OverallWidth and OverallHeight of doors and windows, m. */
  readonly overall: { readonly widthM: number | null; readonly heightM: number | null } | null;
  /** Upward in the element's frame; its z axis if absent. */
  readonly up?: Vector3;
  /** Takes the element's frame into the model's world; they are one if absent. */
  readonly placement?: Matrix;
}

export interface MeasureOutcome {
  readonly quantities: readonly Quantity[];
  readonly openings: readonly Opening[];
  /** Extents in the element's frame. */
  readonly extents: Extents | null;
  /** Extents in the model's world, along its axes: those of the shape itself, not of a box around it. */
  readonly worldExtents: Extents | null;
  /** Which meshes of the reader the figures need; null for none. */
  readonly needs: MeshNeed | null;
  readonly problem: BodyProblem | null;
  /** GlobalIds of openings whose size could not be told. */
  readonly unknownOpenings: readonly string[];
  /** Middle line and sides of a wall that is a strip of one thickness, in the element's frame; null for others. */
  readonly sides: WallSides | null;
  /** How thick the element is on plan where that has no name of its own (a wall of two thicknesses), m. */
  readonly planWidthM: number | null;
}

const GROUP_CLASSES: readonly [string, MeasureGroup][] = [
  ['IfcWall', 'wall'],
  ['IfcSlab', 'slab'],
  ['IfcRoof', 'slab'],
  ['IfcCovering', 'slab'],
  ['IfcPlate', 'slab'],
  ['IfcBeam', 'linear'],
  ['IfcColumn', 'linear'],
  ['IfcMember', 'linear'],
  ['IfcPile', 'linear'],
  ['IfcRailing', 'linear'],
  ['IfcFlowSegment', 'linear'],
  ['IfcReinforcingBar', 'linear'],
  ['IfcTendon', 'linear'],
  ['IfcTendonConduit', 'linear'],
  ['IfcKerb', 'linear'],
  ['IfcRail', 'linear'],
  ['IfcFooting', 'footing'],
  ['IfcDoor', 'filler'],
  ['IfcWindow', 'filler'],
  ['IfcSpace', 'space'],
];

/** Group of classes that an IFC class is measured with. */
export function classToMeasureGroup(ifcClass: string): MeasureGroup {
  let group = groups.get(ifcClass);
  if (!group) {
    group = GROUP_CLASSES.find(([name]) => isClassOrSubtype(ifcClass, name))?.[1] ?? 'other';
    groups.set(ifcClass, group);
  }
  return group;
}
const groups = new Map<string, MeasureGroup>();

const UNITS = new Map(QUANTITY_DEFINITIONS.map((d) => [d.name, d.unit]));

/** Measures an element by its class. Asks for meshes (`needs`) if its figures cannot be had without. */
export function measureElement(input: MeasureInput): MeasureOutcome {
  const { group, overall } = input;
  const out: Quantity[] = [
    { name: 'Count', value: 1, unit: 'each', basis: 'measured', method: 'count', exactness: 'exact' },
  ];
  const add: AddFigure = (name, figure) => {
    if (!figure || !Number.isFinite(figure.value) || !(figure.value > 0)) return;
    const { value, method, exactness } = figure;
    out.push({ name, value, unit: UNITS.get(name) ?? 'm', basis: 'measured', method, exactness });
  };
  const seenMesh = input.meshes?.gross ?? input.meshes?.net ?? null;
  const extents = input.body && boundBody(input.body, IDENTITY, seenMesh);
  const worldExtents = input.body && input.placement ? boundBody(input.body, input.placement, seenMesh) : extents;
  const nothing = {
    worldExtents,
    quantities: out,
    openings: [],
    needs: null,
    unknownOpenings: [],
    sides: null,
    planWidthM: null,
  };
  if (input.body?.solids.some((s) => !(s.depth > 0))) return { ...nothing, extents, problem: 'volume-not-positive' };
  if (input.body?.solids.some(isCrossed))
    // Whatever is worked out from such a profile is a figure of nothing.
    return { ...nothing, extents, problem: 'profile-crosses-itself' };
  // Coordinates that are no numbers bound nothing.
  const isLost = seenMesh !== null && seenMesh.indices.length > 0 && extents === null;
  if (isLost || (extents && !isSaneBox(extents)) || (worldExtents && !isSaneBox(worldExtents)))
    return { ...nothing, extents: null, worldExtents: null, problem: 'size-out-of-range' };
  // A door or window that says its size need not be turned to find it.
  const isSized = group === 'filler' && overall?.widthM && overall.heightM;
  const canLean = group === 'footing' || group === 'other' || group === 'filler';
  const framed =
    input.body && !isSized ? turnToOwnFrame(input.body, input.meshes, input.up ?? [0, 0, 1], canLean) : null;
  const { body, meshes } = framed ?? { body: input.body, meshes: input.meshes };
  const isPlain = body && !body.hasOther && !body.isClipped && !body.formed?.length && !body.drawn?.length;
  const solid = isPlain ? mergePrisms(body.solids) : null;
  const normal = solid && faceNormal(group, solid, input.layersM);
  const cut = (body?.openings ?? []).flatMap((o) => (o.solid ? [o.solid] : []));
  const isDeductible = solid && normal && cut.length === body?.openings.length;
  const deduction = isDeductible && cut.length > 0 ? deductOpenings(solid, cut, normal) : null;
  const needs = body ? findMeshNeed(body, deduction?.volumeM3 ?? null) : null;
  const isAsGiven = body === input.body;
  const shape = body && shapeBody(body, solid, deduction?.volumeM3 ?? null, meshes, isAsGiven ? extents : null);
  const needsNormal = normal === null && body !== null && body.openings.length > 0 && group !== 'linear';
  const hostNormal = needsNormal && shape ? guessNormal(group, shape) : normal;
  const openings = (body?.openings ?? []).map((o) => measureOpening(o, group, solid, hostNormal, shape));
  const unknownOpenings = openings.filter((o) => o.width === null).map((o) => o.globalId);
  const outcome = { ...nothing, openings, extents, unknownOpenings, needs: needs?.net ? needs : null };
  if (group === 'filler') {
    measureFiller(add, shape, overall);
    return { ...outcome, problem: shape?.problem ?? null };
  }
  if (!shape || (needs?.net && !meshes)) return { ...outcome, problem: shape?.problem ?? null };
  const context: MeasureContext = {
    add,
    shape,
    deductedM2: deduction?.areaM2 ?? null,
    normal,
    openings,
    layersM: input.layersM,
  };
  const sides = group === 'wall' ? measureWall(context) : null;
  if (group !== 'wall') MEASURE[group](context);
  const toElement = framed && invertRigid(framed.toOwn);
  return {
    ...outcome,
    problem: shape.problem,
    planWidthM: shape.extents.max[1] - shape.extents.min[1],
    sides: sides && toElement ? { ...sides, middle: sides.middle.map((p) => toPlan(transformPoint(toElement, [p[0], p[1], 0]))) } : null, // biome-ignore format: one record
  };
}

const MEASURE = {
  slab: measureSlab,
  linear: measureLinear,
  footing: measureFooting,
  space: measureSpace,
  other: measureOther,
} as const;

const toPlan = ([x, y]: Vector3): Vector2 => [x, y];

/** True if an outline of a profile runs through itself, or a hole out of it. */
function isCrossed({ profile }: SweptSolid): boolean {
  if (profile.kind !== 'outline') return false;
  const outer = profileToPolygon(profile);
  const holes = profile.holes.map((hole) => outlineToPolygon(hole));
  if (crossesItself(outer) || holes.some(crossesItself)) return true;
  // A hole may touch the outline; one that has most of its corners outside is none of it.
  return holes.some((hole) => hole.filter((p) => isPointInPolygon(p, outer)).length * 2 < hole.length);
}

/** Direction that openings of a straight solid are seen along: across a wall, square to the face of a slab, else along the sweep. */
function faceNormal(group: MeasureGroup, solid: SweptSolid, layersM: number | null): Vector3 | null {
  const along = sweptDirection(solid);
  if (group === 'slab') return isDrawnAsPlate(solid, layersM) ? along : findWidestFace(solid);
  if (group !== 'wall') return along;
  const box = asAlignedBox(solid);
  if (box) return box.max[0] - box.min[0] >= box.max[1] - box.min[1] ? [0, 1, 0] : [1, 0, 0];
  if (1 - Math.abs(along[1]) < TOLERANCE.parallel) return along;
  return null;
}

/** Direction that the widest flat face of a solid along its sweep looks, if it lies along an axis. */
function findWidestFace(solid: SweptSolid): Vector3 | null {
  const box = asAlignedBox(solid);
  if (!box) return null;
  const size = [0, 1, 2].map((k) => box.max[k]! - box.min[k]!);
  const thin = size.indexOf(Math.min(...size));
  return [thin === 0 ? 1 : 0, thin === 1 ? 1 : 0, thin === 2 ? 1 : 0];
}

/** Direction across a host that is no straight solid: of a wall square to it on plan, of others along its widest face. */
function guessNormal(group: MeasureGroup, shape: BodyShape): Vector3 | null {
  if (group === 'wall') return [0, 1, 0];
  const [main] = listFaceDirections(shape.grossFaces()?.facets ?? []);
  return main?.direction ?? null;
}

/** Size of an opening, seen square to where it lies in its host. */
function measureOpening(
  { globalId, filledBy, solid, drawn }: OpeningBody,
  group: MeasureGroup,
  host: SweptSolid | null,
  normal: Vector3 | null,
  shape: BodyShape | null,
): Opening {
  const along = solid && sweptDirection(solid);
  const isLevel = along && Math.abs(along[2]) < TOLERANCE.parallel;
  // In a bent or curved wall an opening is seen along its own sweep.
  const seen = group === 'wall' && !(host && asAlignedBox(host)) && isLevel ? along : normal;
  const size = !seen ? null : solid ? measureOpeningSize(solid, seen) : drawn ? measureDrawnOpening(drawn, seen) : null;
  return {
    globalId,
    filledBy,
    width: size?.widthM ?? null,
    height: size?.heightM ?? null,
    area: size?.areaM2 ?? null,
    perimeter: size?.perimeterM ?? null,
    sill: size && shape && group !== 'slab' ? Math.max(0, size.bottomM - shape.extents.min[2]) : null,
  };
}
