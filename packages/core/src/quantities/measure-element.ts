import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import type { Opening, Quantity } from '../elements/model-element.ts';
import { deductOpenings, measureOpeningSize } from '../geometry/opening-deduction.ts';
import { crossesItself } from '../geometry/outline.ts';
import { profileToPolygon } from '../geometry/profile.ts';
import { listSweptPoints, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { measureMesh } from '../geometry/triangle-mesh.ts';
import { boundPoints, type Vector3 } from '../geometry/vector.ts';
import { addFaces } from './add-faces.ts';
import {
  type BodyMeasures,
  type BodyProblem,
  type ElementBody,
  type ElementMeshes,
  isMeshNeeded,
  type Measured,
  measureBody,
} from './element-body.ts';
import { addFiller, measureByGroup } from './measure-groups.ts';
import { turnToOwnFrame } from './own-frame.ts';
import { type MeasureGroup, QUANTITY_DEFINITIONS } from './quantity-names.ts';

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
}

export interface MeasureOutcome {
  readonly quantities: readonly Quantity[];
  readonly openings: readonly Opening[];
  /** Extents in the element's frame. */
  readonly extents: { readonly min: Vector3; readonly max: Vector3 } | null;
  readonly needsMesh: boolean;
  readonly problem: BodyProblem | null;
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
  let group = groups.get(ifcClass);
  if (!group) {
    group = GROUP_CLASSES.find(([name]) => isClassOrSubtype(ifcClass, name))?.[1] ?? 'other';
    groups.set(ifcClass, group);
  }
  return group;
}
const groups = new Map<string, MeasureGroup>();

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
  const { group, overall } = input;
  // A door or window that says its size need not be turned to find it.
  const isSized = group === 'filler' && overall?.widthM && overall.heightM;
  const { body, meshes } = isSized ? input : turnToOwnFrame(input.body, input.meshes);
  const out: Quantity[] = [{ name: 'Count', value: 1, unit: 'each', basis: 'measured', method: 'count' }];
  const add = (name: string, figure: Measured | null | undefined) => {
    if (figure && Number.isFinite(figure.value) && figure.value > 0) {
      out.push({ name, value: figure.value, unit: UNITS.get(name) ?? 'm', basis: 'measured', method: figure.method });
    }
  };
  if (input.body?.solids.some(isCrossed)) {
    // Whatever is worked out from such a profile is a figure of nothing.
    const extents = boundBody(input.body, meshes);
    return { quantities: out, openings: [], extents, needsMesh: false, problem: 'profile-crosses-itself' };
  }
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
      sill: size && measures ? Math.max(0, size.bottomM - measures.min[2]) : null,
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
    measureByGroup(group, context);
    addFaces(context, group, openings, input.up ?? [0, 0, 1], body?.isClipped ? null : single, meshes?.net ?? null);
  }
  const extents = !measures
    ? null
    : body === input.body
      ? { min: measures.min, max: measures.max }
      : boundBody(input.body!, input.meshes);
  return { quantities: out, openings, extents, needsMesh, problem: measures?.problem ?? null };
}

const isCrossed = ({ profile }: SweptSolid): boolean =>
  profile.kind === 'outline' && crossesItself(profileToPolygon(profile));

/** Extents of a body as it was given, not turned. */
function boundBody(body: ElementBody, meshes: ElementMeshes | null): MeasureOutcome['extents'] {
  const mesh = meshes?.net ? measureMesh(meshes.net) : null;
  return boundPoints(body.solids.flatMap(listSweptPoints)) ?? (mesh && { min: mesh.min, max: mesh.max });
}

function guessNormal(measures: BodyMeasures | null): Vector3 {
  if (!measures) return [0, 1, 0];
  const size = [0, 1, 2].map((k) => measures.max[k]! - measures.min[k]!);
  const thin = size.indexOf(Math.min(...size));
  return [thin === 0 ? 1 : 0, thin === 1 ? 1 : 0, thin === 2 ? 1 : 0];
}
