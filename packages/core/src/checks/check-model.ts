import type { ModelElement, ModelStorey } from '../elements/model-element.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { appendToList } from '../result/append-to-list.ts';
import type { Finding } from './finding.ts';

const measured = (e: ModelElement, name: string) =>
  e.quantities.find((q) => q.basis === 'measured' && q.name === name)?.value;
const label = (e: ModelElement) => `${e.ifcClass} ${e.name ?? e.globalId}`;
const figure = (value: number) => String(Number(value.toPrecision(4)));
const plural = (n: number, one: string, many: string) => (n === 1 ? one : `${n} ${many}`);

/** Findings about elements in the light of the whole model: its storeys, its types, its sizes. */
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

/** An element may reach so far below its storey's level (slabs, footings), m. */
const BELOW_M = 1;

function checkStoreyLevels(elements: readonly ModelElement[], storeys: readonly ModelStorey[]): Finding[] {
  const levels = storeys
    .filter((s): s is ModelStorey & { elevation: number } => s.elevation !== null)
    .sort((a, b) => a.elevation - b.elevation);
  return levels.flatMap((storey, i): Finding[] => {
    const next = levels[i + 1]?.elevation ?? Number.POSITIVE_INFINITY;
    const wrong = elements.filter(
      (e) =>
        e.storey === storey.name &&
        e.box !== null &&
        e.parent === null &&
        (e.box[2] > next - TOLERANCE.joint || e.box[5] < storey.elevation - BELOW_M),
    );
    if (wrong.length === 0) return [];
    return [
      {
        code: 'storey-level-differs',
        severity: 'warning',
        message: `${plural(wrong.length, 'One element', 'elements')} of storey ${storey.name} (level ${figure(storey.elevation)} m) ${wrong.length === 1 ? 'stands' : 'stand'} above the next storey or more than ${BELOW_M} m below this one: ${wrong[0]!.name ?? wrong[0]!.ifcClass} from ${figure(wrong[0]!.box![2])} to ${figure(wrong[0]!.box![5])} m.`,
        globalIds: wrong.map((e) => e.globalId),
      },
    ];
  });
}

/** Thickness of a wall, slab or covering as measured. */
const thicknessOf = (e: ModelElement) =>
  measured(e, 'Depth') ?? (/^IfcWall/.test(e.ifcClass) ? measured(e, 'Width') : undefined);
const isSameWidth = (a: number, b: number) => Math.abs(a - b) <= Math.max(TOLERANCE.touch, 0.01 * Math.max(a, b));

function checkLayers(elements: readonly ModelElement[]): Finding[] {
  const findings: Finding[] = [];
  const empty = elements.filter((e) => e.layers.some((l) => l.thickness !== null && !(l.thickness > 0)));
  if (empty.length > 0)
    findings.push({
      code: 'zero-thickness-layer',
      severity: 'notice',
      message: `${plural(empty.length, 'One element has', 'elements have')} a layer without thickness; it has an area but no volume.`,
      globalIds: empty.map((e) => e.globalId),
    });
  for (const e of elements) {
    const sum = e.layers.reduce((total, l) => total + (l.thickness ?? 0), 0);
    // A body known only by its mesh takes its thickness from the layers: there is nothing to compare.
    const own =
      e.box && e.quantities.some((q) => q.name === 'Length' && q.method.startsWith('swept'))
        ? thicknessOf(e)
        : undefined;
    if (!(sum > 0) || own === undefined || isSameWidth(sum, own)) continue;
    findings.push({
      code: 'layers-differ-from-width',
      severity: 'warning',
      message: `${label(e)} is ${figure(own)} m thick, its layers ${figure(sum)} m together.`,
      globalIds: [e.globalId],
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
    return [
      {
        code: 'type-used-with-different-widths',
        severity: 'warning',
        message: `Type ${list[0]!.typeName} is drawn from ${figure(least)} to ${figure(most)} m thick.`,
        globalIds: list.filter((e) => !isSameWidth(thicknessOf(e)!, usual)).map((e) => e.globalId),
      },
    ];
  });
}

function checkFinishes(elements: readonly ModelElement[]): Finding[] {
  const bare = elements.filter((e) => e.finishes !== null && e.finishes.floor === null);
  if (bare.length === 0) return [];
  const areas = bare.flatMap((e) => measured(e, 'NetFloorArea') ?? []);
  const isPart = areas.length < bare.length ? ', without those whose area is not known' : '';
  const sum = areas.reduce((total, m2) => total + m2, 0);
  const area = areas.length === 0 ? 'area not known' : `${figure(sum)} m2${isPart}`;
  return [
    {
      code: 'room-without-finish',
      severity: 'notice',
      message: `${plural(bare.length, 'One room has', 'rooms have')} no floor finish: ${bare.map((e) => e.name ?? e.globalId).join(', ')}; ${area}.`,
      globalIds: bare.map((e) => e.globalId),
    },
  ];
}
