import { type ElementTable, readElement } from '../elements/element-table.ts';
import type { ModelElement } from '../elements/model-element.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { Finding } from './finding.ts';

const figure = (value: number) => String(Number(value.toPrecision(5)));

/** Findings about a model's elements that need nothing but the elements themselves. */
export function checkElements(elements: readonly ModelElement[]): Finding[] {
  return [
    ...checkIdentity(elements),
    ...checkStoreys(elements),
    ...checkCoincidence(elements),
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

function checkStoreys(elements: readonly ModelElement[]): Finding[] {
  const lost = elements.filter((e) => e.storey === null && e.parent === null);
  if (lost.length === 0) return [];
  const message = `${lost.length === 1 ? 'One element is' : `${lost.length} elements are`} in no storey; storey totals leave ${lost.length === 1 ? 'it' : 'them'} out.`;
  return [{ code: 'no-storey', severity: 'warning', message, globalIds: lost.map((e) => e.globalId) }];
}

/** Elements of one class with the same extents and the same volume stand in each other's place. */
function checkCoincidence(elements: readonly ModelElement[]): Finding[] {
  const groups = new Map<string, ModelElement[]>();
  for (const e of elements) {
    if (!e.box) continue;
    const volume = e.quantities.find((q) => q.basis === 'measured' && q.name === 'NetVolume')?.value ?? 0;
    const key = [e.ifcClass, ...e.box.map((v) => Math.round(v / TOLERANCE.touch)), volume.toPrecision(6)].join();
    const group = groups.get(key);
    if (group) group.push(e);
    else groups.set(key, [e]);
  }
  return [...groups.values()]
    .filter((g) => g.length > 1)
    .map((g) => ({
      code: 'coincident',
      severity: 'error',
      message: `${g.length} elements (${g[0]!.ifcClass} ${g[0]!.name ?? ''}) stand in the same place with the same size; they would be counted ${g.length} times.`,
      globalIds: g.map((e) => e.globalId),
    }));
}

/** Stated figures that differ from the measured ones of the same name by more than a share. */
export function checkStated(elements: readonly ModelElement[], share: number = TOLERANCE.statedShare): Finding[] {
  const findings: Finding[] = [];
  for (const e of elements) {
    if (!e.quantities.some((q) => q.basis === 'stated')) continue;
    const measured = new Map(e.quantities.filter((q) => q.basis === 'measured').map((q) => [q.name, q]));
    const differing = e.quantities.flatMap((s) => {
      const m = s.basis === 'stated' ? measured.get(s.name) : undefined;
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
    const m = table.quantities.find((q) => q.basis === 'measured' && q.name === s.name && q.unit === s.unit);
    for (let row = 0; m && row < table.count; row++)
      if (Math.abs(s.values[row]! - m.values[row]!) > share * Math.max(Math.abs(m.values[row]!), 1e-9)) rows.add(row);
  }
  return checkStated(
    [...rows].sort((a, b) => a - b).map((row) => readElement(table, row)),
    share,
  );
}

/** One finding per material without density, with the elements whose weight stays unknown because of it. */
export function reportMissingDensities(missing: ReadonlyMap<string, readonly string[]>): Finding[] {
  return [...missing].map(([material, globalIds]) => ({
    code: 'density-missing',
    severity: 'notice',
    material,
    message: `Material "${material}" has no density; the weight of ${globalIds.length === 1 ? 'one element' : `${globalIds.length} elements`} is unknown.`,
    globalIds,
  }));
}
