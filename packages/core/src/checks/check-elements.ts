import { readText } from '../elements/columns.ts';
import { type ElementTable, readElement } from '../elements/element-table.ts';
import type { ModelElement } from '../elements/model-element.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { statedToMeasured } from '../quantities/quantity-sets.ts';
import { appendToList } from '../result/append-to-list.ts';
import type { Finding } from './finding.ts';

const figure = (value: number) => String(Number(value.toPrecision(5)));

/**
 * Findings about a model's elements that need nothing but the elements themselves.
 * @param isSameShape whether two elements of one class with the same extents and volume fill the same room
 */
export function checkElements(
  elements: readonly ModelElement[],
  isSameShape: (a: number, b: number) => boolean = () => true,
): Finding[] {
  return [
    ...checkIdentity(elements),
    ...checkStoreys(elements),
    ...findSamePlaces(elements, isSameShape).map(([a, b]) => reportSamePlace(elements[a]!, elements[b]!)),
    ...checkStated(elements),
  ];
}

function checkIdentity(elements: readonly ModelElement[]): Finding[] {
  const counts = new Map<string, number>();
  for (const e of elements) counts.set(e.globalId, (counts.get(e.globalId) ?? 0) + 1);
  return [...counts]
    .filter(([, n]) => n > 1)
    .map(([id, n]) => ({
      code: 'duplicate-global-id',
      severity: 'warning',
      message: `GlobalId ${id} stands on ${n} elements. Each is kept and priced; ask the designers to give them ids of their own.`,
      globalIds: [id],
    }));
}

/** What stands in no storey by its nature: it belongs to its host. */
const PART_OF_HOST = /^Ifc(Projection|FeatureElement|SurfaceFeature)/;

/** Elements that are in no storey and belong to nothing that is. */
export function checkStoreys(
  elements: readonly Pick<ModelElement, 'globalId' | 'ifcClass' | 'name' | 'storey' | 'parent' | 'host'>[],
): Finding[] {
  return elements
    .filter((e) => e.storey === null && e.parent === null && e.host === null && !PART_OF_HOST.test(e.ifcClass))
    .map((e) => ({
      code: 'no-storey',
      severity: 'warning',
      message: `${e.ifcClass} ${e.name ?? e.globalId} is in no storey; storey totals leave it out.`,
      globalIds: [e.globalId],
      cause: 'storey',
    }));
}

/** Pairs of one class with the same extents, volume and shape: the first of a place with each of the others. Rows. */
export function findSamePlaces(
  elements: readonly ModelElement[],
  isSameShape: (a: number, b: number) => boolean,
): [number, number][] {
  // First by the lowest corner, as a number: most elements have it to themselves.
  const corners = new Map<number, number[]>();
  for (let row = 0; row < elements.length; row++) {
    const { box, ifcClass } = elements[row]!;
    if (box && ifcClass !== 'IfcSpace') appendToList(corners, (cellOf(box[0]) * 7919 + cellOf(box[1])) * 7919 + cellOf(box[2]), row); // biome-ignore format: one key
  }
  const out: [number, number][] = [];
  for (const near of corners.values()) {
    if (near.length < 2) continue;
    const groups = new Map<string, number[]>();
    for (const row of near) {
      const e = elements[row]!;
      const volume = e.quantities.find((q) => q.basis === 'measured' && q.name === 'NetVolume')?.value ?? 0;
      appendToList(groups, [e.ifcClass, ...e.box!.map(cellOf), volume.toPrecision(6)].join(), row);
    }
    for (const group of groups.values()) {
      const firsts: number[] = [];
      for (const row of group) {
        const first = firsts.find((f) => isSameShape(f, row));
        if (first === undefined) firsts.push(row);
        else out.push([first, row]);
      }
    }
  }
  return out;
}

const cellOf = (v: number) => Math.round(v / TOLERANCE.touch);

const reportSamePlace = (a: ModelElement, b: ModelElement): Finding => ({
  code: 'coincident',
  severity: 'error',
  message: `${a.ifcClass} ${a.name ?? a.globalId} and ${b.name ?? b.globalId} stand in the same place with the same size; they would be counted twice.`,
  globalIds: [a.globalId, b.globalId],
});

/** Stated figures that differ from the measured ones of the same name by more than a share. */
export function checkStated(elements: readonly ModelElement[], share: number = TOLERANCE.statedShare): Finding[] {
  const findings: Finding[] = [];
  for (const e of elements) {
    if (!e.quantities.some((q) => q.basis === 'stated')) continue;
    const measured = new Map(e.quantities.filter((q) => q.basis === 'measured').map((q) => [q.name, q]));
    const differing = e.quantities.flatMap((s) => {
      const m = s.basis === 'stated' ? measured.get(statedToMeasured(e.ifcClass, s.name)) : undefined;
      if (!m || m.unit !== s.unit) return [];
      const isFar = Math.abs(s.value - m.value) > share * Math.max(Math.abs(m.value), 1e-9);
      return isFar ? [`${s.name} ${figure(s.value)} stated, ${figure(m.value)} measured (${m.unit})`] : [];
    });
    if (differing.length > 0) {
      findings.push({
        code: 'stated-differs',
        severity: 'warning',
        message: `${e.name ?? e.ifcClass}: ${differing.join('; ')}.`,
        globalIds: [e.globalId],
      });
    }
  }
  return findings;
}

/** The same over a table: only rows with a difference are read whole. */
export function checkStatedRows(table: ElementTable, share: number): Finding[] {
  const rows = new Set<number>();
  for (const s of table.quantities) {
    if (s.basis !== 'stated') continue;
    const find = (name: string) =>
      table.quantities.find((q) => q.basis === 'measured' && q.name === name && q.unit === s.unit);
    const [same, depth] = [find(s.name), s.name === 'Width' ? find('Depth') : undefined];
    for (let row = 0; row < table.count; row++) {
      if (Number.isNaN(s.values[row]!)) continue;
      const name = s.name === 'Width' ? statedToMeasured(readText(table.ifcClass, row) ?? '', s.name) : s.name;
      const m = name === 'Depth' ? depth : same;
      if (m && Math.abs(s.values[row]! - m.values[row]!) > share * Math.max(Math.abs(m.values[row]!), 1e-9))
        rows.add(row);
    }
  }
  return checkStated(
    [...rows].sort((a, b) => a - b).map((row) => readElement(table, row)),
    share,
  );
}

/** A finding for each element whose weight stays unknown because a material of it has no density. */
export function reportMissingDensities(missing: ReadonlyMap<string, readonly string[]>): Finding[] {
  return [...missing].flatMap(([material, globalIds]) =>
    globalIds.map(
      (id): Finding => ({
        code: 'density-missing',
        severity: 'notice',
        material,
        cause: material,
        message: `Material "${material}" has no density; the weight of what is made of it is unknown.`,
        globalIds: [id],
      }),
    ),
  );
}
