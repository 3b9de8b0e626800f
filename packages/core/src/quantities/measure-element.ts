import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import type { Opening, Quantity, QuantityMethod } from '../elements/model-element.ts';
import { deductOpenings, measureOpeningSize } from '../geometry/opening-deduction.ts';
import { outlineToPolygon } from '../geometry/outline.ts';
import { profileToOutlines } from '../geometry/profile.ts';
import { listSweptPoints, measureSweptSolid, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { boundPoints, transformPoint, type Vector3 } from '../geometry/vector.ts';
import {
  type BodyMeasures,
  type ElementBody,
  type ElementMeshes,
  isMeshNeeded,
  type Measured,
  measureBody,
} from './element-body.ts';
import { type MeasureGroup, QUANTITY_DEFINITIONS } from './quantity-names.ts';

export interface MeasureInput {
  readonly group: MeasureGroup;
  readonly body: ElementBody | null;
  readonly meshes: ElementMeshes | null;
  /** Sum of the layer thicknesses, m, if the element is layered. */
  readonly layersM: number | null;
  /** OverallWidth and OverallHeight of doors and windows, m. */
  readonly overall: { readonly widthM: number | null; readonly heightM: number | null } | null;
}

export interface MeasureOutcome {
  readonly quantities: readonly Quantity[];
  readonly openings: readonly Opening[];
  /** Extents in the element's frame. */
  readonly extents: { readonly min: Vector3; readonly max: Vector3 } | null;
  readonly needsMesh: boolean;
  readonly problem: BodyMeasures['problem'];
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
  ['IfcFooting', 'footing'],
  ['IfcDoor', 'filler'],
  ['IfcWindow', 'filler'],
  ['IfcSpace', 'space'],
];

/** Group of classes that an IFC class is measured with. */
export function classToMeasureGroup(ifcClass: string): MeasureGroup {
  return GROUP_CLASSES.find(([name]) => isClassOrSubtype(ifcClass, name))?.[1] ?? 'other';
}

const UNITS = new Map(QUANTITY_DEFINITIONS.map((d) => [d.name, d.unit]));

/** Direction that face areas are square to: across a wall, along the extrusion of everything else. */
function faceNormal(group: MeasureGroup, solid: SweptSolid): Vector3 {
  const along = sweptDirection(solid);
  if (group !== 'wall') return along;
  const { min, max } = boundPoints(listSweptPoints(solid))!;
  const isUpright = Math.abs(along[2]) > 1 - TOLERANCE.parallel;
  if (isUpright) return max[0] - min[0] >= max[1] - min[1] ? [0, 1, 0] : [1, 0, 0];
  const isAcross = solid.depth <= Math.max(max[0] - min[0], max[1] - min[1]) - TOLERANCE.point;
  return isAcross ? along : [-along[1], along[0], 0];
}

/** Measures an element by its class. Asks for meshes (`needsMesh`) if exact figures cannot be had without. */
export function measureElement(input: MeasureInput): MeasureOutcome {
  const { group, body, meshes, overall } = input;
  const out: Quantity[] = [{ name: 'Count', value: 1, unit: 'each', basis: 'measured', method: 'count' }];
  const add = (name: string, figure: Measured | null | undefined) => {
    if (figure && Number.isFinite(figure.value) && figure.value > 0) {
      out.push({ name, value: figure.value, unit: UNITS.get(name) ?? 'm', basis: 'measured', method: figure.method });
    }
  };
  const single = body?.solids.length === 1 && !body.hasOther ? body.solids[0]! : null;
  const normal = single ? faceNormal(group, single) : null;
  const openingSolids = (body?.openings ?? []).flatMap((o) => (o.solid ? [o.solid] : []));
  const isDeductible = single && normal && !body?.isClipped && openingSolids.length === body?.openings.length;
  const deduction = isDeductible ? deductOpenings(single, openingSolids, normal) : null;
  const measures = body ? measureBody(body, deduction?.volumeM3 ?? null, meshes) : null;
  const needsMesh = body !== null && isMeshNeeded(body, deduction?.volumeM3 ?? null);

  const openings = (body?.openings ?? []).map(({ globalId, filledBy, solid }): Opening => {
    const size = solid ? measureOpeningSize(solid, normal ?? guessNormal(measures)) : null;
    return {
      globalId,
      filledBy,
      width: size?.widthM ?? null,
      height: size?.heightM ?? null,
      area: size?.areaM2 ?? null,
      perimeter: size?.perimeterM ?? null,
    };
  });
  if (group === 'filler') addFiller(add, measures, overall);
  else if (measures && !(needsMesh && !meshes)) {
    const context = {
      add,
      measures,
      single,
      normal,
      deductedM2: deduction?.areaM2 ?? null,
      layersM: input.layersM,
      hasOpenings: openings.length > 0,
      isWhole: body !== null && !body.isClipped,
    };
    MEASURE[group](context);
  }
  const extents = measures ? { min: measures.min, max: measures.max } : null;
  return { quantities: out, openings, extents, needsMesh, problem: measures?.problem ?? null };
}

function guessNormal(measures: BodyMeasures | null): Vector3 {
  if (!measures) return [0, 1, 0];
  const size = [0, 1, 2].map((k) => measures.max[k]! - measures.min[k]!);
  const thin = size.indexOf(Math.min(...size));
  return [thin === 0 ? 1 : 0, thin === 1 ? 1 : 0, thin === 2 ? 1 : 0];
}

interface Context {
  readonly add: (name: string, figure: Measured | null | undefined) => void;
  readonly measures: BodyMeasures;
  readonly single: SweptSolid | null;
  readonly normal: Vector3 | null;
  readonly deductedM2: number | null;
  readonly layersM: number | null;
  readonly hasOpenings: boolean;
  /** Nothing is clipped off, so the solid's own figures are the element's. */
  readonly isWhole: boolean;
}

const sizeOf = ({ min, max }: BodyMeasures) => [0, 1, 2].map((k) => max[k]! - min[k]!) as unknown as Vector3;
const exact = (value: number, method: QuantityMethod = 'swept'): Measured => ({ value, method });

const MEASURE: Record<Exclude<MeasureGroup, 'filler'>, (c: Context) => void> = {
  wall: measureWall,
  slab: measureSlab,
  linear: measureLinear,
  footing: measureFooting,
  space: measureSpace,
  other: measureOther,
};

function addVolumes({ add, measures }: Context): void {
  add('GrossVolume', measures.gross);
  add('NetVolume', measures.net);
}

function measureWall(c: Context): void {
  const { add, measures, single, normal, layersM } = c;
  const [dx, dy, dz] = sizeOf(measures);
  const byMesh = measures.gross?.method ?? 'mesh';
  const swept = single ? measureSweptSolid(single) : null;
  const isUpright = single ? Math.abs(sweptDirection(single)[2]) > 1 - TOLERANCE.parallel : false;
  const isStraight = single?.profile.kind !== 'outline' || single.profile.outer.every((v) => v.sweep === 0);
  let width = normal && Math.abs(normal[0]) > 0.5 && Math.abs(normal[1]) < 0.5 ? dx : normal ? dy : Math.min(dx, dy);
  let length = width === dx && dx !== dy ? dy : dx;
  if (swept && isUpright) {
    const isRectangle = Math.abs(swept.areaM2 - dx * dy) < 1e-6;
    // A wall bent or skewed on plan: its length is its footprint over its thickness.
    if (c.isWhole && !isRectangle && layersM) [width, length] = [layersM, swept.areaM2 / layersM];
    else if (c.isWhole && !isRectangle && !isStraight) width = length = Number.NaN;
  } else if (!single && layersM) width = layersM;
  else if (single && normal && !isUpright && Math.abs(normal[0] * normal[1]) > TOLERANCE.parallel) {
    width = swept!.heightM;
    length = Math.hypot(dx, dy);
  }
  const isExactLength = single !== null && c.isWhole;
  add('Length', exact(length, isExactLength ? 'swept' : byMesh));
  add('Width', exact(width, single ? 'swept' : byMesh));
  add('Height', exact(dz, isExactLength ? 'swept' : byMesh));
  const isElevation =
    swept !== null &&
    !isUpright &&
    c.isWhole &&
    normal !== null &&
    Math.abs(Math.abs(sweptDirection(single!)[0] * normal[0] + sweptDirection(single!)[1] * normal[1]) - 1) <
      TOLERANCE.parallel;
  const grossSide: Measured | null = isElevation
    ? exact(swept.areaM2)
    : c.isWhole && single
      ? exact(length * dz)
      : measures.gross && width > 0
        ? exact(measures.gross.value / width, byMesh)
        : null;
  add('GrossSideArea', grossSide);
  if (grossSide) {
    const net =
      c.deductedM2 !== null
        ? grossSide.value - c.deductedM2
        : measures.net && width > 0
          ? measures.net.value / width
          : null;
    if (net !== null)
      add(
        'NetSideArea',
        exact(
          net,
          c.deductedM2 !== null ? (c.hasOpenings ? 'swept-openings' : 'swept') : (measures.net?.method ?? byMesh),
        ),
      );
  }
  add(
    'GrossFootprintArea',
    swept && isUpright ? exact(swept.areaM2) : exact(length * width, single ? 'swept' : byMesh),
  );
  addVolumes(c);
  if (swept && isUpright)
    add('OuterSurfaceArea', c.isWhole ? exact(swept.lateralAreaM2) : scaled(swept.lateralAreaM2, c, swept.volumeM3));
  else if (c.isWhole && single && length > 0)
    add('OuterSurfaceArea', exact(2 * (grossSide?.value ?? 0) + measureUprightEdgesM(single) * width));
  else if (measures.mesh) add('OuterSurfaceArea', exact(measures.mesh.areaM2, 'mesh'));
}

/** Length of the upright edges of a wall drawn as an elevation: its ends. */
function measureUprightEdgesM(solid: SweptSolid): number {
  const points = outlineToPolygon(profileToOutlines(solid.profile).outer).map(([x, y]) =>
    transformPoint(solid.placement, [x, y, 0]),
  );
  return points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return Math.hypot(q[0] - p[0], q[1] - p[1]) < TOLERANCE.point ? sum + Math.abs(q[2] - p[2]) : sum;
  }, 0);
}

