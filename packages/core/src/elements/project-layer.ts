import type { SiUnit } from '../units/branded.ts';
import { foldText } from '../units/fold-text.ts';
import { readMeasure } from '../units/measure-text.ts';
import {
  buildTextColumn,
  buildTextListColumn,
  readText,
  readTextList,
  type TextColumn,
  type TextListColumn,
} from './columns.ts';
import type { QuantityChoice } from './effective-quantities.ts';
import type { ElementTable, PropertyColumn, QuantityColumn } from './element-table.ts';
import { FINISH_SURFACES, type PropertyValue, type RoomFinishes, type WallFinish } from './model-element.ts';

/** A material as a project knows it: one name for all its spellings, and its density in kg/m3. */
export interface ProjectMaterial {
  readonly name: string;
  readonly synonyms?: readonly string[];
  readonly density?: number;
}

/** What a project adds to the elements of its sources; it hangs on ElementKeys and outlives revisions. */
export interface ProjectLayer {
  /** Extra attributes by ElementKey and name. */
  readonly attributes: ReadonlyMap<number, Readonly<Record<string, PropertyValue>>>;
  /** Finishes given to rooms here; they beat those of the file. null takes a finish away. */
  readonly finishes: ReadonlyMap<number, Partial<RoomFinishes>>;
  /** Parts of rooms' walls with finishes of their own, by ElementKey. */
  readonly wallFinishes: ReadonlyMap<number, readonly WallFinish[]>;
  /** Zones of our own by ElementKey. */
  readonly zones: ReadonlyMap<number, readonly string[]>;
  /** Rooms and other elements that the project leaves out, by ElementKey. */
  readonly leftOut: ReadonlySet<number>;
  readonly materials: readonly ProjectMaterial[];
  /** Which figure is used, by quantity name. */
  readonly choices: Readonly<Record<string, QuantityChoice>>;
}

/** Property set under which added attributes are found. */
export const ADDED_SET = 'Added';

/** The elements of a source as the project sees them. What nobody touched is shared with the table given. */
export function applyProjectLayer(table: ElementTable, layer: ProjectLayer): ElementTable {
  const rename = createRenaming(layer.materials);
  const renamed: ElementTable = rename
    ? {
        ...table,
        materials: renameList(table.materials, rename),
        layers: { ...table.layers, material: renameColumn(table.layers.material, rename) },
      }
    : table;
  return {
    ...renamed,
    properties: [...table.properties, ...listAddedProperties(table, layer.attributes)],
    finishes: foldFinishes(overrideFinishes(table, layer.finishes)),
    zones: addZones(table, layer.zones),
    ...(layer.wallFinishes.size > 0
      ? { wallFinishes: new Map([...table.keys].flatMap((key, row) => pair(row, layer.wallFinishes.get(key)))) }
      : {}),
    ...(layer.leftOut.size > 0
      ? { excluded: Uint8Array.from(table.keys, (key) => Number(layer.leftOut.has(key))) }
      : {}),
    quantities: [...weighAnew(renamed, layer.materials), ...listGivenQuantities(table, layer.attributes)],
    choices: Object.fromEntries(Object.entries(layer.choices).map(([name, c]) => [name.toLowerCase(), c])),
  };
}

const pair = <T>(row: number, value: T | undefined): (readonly [number, T])[] =>
  value === undefined ? [] : [[row, value]];

function createRenaming(materials: readonly ProjectMaterial[]): Map<string, string> | null {
  const names = new Map<string, string>();
  for (const { name, synonyms = [] } of materials) for (const s of [name, ...synonyms]) names.set(foldText(s), name);
  return names.size > 0 ? names : null;
}

const renamePool = (pool: readonly string[], names: ReadonlyMap<string, string>) =>
  pool.map((text) => names.get(foldText(text)) ?? text);
const renameColumn = (c: TextColumn, names: ReadonlyMap<string, string>): TextColumn => ({
  ...c,
  pool: renamePool(c.pool, names),
});
const renameList = (c: TextListColumn, names: ReadonlyMap<string, string>): TextListColumn => ({
  ...c,
  pool: renamePool(c.pool, names),
});

function listAddedProperties(table: ElementTable, attributes: ProjectLayer['attributes']): PropertyColumn[] {
  if (attributes.size === 0) return [];
  const columns = new Map<string, { rows: number[]; values: PropertyValue[] }>();
  for (let row = 0; row < table.count; row++) {
    for (const [name, value] of Object.entries(attributes.get(table.keys[row]!) ?? {})) {
      const column = columns.get(name) ?? { rows: [], values: [] };
      columns.set(name, column);
      column.rows.push(row);
      column.values.push(value);
    }
  }
  return [...columns].map(([name, { rows, values }]) => ({
    set: ADDED_SET,
    name,
    rows: Int32Array.from(rows),
    values,
  }));
}

