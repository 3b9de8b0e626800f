import type { QuantityMethod } from '../elements/model-element.ts';
import { measureOwnRectangle, measureStrip } from '../geometry/own-axes.ts';
import { profileToOutlines, profileToPolygon } from '../geometry/profile.ts';
import { measureSweptSolid, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { transformPoint, type Vector3 } from '../geometry/vector.ts';
import type { BodyMeasures, Measured } from './element-body.ts';
import type { MeasureGroup } from './quantity-names.ts';

/** What the measuring of one group of classes works with. */
export interface MeasureContext {
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

/** Measures a body by the group of its class: names and meanings as in GROUP_QUANTITIES. */
export function measureByGroup(group: Exclude<MeasureGroup, 'filler'>, context: MeasureContext): void {
  MEASURE[group](context);
}

const MEASURE: Record<Exclude<MeasureGroup, 'filler'>, (c: MeasureContext) => void> = {
  wall: measureWall,
  slab: measureSlab,
  linear: measureLinear,
  footing: measureFooting,
  space: measureSpace,
  other: measureOther,
};

function addVolumes({ add, measures }: MeasureContext): void {
  add('GrossVolume', measures.gross);
  add('NetVolume', measures.net);
}

function measureWall(c: MeasureContext): void {
  const { add, measures, single, normal, layersM } = c;
  const [dx, dy, dz] = sizeOf(measures);
  const byMesh = measures.gross?.method ?? 'mesh';
  const swept = single ? measureSweptSolid(single) : null;
  const isUpright = single ? Math.abs(sweptDirection(single)[2]) > 1 - TOLERANCE.parallel : false;
  let width = normal && Math.abs(normal[0]) > 0.5 && Math.abs(normal[1]) < 0.5 ? dx : normal ? dy : Math.min(dx, dy);
  let length = width === dx && dx !== dy ? dy : dx;
  if (swept && isUpright) {
    const isRectangle = Math.abs(swept.areaM2 - dx * dy) < 1e-5 * swept.areaM2;
    // A wall bent, curved or skewed on plan: its length is its footprint over its thickness.
    if (c.isWhole && !isRectangle) {
      width = layersM ?? findPlanThickness(single!, Math.min(dx, dy));
      length = swept.areaM2 / width;
    }
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

/** Thickness of an upright wall that is no rectangle on plan: across a skewed one, that of the strip of a bent or curved one. */
function findPlanThickness(solid: SweptSolid, acrossM: number): number {
  const { outer } = profileToOutlines(solid.profile);
  const isSkewed = outer.length === 4 && outer.every((v) => v.sweep === 0);
  const { areaM2, perimeterM } = measureSweptSolid(solid);
  return isSkewed ? acrossM : (measureStrip(areaM2, perimeterM)?.thicknessM ?? acrossM);
}

/** Length of the upright edges of a wall drawn as an elevation: its ends. */
function measureUprightEdgesM(solid: SweptSolid): number {
  const points = profileToPolygon(solid.profile).map(([x, y]) => transformPoint(solid.placement, [x, y, 0]));
  return points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return Math.hypot(q[0] - p[0], q[1] - p[1]) < TOLERANCE.point ? sum + Math.abs(q[2] - p[2]) : sum;
  }, 0);
}

/** A figure of the unclipped solid, reduced as the clipping reduced the volume. */
function scaled(value: number, { measures }: MeasureContext, unclippedM3: number): Measured | null {
  return measures.gross ? exact((value * measures.gross.value) / unclippedM3, 'swept-clipped') : null;
}

function measureSlab(c: MeasureContext): void {
  const { add, measures, single, layersM } = c;
  if (single) {
    const swept = measureSweptSolid(single);
    const own = measureOwnRectangle(profileToPolygon(single.profile));
    const sides = [own.longM, own.shortM] as const;
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

function measureLinear(c: MeasureContext): void {
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

/** Longer and shorter side on plan, height, volumes. */
function addSizes(c: MeasureContext): void {
  const { add, measures, single } = c;
  const [dx, dy, dz] = sizeOf(measures);
  const method: QuantityMethod = single && c.isWhole ? 'swept' : 'mesh';
  add('Length', exact(Math.max(dx, dy), method));
  add('Width', exact(Math.min(dx, dy), method));
  add('Height', exact(dz, method));
  addVolumes(c);
}

function measureFooting(c: MeasureContext): void {
  const { add, measures, single } = c;
  addSizes(c);
  if (single && c.isWhole) add('OuterSurfaceArea', exact(measureSweptSolid(single).lateralAreaM2));
  else if (measures.mesh) add('OuterSurfaceArea', exact(measures.mesh.areaM2, 'mesh'));
}

function measureSpace(c: MeasureContext): void {
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

function measureOther(c: MeasureContext): void {
  const { add, measures, single } = c;
  addSizes(c);
  if (single && c.isWhole) {
    const swept = measureSweptSolid(single);
    add('OuterSurfaceArea', exact(swept.lateralAreaM2 + 2 * swept.areaM2));
  } else if (measures.mesh) add('OuterSurfaceArea', exact(measures.mesh.areaM2, 'mesh'));
}

/** Doors and windows: their overall size as the element says, else that of the body. */
export function addFiller(
  add: MeasureContext['add'],
  measures: BodyMeasures | null,
  overall: { readonly widthM: number | null; readonly heightM: number | null } | null,
): void {
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