/** A figure of the unclipped solid, reduced as the clipping reduced the volume. */
function scaled(value: number, { measures }: Context, unclippedM3: number): Measured | null {
  return measures.gross ? exact((value * measures.gross.value) / unclippedM3, 'swept-clipped') : null;
}

function measureSlab(c: Context): void {
  const { add, measures, single, layersM } = c;
  if (single) {
    const swept = measureSweptSolid(single);
    const local = boundPoints(
      listSweptPoints({ ...single, placement: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0], direction: [0, 0, 1] }),
    )!;
    const sides = [local.max[0] - local.min[0], local.max[1] - local.min[1]].sort((a, b) => b - a) as [number, number];
    // A plate drawn along its length: its thickness is the small side of the profile.
    const isDrawnLengthwise =
      single.profile.kind === 'rectangle' && swept.heightM > sides[1] * 1.5 && swept.heightM > (layersM ?? 0) * 1.5;
    const dims = isDrawnLengthwise ? [swept.heightM, sides[0]].sort((a, b) => b - a) : sides;
    const depth = isDrawnLengthwise ? sides[1] : swept.heightM;
    const face = isDrawnLengthwise ? dims[0]! * dims[1]! : swept.areaM2;
    add('Length', exact(dims[0]!));
    add('Width', exact(dims[1]!));
    add('Depth', exact(depth));
    if (c.isWhole) add('Perimeter', exact(isDrawnLengthwise ? 2 * (dims[0]! + dims[1]!) : swept.perimeterM));
    const gross = c.isWhole ? exact(face) : scaled(face, c, swept.volumeM3);
    add('GrossArea', gross);
    if (gross && c.deductedM2 !== null && !isDrawnLengthwise)
      add('NetArea', exact(gross.value - c.deductedM2, c.hasOpenings ? 'swept-openings' : gross.method));
    else if (measures.net && depth > 0) add('NetArea', exact(measures.net.value / depth, measures.net.method));
  } else {
    const [dx, dy, dz] = sizeOf(measures);
    const sorted = [dx, dy, dz].sort((a, b) => b - a);
    const depth = layersM ?? sorted[2]!;
    add('Length', exact(sorted[0]!, 'mesh'));
    add('Width', exact(sorted[1]!, 'mesh'));
    add('Depth', exact(depth, 'mesh'));
    if (measures.gross && depth > 0) add('GrossArea', exact(measures.gross.value / depth, measures.gross.method));
    if (measures.net && depth > 0) add('NetArea', exact(measures.net.value / depth, measures.net.method));
  }
  addVolumes(c);
}

