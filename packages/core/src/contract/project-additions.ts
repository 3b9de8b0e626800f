import { buildTextColumn } from '../elements/columns.ts';
import type { TableParts } from '../elements/element-parts.ts';
import type { ElementTable, QuantityColumn } from '../elements/element-table.ts';
import { readSaidIdentities } from '../elements/identity.ts';
import { applyProjectLayer, type ProjectLayer } from '../elements/project-layer.ts';
import { type Allowance, buildAllowances } from '../lists/allowance.ts';
import { countUnits, measureBuilding } from '../plan/measure-building.ts';
import { type ChosenFace, measureChosen } from '../quantities/chosen-faces.ts';
import type { DrawnRoom } from '../quantities/drawn-rooms.ts';
import type { Limit } from '../quantities/limit.ts';
import { type MeshOfRow, measureLimit } from '../quantities/measure-parts.ts';
import type { Condition } from '../scopes/condition.ts';
import { applyQuantityOverrides, type QuantityOverride } from '../scopes/quantity-overrides.ts';
import type { ProjectStateDto } from './project.ts';
import type { Template } from './template.ts';

/** All that a project adds to the elements of its sources, with the rooms drawn in it. */
export type ProjectAdditions = ProjectLayer & {
  readonly drawnRooms: ReadonlyMap<number, DrawnRoom>;
  readonly allowances: ReadonlyMap<number, Allowance>;
  /** What is counted for allowances by the unit. */
  readonly functionalUnits: readonly { readonly name: string; readonly scope: Condition }[];
  readonly overrides: readonly QuantityOverride[];
  readonly limits: readonly Limit[];
  /** Faces chosen by hand, by ElementKey and name. */
  readonly chosenFaces: ReadonlyMap<number, Readonly<Record<string, readonly ChosenFace[]>>>;
};

/** A project's additions as the calculation takes them, from how they are sent. */
export function readAdditions(
  layer: ProjectStateDto['layer'],
  settings: Pick<Template['settings'], 'quantityChoices' | 'quantityOverrides' | 'functionalUnits'>,
): ProjectAdditions {
  const byKey = <T>(record: Readonly<Record<string, T>>) =>
    new Map(Object.entries(record).map(([key, value]) => [Number(key), value]));
  return {
    identities: readSaidIdentities(layer.identities ?? {}),
    attributes: byKey(layer.attributes),
    finishes: byKey(layer.finishes),
    wallFinishes: byKey(layer.wallFinishes),
    zones: byKey(layer.zones),
    facts: byKey(layer.facts ?? {}),
    given: byKey(layer.given ?? {}),
    drawnRooms: byKey(layer.drawnRooms),
    allowances: byKey(layer.allowances ?? {}),
    functionalUnits: settings.functionalUnits ?? [],
    leftOut: new Set(Object.keys(layer.leftOut).map(Number)),
    materials: layer.materials,
    choices: settings.quantityChoices ?? {},
    overrides: settings.quantityOverrides ?? [],
    limits: layer.limits,
    chosenFaces: byKey(layer.chosenFaces),
  };
}

/** What the project asks to be measured of the shapes of a table's elements; null if it asks nothing. */
export function measureParts(
  table: ElementTable,
  { limits, chosenFaces }: Pick<ProjectAdditions, 'limits' | 'chosenFaces'>,
  meshOf: MeshOfRow,
): TableParts | null {
  if (limits.length === 0 && chosenFaces.size === 0) return null;
  return {
    limits: limits.map((limit) => measureLimit(table, limit, meshOf)),
    chosen: measureChosen(table, chosenFaces, meshOf),
  };
}

/** The elements of a source as the project sees them, with the figures it chooses and what is measured of their shapes for it. */
export function applyAdditions(
  table: ElementTable,
  additions: ProjectAdditions,
  parts: TableParts | null = null,
): ElementTable {
  const seen = applyQuantityOverrides(applyProjectLayer(table, additions), additions.overrides);
  if (!parts) return seen;
  return { ...seen, parts, quantities: [...seen.quantities, ...parts.chosen.map((c) => toColumn(c, table.count))] };
}

/** Chosen faces as a quantity under the name they were given; unknown where one of them is gone. */
function toColumn({ name, areas }: TableParts['chosen'][number], count: number): QuantityColumn {
  const values = Float64Array.from({ length: count }, (_, row) => areas.get(row) ?? Number.NaN);
  const methods = buildTextColumn([...values].map((v) => (Number.isNaN(v) ? null : 'mesh')));
  return { name, basis: 'measured', unit: 'm2', values, methods };
}

/**
 * The costs without an object of a project as elements, by what its other elements are: the floor area of all storeys whose area is known
 * (null if none is), functional units by their scopes.
 */
export function buildProjectAllowances(
  { allowances, functionalUnits }: Pick<ProjectAdditions, 'allowances' | 'functionalUnits'>,
  tables: readonly ElementTable[],
): ElementTable | null {
  if (allowances.size === 0) return null;
  const building = measureBuilding(tables, functionalUnits);
  return buildAllowances(allowances, {
    floorAreaM2: building.floorAreaM2,
    countUnits: (name) => countUnits(building, name),
  });
}
