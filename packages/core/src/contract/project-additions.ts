import type { ElementTable } from '../elements/element-table.ts';
import { applyProjectLayer, type ProjectLayer } from '../elements/project-layer.ts';
import type { DrawnRoom } from '../quantities/drawn-rooms.ts';
import { applyQuantityOverrides, type QuantityOverride } from '../scopes/quantity-overrides.ts';
import type { ProjectStateDto } from './api.ts';
import type { Template } from './template.ts';

/** All that a project adds to the elements of its sources, with the rooms drawn in it. */
export type ProjectAdditions = ProjectLayer & {
  readonly drawnRooms: ReadonlyMap<number, DrawnRoom>;
  readonly overrides: readonly QuantityOverride[];
};

/** A project's additions as the calculation takes them, from how they are sent. */
export function readAdditions(
  layer: ProjectStateDto['layer'],
  settings: Pick<Template['settings'], 'quantityChoices' | 'quantityOverrides'>,
): ProjectAdditions {
  const byKey = <T>(record: Readonly<Record<string, T>>) =>
    new Map(Object.entries(record).map(([key, value]) => [Number(key), value]));
  return {
    attributes: byKey(layer.attributes),
    finishes: byKey(layer.finishes),
    zones: byKey(layer.zones),
    drawnRooms: byKey(layer.drawnRooms),
    leftOut: new Set(Object.keys(layer.leftOut).map(Number)),
    materials: layer.materials,
    choices: settings.quantityChoices ?? {},
    overrides: settings.quantityOverrides ?? [],
  };
}

/** The elements of a source as the project sees them, with the figures it chooses. */
export function applyAdditions(table: ElementTable, additions: ProjectAdditions): ElementTable {
  return applyQuantityOverrides(applyProjectLayer(table, additions), additions.overrides);
}