function measureLinear(c: Context): void {
  const { add, measures, single } = c;
  if (single) {
    const swept = measureSweptSolid(single);
    const along = sweptDirection(single);
    const axis = along.findIndex((v) => Math.abs(v) > 1 - TOLERANCE.parallel);
    const clippedLength = axis >= 0 ? sizeOf(measures)[axis]! : null;
    add(
      'Length',
      c.isWhole || clippedLength === null
        ? exact(single.depth)
        : exact(Math.min(single.depth, clippedLength), 'swept-clipped'),
    );
    add('CrossSectionArea', exact(swept.areaM2));
    add('OuterSurfaceArea', c.isWhole ? exact(swept.lateralAreaM2) : scaled(swept.lateralAreaM2, c, swept.volumeM3));
  } else {
    const length = Math.max(...sizeOf(measures));
    add('Length', exact(length, 'mesh'));
    if (measures.gross) add('CrossSectionArea', exact(measures.gross.value / length, 'mesh'));
    if (measures.mesh) add('OuterSurfaceArea', exact(measures.mesh.areaM2, 'mesh'));
  }
  addVolumes(c);
}

function measureFooting(c: Context): void {
  const { add, measures, single } = c;
  const [dx, dy, dz] = sizeOf(measures);
  const method: QuantityMethod = single && c.isWhole ? 'swept' : 'mesh';
  add('Length', exact(Math.max(dx, dy), method));
  add('Width', exact(Math.min(dx, dy), method));
  add('Height', exact(dz, method));
  addVolumes(c);
  if (single && c.isWhole) add('OuterSurfaceArea', exact(measureSweptSolid(single).lateralAreaM2));
  else if (measures.mesh) add('OuterSurfaceArea', exact(measures.mesh.areaM2, 'mesh'));
}

