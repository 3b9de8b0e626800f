import {
  COMPLETENESS_STATES,
  type CompletenessState,
  countNothing,
  type Mapping,
  measureCompleteness,
  type Result,
  readText,
  success,
} from '@tally/core';
import { readPlan } from '../input.ts';

interface ClassRow {
  readonly counts: Record<CompletenessState, number>;
  /** Elements that a section prices, by its id. */
  readonly priced: Map<string, number>;
}

/**
 * `completeness MODEL.ifc --template T.json`: by class how many elements are priced, and in which sections. A section that prices others of
 * a class is missing for those that it does not price and that are not left out. Beside it how much of their volume and side area is priced, by class and by storey.
 */
export async function completeness(path: string, templatePath: string): Promise<Result<unknown>> {
  const read = await readPlan(path, templatePath);
  if (!read.ok) return read;
  const { plan } = read.value;
  const { table, mapping, completeness: states } = plan.parts[0]!;
  const classes = new Map<string, ClassRow>();
  const rowOf = (row: number): ClassRow => {
    const ifcClass = readText(table.ifcClass, row) ?? '';
    const known = classes.get(ifcClass);
    if (known) return known;
    const made = { counts: countNothing(), priced: new Map<string, number>() };
    classes.set(ifcClass, made);
    return made;
  };
  for (const [row, state] of states.entries()) rowOf(row).counts[COMPLETENESS_STATES[state]!]++;
  for (const [section, priced] of markPriced(mapping))
    for (const row of priced) {
      const { priced: counts } = rowOf(row);
      counts.set(section, (counts.get(section) ?? 0) + 1);
    }
  const stateOf = new Map(Array.from(table.keys, (key, row) => [key, { state: COMPLETENESS_STATES[states[row]!]!, amount: 0 }])); // biome-ignore format: one step
  const measured = (by: 'class' | 'storey') => measureCompleteness([table], (key) => stateOf.get(key), by);
  const volumes = new Map(measured('class').map((r) => [r.group ?? '', r]));
  return success({
    classes: [...classes]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([ifcClass, { counts, priced }]) => {
        const all = counts.priced + counts.partly + counts.unpriced;
        return {
          ifcClass,
          ...counts,
          volumeM3: volumes.get(ifcClass)?.volumes,
          sideAreaM2: volumes.get(ifcClass)?.sideAreas,
          sections: Object.fromEntries(
            [...priced].sort().map(([id, n]) => [id, { priced: n, missing: Math.max(0, all - n) }]),
          ),
        };
      }),
    storeys: measured('storey').map(({ group, counts, volumes: m3, sideAreas: m2 }) => ({
      storey: group,
      ...counts,
      volumeM3: m3,
      sideAreaM2: m2,
    })),
  });
}

/** Rows that each section prices, each once, in whatever parts. */
function markPriced(mapping: Mapping): ReadonlyMap<string, ReadonlySet<number>> {
  const priced = new Map<string, Set<number>>();
  for (const { section, decision, rows } of mapping.mapped) {
    if (section === null || decision.leaveOut !== undefined) continue;
    const own = priced.get(section) ?? new Set<number>();
    priced.set(section, own);
    for (const row of rows) own.add(row);
  }
  return priced;
}
