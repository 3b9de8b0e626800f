import {
  AlikeMeasurer,
  appendToList,
  checkElements,
  checkFloors,
  checkModel,
  type ElementMeshes,
  type Finding,
  findSamePlaces,
  type JunctionsAmong,
  type MeasureInput,
  type MeasureOutcome,
  type ModelElement,
  type ModelStorey,
  measureElement,
  measureLayers,
  measureSharedBodies,
  normalize,
  type Quantity,
  type RoomPlan,
  reportMissingDensities,
  reportOverlaps,
  type SiteData,
  toWallAxis,
  weighElement,
} from '@tally/core';
import type { FileElement, FileModel } from '../reader/read-elements.ts';
import { FaceMemory, type FileMeshes, isStyledByItem } from './list-faces.ts';
import { fillSameRoom, labelBody, placeBodies, SketchMemory } from './placed-bodies.ts';
import { listWallOpenings } from './plan-shapes.ts';
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

/** What is still missing for figures. */
export interface MeshNeeds {
  /** Record numbers of elements whose figures need their mesh, and of those that need it without openings too. */
  readonly net: readonly number[];
  readonly gross: readonly number[];
  /** Solids, by element, that must be meshed as they were before something was cut off. */
  readonly uncut: ReadonlyMap<number, number>;
  /** What was measured without meshes, by record number. */
  readonly measured: ReadonlyMap<number, MeasureOutcome>;
}

/** Elements whose figures need a mesh. */
export function listMeshNeeds(model: FileModel): MeshNeeds {
  const net: number[] = [];
  const gross: number[] = [];
  const uncut = new Map<number, number>();
  const measured = new Map<number, MeasureOutcome>();
  const alike = new AlikeMeasurer();
  for (const e of model.elements) {
    const outcome = alike.measure(toMeasure(e, null));
    measured.set(e.id, outcome);
    if (!e.body || !(outcome.needs || isStyledByItem(e))) continue;
    net.push(e.id);
    if (outcome.needs?.gross) gross.push(e.id);
    if (outcome.needs?.uncut && e.sweeps.length === 1) uncut.set(e.id, e.sweeps[0]!);
  }
  return { net, gross, uncut, measured };
}

