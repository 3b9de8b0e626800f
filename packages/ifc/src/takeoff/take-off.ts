import {
  appendToList,
  type Box,
  boundBox,
  checkElements,
  checkModel,
  checkOverlaps,
  type ElementMeshes,
  type Finding,
  type JunctionsAmong,
  type MeasureOutcome,
  type ModelElement,
  type ModelStorey,
  measureElement,
  measureLayers,
  type Quantity,
  type RoomPlan,
  reportMissingDensities,
  type SiteData,
  type Vector3,
  weighElement,
} from '@tally/core';
import type { FileElement, FileModel } from '../reader/read-elements.ts';
import { type FileMeshes, isStyledByItem, listFaces } from './list-faces.ts';
import { findRoomShape, listWallOpenings, placeBody } from './plan-shapes.ts';
import { measureRooms } from './room-figures.ts';
import {
  listJunctionQuantities,
  listSideQuantities,
  type MeasuredElement,
  measureJunctions,
  measureRoofs,
  measureStoreys,
  sumParts,
} from './site-figures.ts';

/** A model taken off: elements with stated and measured quantities, and findings. */
export interface Takeoff {
  readonly elements: readonly ModelElement[];
  readonly findings: readonly Finding[];
  readonly storeys: readonly ModelStorey[];
  /** What a table keeps beside the elements. */
  readonly site: SiteData;
  /** Junctions over all walls; rows are positions in `elements`. */
  readonly junctions: JunctionsAmong;
  /** What was measured, for questions about a part of the model. */
  readonly measured: readonly MeasuredElement[];
}

/** What is still missing for exact figures. */
export interface MeshNeeds {
  /** Record numbers of elements whose figures need their mesh, and of those that need it without openings too. */
  readonly net: readonly number[];
  readonly gross: readonly number[];
  /** What was measured without meshes, by record number. */
  readonly measured: ReadonlyMap<number, MeasureOutcome>;
}

/** Elements whose figures need a mesh. */
export function listMeshNeeds(model: FileModel): MeshNeeds {
  const net: number[] = [];
  const gross: number[] = [];
  const measured = new Map<number, MeasureOutcome>();
  for (const e of model.elements) {
    const outcome = measure(e, null);
    measured.set(e.id, outcome);
    if (!e.body || !(outcome.needsMesh || isStyledByItem(e))) continue;
    net.push(e.id);
    if (outcome.needsMesh && e.body.openings.length > 0 && (e.body.isClipped || e.body.hasOther)) gross.push(e.id);
  }
  return { net, gross, measured };
}

function measure(e: FileElement, meshes: ElementMeshes | null): MeasureOutcome {
  const layers = e.material.layers.reduce((sum, l) => sum + (l.thicknessM ?? 0), 0);
  return measureElement({
    group: e.group,
    body: e.body,
    meshes,
    layersM: layers > 0 ? layers : null,
    overall: e.overall,
    up: [e.placement[8], e.placement[9], e.placement[10]],
  });
}

