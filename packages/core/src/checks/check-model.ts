import type { ModelElement, ModelStorey } from '../elements/model-element.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { appendToList } from '../result/append-to-list.ts';
import type { Finding } from './finding.ts';

const measured = (e: ModelElement, name: string) =>
  e.quantities.find((q) => q.basis === 'measured' && q.name === name)?.value;
const label = (e: ModelElement) => `${e.ifcClass} ${e.name ?? e.globalId}`;
const figure = (value: number) => String(Number(value.toPrecision(4)));

/** Findings about elements in the light of the whole model: its types, its sizes, its rooms. */
export function checkModel(elements: readonly ModelElement[], storeys: readonly ModelStorey[]): Finding[] {
  return [
    ...checkSizes(elements),
    ...checkStoreyLevels(elements, storeys),
    ...checkLayers(elements),
    ...checkTypeWidths(elements),
    ...checkFinishes(elements),
  ];
}

/** How wrong units show: metres read as millimetres, inches, feet, or the other way round. */
const SLIPS: readonly (readonly [factor: number, words: string])[] = [
  [1000, '1000 times too large, as if millimetres were taken for metres'],
  [304.8, '304.8 times too large, as if millimetres were taken for feet'],
  [39.37, '39.4 times too large, as if inches were taken for metres'],
  [25.4, '25.4 times too large, as if millimetres were taken for inches'],
  [1 / 25.4, '25.4 times too small, as if inches were taken for millimetres'],
  [1 / 304.8, '304.8 times too small, as if feet were taken for millimetres'],
  [1 / 1000, '1000 times too small, as if metres were taken for millimetres'],
];
/** Walls, rooms and doors are about so high, m. */
const USUAL_HEIGHT_M = 2.6;
const ABSURD = 12;

function checkSizes(elements: readonly ModelElement[]): Finding[] {
  const heights = elements
    .filter((e) => /^Ifc(Wall|Space|Door)/.test(e.ifcClass))
    .flatMap((e) => measured(e, 'Height') ?? [])
    .sort((a, b) => a - b);
  const middle = heights[Math.floor(heights.length / 2)];
  if (middle === undefined) return [];
  const ratio = middle / USUAL_HEIGHT_M;
  if (ratio < ABSURD && ratio > 1 / ABSURD) return [];
  const distance = ([factor]: (typeof SLIPS)[number]) => Math.abs(Math.log(ratio / factor));
  const nearest = [...SLIPS].sort((a, b) => distance(a) - distance(b))[0]!;
  return [
    {
      code: 'absurd-size',
      severity: 'error',
      message: `Walls, rooms and doors are about ${figure(middle)} m high; the model looks ${nearest[1]}. Check the file's unit of length.`,
      globalIds: [],
    },
  ];
}

/** What stands on its storey: a wall, a column, a door, a room. Slabs, footings and beams lie below or above it. */
const STANDS = /^Ifc(Wall|Column|Door|Window|Space|Furni|CurtainWall|Railing|StairFlight|SanitaryTerminal)/;

/**
 * Elements that stand above the next storey's level, wholly more than `belowM` below their own, or a whole storey too low: with all of
 * a standing thing between the level below and its own.
 * @param belowM an element may hang so far below its storey's level without a finding, m
 */
export function checkStoreyLevels(
  elements: readonly Pick<ModelElement, 'globalId' | 'ifcClass' | 'name' | 'storey' | 'box' | 'parent'>[],
  storeys: readonly ModelStorey[],
  belowM = BELOW_M,
): Finding[] {
  const levels = findLevels(elements, storeys);
  return levels.flatMap(({ name, levelM }, i): Finding[] => {
    const next = levels[i + 1]?.levelM ?? Number.POSITIVE_INFINITY;
    const below = levels[i - 1]?.levelM;
    return elements
      .filter((e) => {
        if (e.storey !== name || !e.box || e.parent !== null) return false;
        const [bottom, top] = [e.box[2], e.box[5]];
        if (bottom > next - TOLERANCE.joint || top < levelM - belowM) return true;
        const isTooLow = below !== undefined && top < levelM + TOLERANCE.joint && bottom < below + NEAR_LEVEL_M && bottom > below - NEAR_LEVEL_M; // biome-ignore format: one rule
        return isTooLow && STANDS.test(e.ifcClass);
      })
      .map((e) => ({
        code: 'storey-level-differs',
        severity: 'warning',
        message: `${e.ifcClass} ${e.name ?? e.globalId} reaches from ${figure(e.box![2])} to ${figure(e.box![5])} m; its storey ${name} begins at ${figure(levelM)} m.`,
        globalIds: [e.globalId],
        cause: name,
      }));
  });
}
/** An element may reach so far below its storey's level (slabs, footings), m. */
const BELOW_M = 1;
/** A thing that stands on the storey below begins this near its level, m. */
const NEAR_LEVEL_M = 0.6;

/**
 * Levels of storeys in the model's world, ascending. Files give a storey's height by its placement and as a figure, which may count
 * from a datum or from the ground: what most elements stand by is taken.
 */