function toMeasure(e: FileElement, meshes: ElementMeshes | null): MeasureInput {
  const layers = e.material.layers.reduce((sum, l) => sum + (l.thicknessM ?? 0), 0);
  return {
    group: e.group,
    body: e.body,
    meshes,
    layersM: layers > 0 ? layers : null,
    overall: e.overall,
    up: normalize([e.placement[8], e.placement[9], e.placement[10]]),
    placement: e.placement,
  };
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
    'solids-overlap': [] as FileElement[],
    'size-out-of-range': [] as FileElement[],
    'opening-not-measured': [] as FileElement[],
  };
  const damaged: FileElement[] = [];
  const all = model.elements.map((element): MeasuredElement => {
    const mesh = meshes.get(element.id) ?? null;
    // What could be measured exactly without a mesh stays so.
    const known = measured.get(element.id);
    const outcome = known && !(mesh && known.needs) ? known : measureElement(toMeasure(element, mesh));
    return { element, outcome, meshes: mesh };
  });
  const junctions = measureJunctions(all);
  const axisOf = new Map(junctions.axes.map((axis) => [axis.row, axis]));
  const wallOpenings = all.flatMap(({ element, outcome }, row) => {
    const axis = axisOf.get(row);
    return element.group === 'wall' ? listWallOpenings(element, outcome, axis ? toWallAxis(axis) : null) : [];
  });
  const rooms = measureRooms(all, wallOpenings, junctions.axes);
  const roofs = measureRoofs(all);
  const sketches = new SketchMemory();
  const faces = new FaceMemory();
  const elements = all.map((measuredElement, row): ModelElement => {
    const { element: e, outcome } = measuredElement;
    const layers = measureLayers(e.material.layers, outcome.quantities, model.densities);
    const weighing = weighElement(e.material.names, layers, outcome.quantities, model.densities);
    // Where layers share a material it is missed once.
    for (const material of listOnce(weighing.missing)) appendToList(missing, material, e.globalId);
    const weight: Quantity[] =
      weighing.weightKg === null
        ? []
        : [
            {
              name: 'Weight',
              value: weighing.weightKg,
              unit: 'kg',
              basis: 'measured',
              method: 'density',
              exactness: weighing.exactness,
            },
          ];
    if (e.isDamaged) damaged.push(e);
    else if (!e.body && !e.hasParts) faults['no-geometry'].push(e);
    else if (outcome.problem) faults[outcome.problem].push(e);
    else if (e.body && outcome.needs && !meshes.get(e.id)?.net && meshes.size > 0 && !stalled.has(e.globalId))
      faults['no-geometry'].push(e);
    if (outcome.unknownOpenings.length > 0) faults['opening-not-measured'].push(e);
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
        ...(roofs.figures.get(e.id) ?? []),
        ...weight,
      ],
      layers,
      openings: outcome.openings,
      faces: faces.list(e, outcome, measuredElement.meshes),
      properties: e.properties,
      finishes: e.finishes,
      box: outcome.worldExtents ? [...outcome.worldExtents.min, ...outcome.worldExtents.max] : null,
      sketch: outcome.worldExtents ? sketches.sketch(measuredElement) : null,
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
  const storeys = measureStoreys(model, all, rooms.shapes, junctions.axes);
  const bodies = placeBodies(all);
  const isSameShape = (a: number, b: number) => fillSameRoom(bodies.get(a), bodies.get(b), all[a]!, all[b]!);
  const samePlaces = new Set(findSamePlaces(whole, isSameShape).map(([a, b]) => `${a}/${b}`));
  const sharedBodies = measureSharedBodies([...bodies.values()]).filter(({ a, b }) => !samePlaces.has(`${a}/${b}`));
  findings.push(
    ...checkElements(whole, isSameShape),
    ...checkModel(whole, storeys),
    ...checkFloors(storeys),
    ...reportOverlaps(sharedBodies, (row) => labelBody(bodies.get(row)!)),
    ...reportMissingDensities(missing),
  );
  const roomPlans = all.flatMap(({ element }, row): RoomPlan[] => {
    const pieces = rooms.shapes.get(element.id) ?? [];
    const [first] = pieces;
    if (!first || element.spaceKind !== 'room') return [];
    const holes = pieces.flatMap((s) => (s.holes ?? []).map((ring) => ring.flat()));
    const rings = pieces.map((s) => s.outline.flat());
    return [{ row, rings, ...(holes.length > 0 ? { holes } : {}), bottomM: first.bottomM, topM: first.topM }];
  });
  const site = {
    storeys,
    densities: Object.fromEntries(model.densities),
    roomPlans,
    junctions: junctions.list,
    wallAxes: junctions.axes,
    wallOpenings,
    roofSlopes: roofs.slopes,
    sharedBodies,
  };
  return { elements: whole, findings, storeys, site, junctions, measured: all };
}

const listOnce = (texts: readonly string[]): Iterable<string> => (texts.length > 1 ? new Set(texts) : texts);

const FAULT_WORDS = {
  'no-geometry': 'has no shape; only what the file states about it is known.',
  'open-body': 'has a body that is not closed; its volume is unknown.',
  'volume-not-positive': 'has a volume that is not more than 0; it is left unknown.',
  'profile-crosses-itself': 'is drawn with an outline that crosses itself; it is counted but not measured.',
  'solids-overlap': 'is drawn with bodies that run through each other; what they fill together counts once.',
  'size-out-of-range': 'is drawn larger, or farther away, than any building; it is counted but not measured.',
  'opening-not-measured': 'has an opening that has no one size, or is no one body; its width and height are unknown.',
} as const;