/** Measures every element and checks the model. Meshes are in each element's own frame, by record number. */
export function takeOff(
  model: FileModel,
  meshes: ReadonlyMap<number, FileMeshes>,
  meshFindings: readonly Finding[] = [],
  measured: MeshNeeds['measured'] = new Map(),
): Takeoff {
  const findings: Finding[] = [...model.findings, ...meshFindings];
  const stalled = new Set(meshFindings.filter((f) => f.code === 'geometry-stalled').flatMap((f) => f.globalIds));
  const missing = new Map<string, string[]>();
  const faults = {
    'no-geometry': [] as FileElement[],
    'open-body': [] as FileElement[],
    'volume-not-positive': [] as FileElement[],
    'profile-crosses-itself': [] as FileElement[],
  };
  const damaged: FileElement[] = [];
  const all = model.elements.map((element): MeasuredElement => {
    const mesh = meshes.get(element.id) ?? null;
    // What could be measured exactly without a mesh stays so.
    const known = measured.get(element.id);
    const outcome = known && !(mesh && known.needsMesh) ? known : measure(element, mesh);
    return { element, outcome, meshes: mesh };
  });
  const junctions = measureJunctions(all);
  const wallOpenings = all.flatMap(({ element, outcome }) =>
    element.group === 'wall' ? listWallOpenings(element, outcome) : [],
  );
  const rooms = measureRooms(all, wallOpenings, junctions.axes);
  const roofs = measureRoofs(all);
  const elements = all.map((measuredElement, row): ModelElement => {
    const { element: e, outcome } = measuredElement;
    const layers = measureLayers(e.material.layers, outcome.quantities, model.densities);
    const weighing = weighElement(e.material.names, layers, outcome.quantities, model.densities);
    for (const material of new Set(weighing.missing)) appendToList(missing, material, e.globalId);
    const weight: Quantity[] =
      weighing.weightKg === null
        ? []
        : [{ name: 'Weight', value: weighing.weightKg, unit: 'kg', basis: 'measured', method: 'density' }];
    if (e.isDamaged) damaged.push(e);
    else if (!e.body && !e.hasParts) faults['no-geometry'].push(e);
    else if (outcome.problem) faults[outcome.problem].push(e);
    else if (e.body && outcome.needsMesh && !meshes.get(e.id)?.net && meshes.size > 0 && !stalled.has(e.globalId))
      faults['no-geometry'].push(e);
    if (e.unusable.some((n) => /volume/i.test(n)) && outcome.problem !== 'volume-not-positive')
      faults['volume-not-positive'].push(e);
    return {
      globalId: e.globalId,
      ifcClass: e.ifcClass,
      name: e.name,
      typeName: e.typeName,
      tag: e.tag,
      storey: e.storey,
      space: e.space,
      parent: e.parent,
      host: e.host,
      zones: e.zones,
      materials: e.material.names,
      codes: e.codes,
      quantities: [
        ...e.stated,
        ...outcome.quantities,
        ...listJunctionQuantities(junctions.byRow.get(row), outcome.openings.length),
        ...listSideQuantities(measuredElement, junctions.coveredM2.get(row), rooms.sides.get(row)),
        ...(rooms.figures.get(e.id) ?? []),
        ...(roofs.get(e.id) ?? []),
        ...weight,
      ],
      layers,
      openings: outcome.openings,
      faces: listFaces(e, outcome, measuredElement.meshes),
      properties: e.properties,
      finishes: e.finishes,
      box: outcome.extents ? toWorldBox(e, outcome.extents) : null,
    };
  });
  for (const [code, list] of Object.entries(faults) as [keyof typeof faults, FileElement[]][]) {
    for (const e of list)
      findings.push({
        code,
        severity: code === 'no-geometry' ? 'notice' : 'warning',
        message: `${e.ifcClass} ${e.name ?? e.globalId} ${FAULT_WORDS[code]}`,
        globalIds: [e.globalId],
      });
  }
  for (const e of damaged)
    findings.push({
      code: 'no-geometry',
      severity: 'warning',
      message: `${e.ifcClass} ${e.name ?? e.globalId} has a damaged shape; it is counted but not measured.`,
      globalIds: [e.globalId],
    });
  const whole = sumParts(elements);
  const storeys = measureStoreys(model, all);
  const own = checkElements(whole);
  const coincident = new Set(own.filter((f) => f.code === 'coincident').flatMap((f) => f.globalIds));
  const bodies = all.flatMap(({ element, outcome }) => placeBody(element, outcome) ?? []);
  findings.push(
    ...own,
    ...checkModel(whole, storeys),
    ...checkOverlaps(bodies, coincident),
    ...reportMissingDensities(missing),
  );
  const roomPlans = all.flatMap(({ element, outcome, meshes: own }, row): RoomPlan[] => {
    const shape = element.group === 'space' ? findRoomShape(element, outcome, own) : null;
    return shape ? [{ row, rings: [shape.outline.flat()], bottomM: shape.bottomM, topM: shape.topM }] : [];
  });
  const site = {
    storeys,
    densities: Object.fromEntries(model.densities),
    roomPlans,
    junctions: junctions.list,
    wallAxes: junctions.axes,
    wallOpenings,
  };
  return { elements: whole, findings, storeys, site, junctions, measured: all };
}

const FAULT_WORDS = {
  'no-geometry': 'has no shape; only what the file states about it is known.',
  'open-body': 'has a body that is not closed; its volume is unknown.',
  'volume-not-positive': 'has a volume that is not more than 0; it is left unknown.',
  'profile-crosses-itself': 'is drawn with an outline that crosses itself; it is counted but not measured.',
} as const;

function toWorldBox(e: FileElement, extents: { min: Vector3; max: Vector3 }): Box {
  const { min, max } = boundBox(e.placement, extents);
  return [...min, ...max];
}