function findLevels(
  elements: readonly Pick<ModelElement, 'storey' | 'box'>[],
  storeys: readonly ModelStorey[],
): { name: string; levelM: number }[] {
  const candidates = [
    storeys.map((s) => s.levelM ?? s.elevation),
    storeys.map((s) => s.elevation),
    storeys.map((s) => (s.elevation === null ? null : s.elevation + ((storeys[0]!.levelM ?? 0) - (storeys[0]!.elevation ?? 0)))),
  ].map((list) =>
    list
      .flatMap((levelM, i) => (levelM === null ? [] : [{ name: storeys[i]!.name, levelM }]))
      .sort((a, b) => a.levelM - b.levelM),
  ); // biome-ignore format: one list
  const misses = (levels: readonly { name: string; levelM: number }[]): number => {
    const bands = new Map(
      levels.map(({ name, levelM }, i) => [name, [levelM, levels[i + 1]?.levelM ?? Infinity]] as const),
    );
    let count = 0;
    for (const { storey, box } of elements) {
      const band = storey === null || !box ? undefined : bands.get(storey);
      if (band && (box![2] > band[1] - TOLERANCE.joint || box![5] < band[0] - BELOW_M)) count++;
    }
    return count;
  };
  let best = candidates[0]!;
  let fewest = misses(best);
  for (const next of candidates.slice(1)) {
    if (fewest === 0) break;
    const missed = misses(next);
    if (missed < fewest) [best, fewest] = [next, missed];
  }
  return best;
}

/** Thickness of a wall, slab or covering as measured. */
const thicknessOf = (e: ModelElement) =>
  measured(e, 'Depth') ?? (/^IfcWall/.test(e.ifcClass) ? measured(e, 'Width') : undefined);
const isSameWidth = (a: number, b: number) => Math.abs(a - b) <= Math.max(TOLERANCE.touch, 0.01 * Math.max(a, b));

function checkLayers(elements: readonly ModelElement[]): Finding[] {
  const findings: Finding[] = [];
  for (const e of elements)
    if (e.layers.some((l) => l.thickness !== null && !(l.thickness > 0)))
      findings.push({
        code: 'zero-thickness-layer',
        severity: 'notice',
        message: `${label(e)} has a layer without thickness; it has an area but no volume.`,
        globalIds: [e.globalId],
        cause: e.typeName ?? 'layer',
      });
  for (const e of elements) {
    const sum = e.layers.reduce((total, l) => total + (l.thickness ?? 0), 0);
    const own = thicknessOf(e);
    if (!(sum > 0) || own === undefined || isSameWidth(sum, own)) continue;
    findings.push({
      code: 'layers-differ-from-width',
      severity: 'warning',
      message: `${label(e)} is ${figure(own)} m thick, its layers ${figure(sum)} m together.`,
      globalIds: [e.globalId],
      ...(e.typeName === null ? {} : { cause: e.typeName }),
    });
  }
  return findings;
}

function checkTypeWidths(elements: readonly ModelElement[]): Finding[] {
  const byType = new Map<string, ModelElement[]>();
  for (const e of elements) {
    if (e.typeName === null || thicknessOf(e) === undefined) continue;
    const key = `${e.ifcClass}\u0000${e.typeName}`;
    appendToList(byType, key, e);
  }
  return [...byType.values()].flatMap((list): Finding[] => {
    const widths = list.map((e) => thicknessOf(e)!).sort((a, b) => a - b);
    const [least, most] = [widths[0]!, widths.at(-1)!];
    if (isSameWidth(least, most)) return [];
    const usual = widths[Math.floor(widths.length / 2)]!;
    return list
      .filter((e) => !isSameWidth(thicknessOf(e)!, usual))
      .map((e) => ({
        code: 'type-used-with-different-widths',
        severity: 'warning',
        message: `Type ${e.typeName} is drawn from ${figure(least)} to ${figure(most)} m thick; ${label(e)} is ${figure(thicknessOf(e)!)} m.`,
        globalIds: [e.globalId],
        cause: e.typeName!,
      }));
  });
}

/** Rooms without a floor finish. */
export function checkFinishes(
  elements: readonly Pick<ModelElement, 'globalId' | 'name' | 'finishes' | 'quantities'>[],
): Finding[] {
  return elements
    .filter((e) => e.finishes !== null && e.finishes.floor === null)
    .map((e) => {
      const area = e.quantities.find((q) => q.basis === 'measured' && q.name === 'NetFloorArea')?.value;
      return {
        code: 'room-without-finish',
        severity: 'notice',
        message: `Room ${e.name ?? e.globalId} has no floor finish; ${area === undefined ? 'its area is not known' : `${figure(area)} m2`}.`,
        globalIds: [e.globalId],
        cause: 'floor',
      };
    });
}

/** A floor is all covered by rooms and walls but for this share of it, or this much, m2. */
const UNCOVERED_SHARE = 0.02;
const UNCOVERED_M2 = 3;

/** Storeys with rooms whose floor is not all covered by them: rooms are missing, or a floor is of another storey. */
export function checkFloors(storeys: readonly ModelStorey[]): Finding[] {
  return storeys
    .filter((s) => (s.uncoveredM2 ?? 0) > Math.max(UNCOVERED_M2, UNCOVERED_SHARE * (s.gfa ?? 0)))
    .map((s) => ({
      code: 'floor-without-room',
      severity: 'notice',
      message: `On storey ${s.name} ${figure(s.uncoveredM2!)} m2 of floor lie in no room and under no wall.`,
      globalIds: [],
      cause: s.name,
    }));
}
