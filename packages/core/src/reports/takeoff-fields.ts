import { sayClass } from '../elements/class-word.ts';
import { readText, readTextList } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import { type ElementTable, findRow } from '../elements/element-table.ts';
import { FINISH_SURFACES, type FinishSurface } from '../elements/model-element.ts';
import { readGlobalId } from '../elements/relations.ts';
import { findLimit, readWithin } from '../quantities/limited-quantity.ts';
import { DESCRIBING_QUANTITIES } from '../quantities/quantity-names.ts';
import { listRoomFinishes } from '../quantities/room-finishes.ts';
import { findPropertyColumns } from '../scopes/evaluate-scope.ts';
import { type FactId, type FieldWords, nameFact, nameQuantity } from '../tables/field-catalogue.ts';
import { plainField, type TableField } from '../tables/table-field.ts';
import type { SiUnit } from '../units/branded.ts';
import type { TakeoffRowKind } from './takeoff-row.ts';

/** One thing a takeoff table lists: an element, or a layer, opening or junction of one (its number in its list, else -1). */
export interface TakeoffItem {
  readonly table: ElementTable;
  readonly row: number;
  readonly sub: number;
}

/** A column of a takeoff table. */
export type TakeoffField = TableField<TakeoffItem>;

const orNull = (v: number | undefined): number | null => (v === undefined || Number.isNaN(v) ? null : v);
const text = (id: string, heading: string, read: TakeoffField['read']): TakeoffField =>
  plainField(id, heading, 'only', read);
const figure = (
  id: string,
  heading: string,
  unit: SiUnit,
  isSum: boolean,
  read: TakeoffField['read'],
): TakeoffField => ({ id, heading, unit, aggregate: isSum ? 'sum' : 'only', read });
const withWords = ({ heading: _, ...field }: TakeoffField, { word, ...more }: FieldWords): TakeoffField => ({
  ...field,
  heading: word,
  ...more,
});
const fact = (id: FactId, read: TakeoffField['read']): TakeoffField => withWords(text(id, id, read), nameFact(id));

const ELEMENT_FIELDS: readonly TakeoffField[] = [
  fact('name', ({ table, row }) => readText(table.name, row)),
  fact('class', ({ table, row }) => sayClass(readText(table.ifcClass, row))),
  fact('type', ({ table, row }) => readText(table.typeName, row)),
  fact('storey', ({ table, row }) => readText(table.storey, row)),
  fact('zone', ({ table, row }) => readTextList(table.zones, row).join(' + ') || null),
  fact('material', ({ table, row }) => readTextList(table.materials, row).join(' + ') || null),
  fact('code', ({ table, row }) => readTextList(table.codes, row).join(', ') || null),
  fact('tag', ({ table, row }) => readText(table.tag, row)),
  fact('globalId', ({ table, row }) => readGlobalId(table, row)),
  figure('count', nameFact('count').word, 'each', true, () => 1),
];

const LAYER_FIELDS: readonly TakeoffField[] = [
  text('layer.material', 'Material', ({ table, sub, row }) =>
    sub < 0 ? (readTextList(table.materials, row)[0] ?? null) : readText(table.layers.material, sub),
  ),
  figure('layer.thickness', 'Thickness', 'm', false, ({ table, sub }) => orNull(table.layers.thickness[sub])),
  figure('layer.position', 'From the first face', 'm', false, ({ table, sub }) => orNull(table.layers.position[sub])),
  figure('layer.area', 'Layer area', 'm2', true, ({ table, sub }) => orNull(table.layers.area[sub])),
  figure('layer.volume', 'Layer volume', 'm3', true, (item) =>
    item.sub < 0 ? readQuantity(item, 'NetVolume') : orNull(item.table.layers.volume[item.sub]),
  ),
  figure('layer.weight', 'Layer weight', 'kg', true, (item) =>
    item.sub < 0 ? readQuantity(item, 'Weight') : orNull(item.table.layers.weight[item.sub]),
  ),
];

const OPENING_FIELDS: readonly TakeoffField[] = [
  figure('opening.width', 'Opening width', 'm', false, ({ table, sub }) => orNull(table.openings.width[sub])),
  figure('opening.height', 'Opening height', 'm', false, ({ table, sub }) => orNull(table.openings.height[sub])),
  figure('opening.sill', 'Sill height', 'm', false, ({ table, sub }) => orNull(table.openings.sill[sub])),
  figure('opening.area', 'Opening area', 'm2', true, ({ table, sub }) => orNull(table.openings.area[sub])),
  figure('opening.perimeter', 'Opening perimeter', 'm', true, ({ table, sub }) =>
    orNull(table.openings.perimeter[sub]),
  ),
  text('opening.filledBy', 'Filled by', ({ table, sub }) => {
    const id = readText(table.openings.filledBy, sub);
    if (id === null) return 'nothing';
    const at = table.identity.pool.indexOf(id);
    const row = at < 0 ? -1 : table.identity.index.indexOf(at);
    return row < 0
      ? id
      : `${sayClass(readText(table.ifcClass, row)) ?? ''} ${readText(table.typeName, row) ?? ''}`.trim();
  }),
];