function measureSpace(c: Context): void {
  const { add, measures, single } = c;
  const height = sizeOf(measures)[2];
  const swept =
    single && Math.abs(sweptDirection(single)[2]) > 1 - TOLERANCE.parallel ? measureSweptSolid(single) : null;
  add('Height', exact(height, swept && c.isWhole ? 'swept' : 'mesh'));
  if (swept) {
    add('NetFloorArea', exact(swept.areaM2));
    add('GrossPerimeter', exact(swept.perimeterM));
  } else if (measures.net && height > 0) add('NetFloorArea', exact(measures.net.value / height, 'mesh'));
  add('NetVolume', measures.net);
}

function measureOther(c: Context): void {
  const { add, measures, single } = c;
  const [dx, dy, dz] = sizeOf(measures);
  const method: QuantityMethod = single && c.isWhole ? 'swept' : 'mesh';
  add('Length', exact(Math.max(dx, dy), method));
  add('Width', exact(Math.min(dx, dy), method));
  add('Height', exact(dz, method));
  addVolumes(c);
  if (single && c.isWhole) {
    const swept = measureSweptSolid(single);
    add('OuterSurfaceArea', exact(swept.lateralAreaM2 + 2 * swept.areaM2));
  } else if (measures.mesh) add('OuterSurfaceArea', exact(measures.mesh.areaM2, 'mesh'));
}

function addFiller(add: Context['add'], measures: BodyMeasures | null, overall: MeasureInput['overall']): void {
  const size = measures ? sizeOf(measures) : null;
  const pick = (stated: number | null | undefined, body: number | undefined): Measured | null =>
    stated ? exact(stated, 'attribute') : body ? exact(body, measures?.mesh ? 'mesh' : 'swept') : null;
  const width = pick(overall?.widthM, size ? Math.max(size[0], size[1]) : undefined);
  const height = pick(overall?.heightM, size?.[2]);
  add('Width', width);
  add('Height', height);
  if (width && height) {
    const method = width.method === height.method ? width.method : 'attribute';
    add('Perimeter', exact(2 * (width.value + height.value), method));
    add('Area', exact(width.value * height.value, method));
  }
  add('NetVolume', measures?.net);
}