/** Attributes that are figures with a unit count as quantities: they add up, and formulas know them by name. */
function listGivenQuantities(table: ElementTable, attributes: ProjectLayer['attributes']): QuantityColumn[] {
  if (attributes.size === 0) return [];
  const columns = new Map<string, { name: string; unit: SiUnit; values: Float64Array }>();
  for (let row = 0; row < table.count; row++) {
    for (const [name, text] of Object.entries(attributes.get(table.keys[row]!) ?? {})) {
      const measure = typeof text === 'string' ? readMeasure(text) : null;
      if (!measure) continue;
      const key = `${foldText(name)}/${measure.unit}`;
      const column = columns.get(key) ?? {
        name,
        unit: measure.unit,
        values: new Float64Array(table.count).fill(Number.NaN),
      };
      columns.set(key, column);
      column.values[row] = measure.value;
    }
  }
  return [...columns.values()].map(
    ({ name, unit, values }): QuantityColumn => ({
      name,
      basis: 'given',
      unit,
      values,
      methods: buildTextColumn([...values].map((v) => (Number.isNaN(v) ? null : 'hand'))),
    }),
  );
}

function overrideFinishes(table: ElementTable, finishes: ProjectLayer['finishes']): ElementTable['finishes'] {
  if (finishes.size === 0) return table.finishes;
  const column = (surface: keyof RoomFinishes) =>
    buildTextColumn(
      Array.from({ length: table.count }, (_, row) => {
        const given = finishes.get(table.keys[row]!)?.[surface];
        return given === undefined ? readText(table.finishes[surface], row) : given;
      }),
    );
  return Object.fromEntries(FINISH_SURFACES.map((s) => [s, column(s)])) as Record<keyof RoomFinishes, TextColumn>;
}

/** Finishes that differ only in case, accents and spaces are one, written as the first of them. */
function foldFinishes(finishes: ElementTable['finishes']): ElementTable['finishes'] {
  const first = new Map<string, string>();
  const spell = (text: string) => {
    const folded = foldText(text);
    if (!first.has(folded)) first.set(folded, text);
    return first.get(folded)!;
  };
  const column = ({ pool, index }: TextColumn): TextColumn => ({ pool: pool.map(spell), index });
  return Object.fromEntries(FINISH_SURFACES.map((s) => [s, column(finishes[s])])) as Record<
    keyof RoomFinishes,
    TextColumn
  >;
}

function addZones(table: ElementTable, zones: ProjectLayer['zones']): TextListColumn {
  if (zones.size === 0) return table.zones;
  return buildTextListColumn(
    Array.from({ length: table.count }, (_, row) => [
      ...new Set([...readTextList(table.zones, row), ...(zones.get(table.keys[row]!) ?? [])]),
    ]),
  );
}

/** Weights by the project's densities, where it gives one for every material of an element. */
function weighAnew(table: ElementTable, materials: readonly ProjectMaterial[]): readonly QuantityColumn[] {
  const own = materials.flatMap((m) => (m.density === undefined ? [] : [[m.name, m.density] as const]));
  if (own.length === 0) return table.quantities;
  const densities = new Map([...Object.entries(table.densities), ...own]);
  const volumes = table.quantities.find((q) => q.name === 'NetVolume' && q.basis === 'measured')?.values;
  const known = table.quantities.find((q) => q.name === 'Weight' && q.basis === 'measured');
  const values = known ? known.values.slice() : new Float64Array(table.count).fill(Number.NaN);
  const methods = Array.from({ length: table.count }, (_, row) => (known ? readText(known.methods, row) : null));
  for (let row = 0; row < table.count; row++) {
    const weight = weighRow(table, row, densities, volumes?.[row] ?? Number.NaN);
    if (Number.isNaN(weight)) continue;
    values[row] = weight;
    methods[row] = 'density';
  }
  const column: QuantityColumn = {
    name: 'Weight',
    basis: 'measured',
    unit: 'kg',
    values,
    methods: buildTextColumn(methods),
  };
  return [...table.quantities.filter((q) => q !== known), column];
}

function weighRow(table: ElementTable, row: number, densities: ReadonlyMap<string, number>, volume: number): number {
  const [from, to] = [table.layers.offset[row]!, table.layers.offset[row + 1]!];
  if (from === to) {
    const names = readTextList(table.materials, row);
    return names.length === 1 ? volume * (densities.get(names[0]!) ?? Number.NaN) : Number.NaN;
  }
  let sum = 0;
  for (let i = from; i < to; i++) {
    const material = readText(table.layers.material, i);
    const own = material === null ? undefined : densities.get(material);
    sum += own === undefined ? table.layers.weight[i]! : table.layers.volume[i]! * own;
  }
  return sum;
}
