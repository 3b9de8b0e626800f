import { readText, readTextList } from '../elements/columns.ts';
import type { PracticeRow } from '../mapping/practice.ts';
import type { PricingRule, WorkSection } from '../mapping/pricing-rule.ts';
import { listElementKinds } from './list-element-kinds.ts';
import type { Plan } from './plan.ts';

/** Rows that are kept of one project, those of most elements. */
export const MOST_PRACTICE = 2000;

/** What a plan's elements are decided to be priced with, by class, type and section; less what rules decide that were made for any building. */
export function gatherPractice(plan: Plan, sections: readonly WorkSection[]): PracticeRow[] {
  const nameOf = new Map(sections.map((s) => [s.id, s.name]));
  const found = new Map<string, { row: PracticeRow; materials: Map<string, number> }>();
  for (const { table, blocks } of plan.parts) {
    if (table.origin) continue;
    const kindOf = new Map(listElementKinds([table], () => undefined).flatMap((k) => k.keys.map((key) => [key, k] as const)));
    for (const { mapped, recipe } of blocks) {
      const { decision, section, about, rule } = mapped;
      if (recipe.kind === 'broken' || about || section === null || isRough(rule)) continue;
      const { code, description, unit } = recipe.kind === 'item' ? recipe.item : recipe.assembly;
      for (const row of mapped.rows) {
        const kind = kindOf.get(table.keys[row]!)!;
        const type = kind.typeName ?? kind.stem ?? '';
        const ifcClass = readText(table.ifcClass, row) ?? '';
        const id = JSON.stringify([ifcClass, type, recipe.kind, code, section, decision.driver]);
        const known = found.get(id) ?? { row: { ifcClass, type, material: '', kind: recipe.kind, code, description, unit, section: nameOf.get(section) ?? section, driver: decision.driver ?? '', elements: 0 }, materials: new Map<string, number>() }; // biome-ignore format: one record
        found.set(id, known);
        known.row = { ...known.row, elements: known.row.elements + 1 };
        for (const material of readTextList(table.materials, row))
          known.materials.set(material, (known.materials.get(material) ?? 0) + 1);
      }
    }
  }
  return [...found.values()]
    .map(({ row, materials }) => ({ ...row, material: [...materials].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? '' })) // biome-ignore format: one step
    .sort((a, b) => b.elements - a.elements || (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1))
    .slice(0, MOST_PRACTICE);
} // biome-ignore format: one loop

/** Rules that were made for any building say nothing of what this office does. */
const isRough = (rule: PricingRule | null): boolean => rule?.mayBeIdle === true;
