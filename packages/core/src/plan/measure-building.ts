import type { ElementTable } from '../elements/element-table.ts';
import type { Condition } from '../scopes/condition.ts';
import { evaluateScope } from '../scopes/evaluate-scope.ts';
import { foldText } from '../units/fold-text.ts';

/** What a building is compared by: its floor area, storey by storey and together, and how many of its functional units there are. */
export interface BuildingMeasure {
  /** Null while no storey's area is known. */
  readonly floorAreaM2: number | null;
  /** Storeys whose area is not known beside others whose is: the whole is of the others only. */
  readonly storeysWithoutArea: readonly string[];
  readonly storeys: readonly { readonly name: string; readonly areaM2: number }[];
  readonly units: readonly { readonly name: string; readonly count: number }[];
}

/** Measures a building by its models: gross floor areas of storeys (those of one name together), counts of functional units by their scopes. */
export function measureBuilding(
  tables: readonly ElementTable[],
  functionalUnits: readonly { readonly name: string; readonly scope: Condition }[],
): BuildingMeasure {
  const areas = new Map<string, number>();
  const without: string[] = [];
  for (const { name, gfa } of tables.flatMap((t) => t.storeys)) {
    if (gfa === null) without.push(name);
    else areas.set(name, (areas.get(name) ?? 0) + gfa);
  }
  const storeys = [...areas].map(([name, areaM2]) => ({ name, areaM2 }));
  return {
    floorAreaM2: storeys.length > 0 ? storeys.reduce((sum, s) => sum + s.areaM2, 0) : null,
    storeysWithoutArea: without.filter((name) => !areas.has(name)),
    storeys,
    units: functionalUnits.map(({ name, scope }) => ({
      name,
      count: tables.reduce((n, t) => n + evaluateScope(scope, t).reduce((sum, hit) => sum + hit, 0), 0),
    })),
  };
}

/** How many there are of a functional unit, by its name in any case; null if the project has none of that name. */
export const countUnits = ({ units }: Pick<BuildingMeasure, 'units'>, name: string): number | null =>
  units.find((u) => foldText(u.name) === foldText(name))?.count ?? null;