const FINISH_FIELDS: readonly TakeoffField[] = [
  text('part.surface', 'Surface', ({ table, sub }) => listRoomFinishes(table)[sub]?.surface ?? null),
  text('part.finish', 'Finish', ({ table, sub }) => listRoomFinishes(table)[sub]?.finish ?? 'none assigned'),
  figure('part.area', 'Finish area', 'm2', true, (item) => readFinish(item, false)),
  figure('part.length', 'Finish length', 'm', true, (item) => readFinish(item, true)),
];

/** Amount of a finish: of skirtings a length, of everything else an area. */
function readFinish({ table, sub }: TakeoffItem, isLength: boolean): number | null {
  const part = listRoomFinishes(table)[sub];
  return part && (part.surface === 'skirting') === isLength ? orNull(part.amount) : null;
}

const FACE_FIELDS: readonly TakeoffField[] = [
  text('face.style', 'Style', ({ table, sub }) => readText(table.faces.style, sub)),
  text('face.look', 'Looks', ({ table, sub }) => readText(table.faces.look, sub)),
  figure('face.area', 'Face area', 'm2', true, ({ table, sub }) => orNull(table.faces.area[sub])),
];

const JUNCTION_FIELDS: readonly TakeoffField[] = [
  text('junction.kind', 'Junction', ({ table, sub }) => table.junctions[sub]?.kind ?? null),
  text('junction.types', 'Between', ({ table, sub }) => {
    const walls = table.junctions[sub]?.walls ?? [];
    return [...new Set(walls.map((row) => readText(table.typeName, row) ?? 'no type'))].sort().join(' + ') || null;
  }),
];

/** A figure of a sub-thing is known within a limit only where its element lies in it whole. */
function keepInside(field: TakeoffField, within: string): TakeoffField {
  if (field.aggregate !== 'sum') return field;
  const read: TakeoffField['read'] = (item) =>
    findLimit(item.table, within)?.inside.has(item.row) ? field.read(item) : null;
  return { ...field, read };
}

/** A quantity of an item. */
const readQuantity = (item: TakeoffItem, name: string): number | null => quantityReader(name)(item);

/** Reads one quantity of many items, or the part of it that lies within a limit; its column is looked for once per table. */
function quantityReader(name: string, within?: string): (item: TakeoffItem) => number | null {
  const key = name.toLowerCase();
  let last: ElementTable | null = null;
  let values: Float64Array | undefined;
  return ({ table, row }) => {
    if (table !== last) [last, values] = [table, listEffectiveQuantities(table).get(key)?.values];
    const figure = orNull(values?.[row]);
    if (within === undefined || figure === null) return figure;
    const limit = findLimit(table, within);
    return limit ? readWithin(table, row, limit, name, figure) : null;
  };
}

const finishField = (surface: FinishSurface): TakeoffField =>
  text(`finish:${surface}`, `${surface[0]!.toUpperCase()}${surface.slice(1)} finish`, ({ table, row }) =>
    table.rooms[row] ? (readText(table.finishes[surface], row) ?? 'none assigned') : null,
  );

/**
 * Columns a table of these rows may have, in reading order: identity, finishes, sub-things, quantities, properties. With `within`
 * quantities that add up are those within that limit.
 */
export function listTakeoffFields(
  tables: readonly ElementTable[],
  kind: TakeoffRowKind,
  within?: string,
): TakeoffField[] {
  const quantities = new Map<string, TakeoffField>();
  const properties = new Map<string, TakeoffField>();
  for (const table of tables) {
    for (const { name, unit } of listEffectiveQuantities(table).values()) {
      if (name === 'Count' || quantities.has(name)) continue;
      const isSum = !DESCRIBING_QUANTITIES.has(name) && unit !== 'number';
      quantities.set(
        name,
        withWords(
          figure(`q:${name}`, name, unit, isSum, quantityReader(name, isSum ? within : undefined)),
          nameQuantity(name),
        ),
      );
    }
    for (const { set, name } of table.properties) {
      const id = `property:${set}.${name}`;
      if (!properties.has(id)) properties.set(id, { ...text(id, name, readProperty(`${set}.${name}`)), hint: set });
    }
  }
  const sub =
    kind === 'layer' || kind === 'material'
      ? LAYER_FIELDS
      : kind === 'opening'
        ? OPENING_FIELDS
        : kind === 'finish'
          ? FINISH_FIELDS
          : kind === 'face'
            ? FACE_FIELDS
            : kind === 'junction'
              ? JUNCTION_FIELDS
              : [];
  return [
    ...ELEMENT_FIELDS,
    ...FINISH_SURFACES.map(finishField),
    ...(within === undefined ? sub : sub.map((f) => keepInside(f, within))),
    ...[...quantities.values()].sort((a, b) => (a.heading < b.heading ? -1 : 1)),
    ...[...properties.values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
  ];
}

function readProperty(name: string): TakeoffField['read'] {
  const columns = new WeakMap<ElementTable, ReturnType<typeof findPropertyColumns>>();
  return ({ table, row }) => {
    let found = columns.get(table);
    if (!found) {
      found = findPropertyColumns(table, name);
      columns.set(table, found);
    }
    for (const { rows, values } of found) {
      const at = findRow(rows, row);
      const value = at < 0 ? undefined : values[at];
      if (value !== undefined) return value === true ? 'yes' : value === false ? 'no' : value;
    }
    return null;
  };
}
