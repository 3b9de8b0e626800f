import { ENTITY_TABLE } from './entity-table.ts';

/** The schemas that are read, in the order of the entity table's columns. */
export const SCHEMAS = ['IFC2X3', 'IFC4', 'IFC4X3'] as const;
export type IfcSchema = (typeof SCHEMAS)[number];

interface EntityInfo {
  readonly name: string;
  readonly parent: string;
  readonly counts: readonly (number | null)[];
}

const byUpper = new Map<string, EntityInfo>();
for (const line of ENTITY_TABLE.trim().split('\n')) {
  const [name, parent, ...counts] = line.split(',') as [string, string, ...string[]];
  byUpper.set(name.toUpperCase(), {
    name,
    parent: parent.toUpperCase(),
    counts: counts.map((c) => (c === '' ? null : Number(c))),
  });
}

/** Name of an entity as the standard spells it, from the file's capitals; the capitals if the standard has none. */
export function entityName(upper: string): string {
  return byUpper.get(upper)?.name ?? upper;
}

/** True if any schema that is read has the entity, in capitals. */
export function isKnownEntity(upper: string): boolean {
  return byUpper.has(upper);
}

/** True if the entity, in capitals, is `ancestor` (capitals) or a subtype of it. */
export function isEntity(upper: string, ancestor: string): boolean {
  for (let name = upper, depth = 0; name && depth < 32; depth++) {
    if (name === ancestor) return true;
    name = byUpper.get(name)?.parent ?? '';
  }
  return false;
}

/** Entities, in capitals, that are `ancestor` or a subtype of it. */
export function listSubtypes(ancestor: string): Set<string> {
  return new Set([...byUpper.keys()].filter((name) => isEntity(name, ancestor)));
}

/** Least number of attributes the entity has in the schema; null if it is not known there. */
export function attributeCount(upper: string, schema: IfcSchema): number | null {
  return byUpper.get(upper)?.counts[SCHEMAS.indexOf(schema)] ?? null;
}

/** Schema family of a FILE_SCHEMA name such as `IFC4X3_ADD2`; null if it is none that is read. */
export function schemaFamily(name: string): IfcSchema | null {
  const upper = name.toUpperCase();
  if (upper.startsWith('IFC4X')) return 'IFC4X3';
  if (upper.startsWith('IFC4')) return 'IFC4';
  return upper.startsWith('IFC2X3') || upper === 'IFC2X_FINAL' || upper === 'IFC2X2_FINAL' ? 'IFC2X3' : null;
}
