import { COMPLETENESS_STATES, type CompletenessState, countNothing, type Result, readText, success } from '@tally/core';
import { readPlan } from '../input.ts';

interface ClassRow {
  readonly counts: Record<CompletenessState, number>;
  /** Elements that a section prices, by its id. */
  readonly priced: Map<string, number>;
}

/**
 * `completeness MODEL.ifc --template T.json`: by class how many elements are priced, and in which sections. A section that prices others of
 * a class is missing for those that it does not price and that are not left out.
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
  for (const { section, decision, rows } of mapping.mapped)
    if (section !== null && decision.leaveOut === undefined)
      for (const row of rows) {
        const { priced } = rowOf(row);
        priced.set(section, (priced.get(section) ?? 0) + 1);
      }
  return success({
    classes: [...classes]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([ifcClass, { counts, priced }]) => {
        const all = counts.priced + counts.partly + counts.unpriced;
        return {
          ifcClass,
          ...counts,
          sections: Object.fromEntries(
            [...priced].sort().map(([id, n]) => [id, { priced: n, missing: Math.max(0, all - n) }]),
          ),
        };
      }),
  });
}
