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
import { type CorrectedFacts, correctFacts } from './corrected-facts.ts';
import {
  type ElementTable,
  findMeasured,
  type PropertyColumn,
  type QuantityColumn,
  readExactness,
} from './element-table.ts';
import { type SaidIdentities, sayIdentities } from './identity.ts';
import type { QuantityChoice } from './model-element.ts';
import { FINISH_SURFACES, type PropertyValue, type RoomFinishes, type WallFinish } from './model-element.ts';

/** A material as a project knows it: one name for all its spellings, and its density in kg/m3. */
export interface ProjectMaterial {
  readonly name: string;
  readonly synonyms?: readonly string[];
  readonly density?: number;
}

/** What a project adds to the elements of its sources; it hangs on ElementKeys and outlives revisions. */
export interface ProjectLayer {
  /** What people said about elements that came under other ids; everything else hangs on the keys that follow. */
  readonly identities?: SaidIdentities;
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
  /** What the file says wrongly and is corrected here, by ElementKey. */
  readonly facts: ReadonlyMap<number, CorrectedFacts>;
  /** Figures set by hand in place of the model's, by ElementKey and name of the quantity. */
  readonly given?: ReadonlyMap<number, Readonly<Record<string, GivenFigure>>>;
  /** Which figure is used, by quantity name. */
  readonly choices: Readonly<Record<string, QuantityChoice>>;
}

/** A figure set by hand in place of what the model has, SI: with the model's own at that time, why, by whom and when. */
export interface GivenFigure {
  readonly value: number;
  readonly unit: SiUnit;
  /** Null where the model had none. */
  readonly was: number | null;
  readonly reason: string;
  readonly by?: string;
  readonly at?: string;
}

/** Property set under which added attributes are found. */
export const ADDED_SET = 'Added';

/** The elements of a source as the project sees them. What nobody touched is shared with the table given. */
export function applyProjectLayer(plain: ElementTable, layer: ProjectLayer): ElementTable {
  const table = correctFacts(sayIdentities(plain, layer.identities ?? new Map()), layer.facts);
  const rename = createRenaming(layer.materials);
  const renamed: ElementTable = rename
    ? {
        ...table,
        materials: renameList(table.materials, rename),
        layers: { ...table.layers, material: renameColumn(table.layers.material, rename) },
      }
    : table;
  const weighed = weighAnew(renamed, layer.materials);
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
    layers: weighed.layers,
    quantities: [
      ...weighed.quantities,
      ...listSetFigures(weighed.quantities, table, layer.given ?? new Map()),
      ...listGivenQuantities(table, layer.attributes),
    ],
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
  return [...columns.values()].map(toGivenColumn);
}

/** Figures set by hand as quantities of their names; in the unit that figures of the name have, else in their own. */
function listSetFigures(
  columns: readonly QuantityColumn[],
  table: ElementTable,
  given: NonNullable<ProjectLayer['given']>,
): QuantityColumn[] {
  const made = new Map<string, { readonly name: string; readonly unit: SiUnit; readonly values: Float64Array }>();
  for (let row = 0; given.size > 0 && row < table.count; row++)
    for (const [name, { value, unit }] of Object.entries(given.get(table.keys[row]!) ?? {})) {
      const id = foldText(name);
      const like = columns.find((c) => foldText(c.name) === id && c.basis === 'measured') ??
        columns.find((c) => foldText(c.name) === id) ?? { name, unit };
      const column = made.get(id) ?? {
        name: like.name,
        unit: like.unit,
        values: new Float64Array(table.count).fill(Number.NaN),
      };
      made.set(id, column);
      column.values[row] = value;
    }
  return [...made.values()].map(toGivenColumn);
}

const toGivenColumn = ({ name, unit, values }: Pick<QuantityColumn, 'name' | 'unit' | 'values'>): QuantityColumn => ({
  name,
  basis: 'given',
  unit,
  values,
  methods: buildTextColumn([...values].map((v) => (Number.isNaN(v) ? null : 'hand'))),
});

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

const foldedFinishes = new WeakMap<ElementTable['finishes'], ElementTable['finishes']>();

/** Finishes that differ only in case, accents and spaces are one, written as the first of them. The same for the same. */
function foldFinishes(finishes: ElementTable['finishes']): ElementTable['finishes'] {
  let folded = foldedFinishes.get(finishes);
  if (!folded) {
    folded = spellAlike(finishes);
    foldedFinishes.set(finishes, folded);
  }
  return folded;
}

function spellAlike(finishes: ElementTable['finishes']): ElementTable['finishes'] {
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

/** Weights of elements and of their layers by the project's densities: both by the same, so that layers add up to the whole. */
function weighAnew(
  table: ElementTable,
  materials: readonly ProjectMaterial[],
): Pick<ElementTable, 'quantities' | 'layers'> {
  const own = materials.flatMap((m) => (m.density === undefined ? [] : [[m.name, m.density] as const]));
  if (own.length === 0) return table;
  const densities = new Map([...Object.entries(table.densities), ...own]);
  const layers = { ...table.layers, weight: weighLayers(table, densities) };
  const [volumes, known] = [findMeasured(table, 'NetVolume'), findMeasured(table, 'Weight')];
  const faces = [findMeasured(table, 'NetSideArea'), findMeasured(table, 'NetArea')];
  const values = known ? known.values.slice() : new Float64Array(table.count).fill(Number.NaN);
  const methods = Array.from({ length: table.count }, (_, row) => (known ? readText(known.methods, row) : null));
  const exactness = Array.from({ length: table.count }, (_, row) => (known ? readExactness(known, row) : null));
  for (let row = 0; row < table.count; row++) {
    const [from, to] = [table.layers.offset[row]!, table.layers.offset[row + 1]!];
    const weight = from === to ? weighWhole(table, row, densities, volumes) : sumWeights(layers.weight, from, to);
    if (Number.isNaN(weight)) continue;
    values[row] = weight;
    methods[row] = 'density';
    const basis = from === to ? volumes : (faces.find((f) => f && !Number.isNaN(f.values[row]!)) ?? volumes);
    exactness[row] = basis ? readExactness(basis, row) : 'mesh';
  }
  const column: QuantityColumn = {
    name: 'Weight',
    basis: 'measured',
    unit: 'kg',
    values,
    methods: buildTextColumn(methods),
    exactness: buildTextColumn(exactness),
  };
  return { layers, quantities: [...table.quantities.filter((q) => q !== known), column] };
}

function weighLayers({ layers }: ElementTable, densities: ReadonlyMap<string, number>): Float64Array {
  return layers.weight.map((weight, i) => {
    const material = readText(layers.material, i);
    const density = material === null ? undefined : densities.get(material);
    return density === undefined ? weight : layers.volume[i]! * density;
  });
}

function weighWhole(
  table: ElementTable,
  row: number,
  densities: ReadonlyMap<string, number>,
  volumes: QuantityColumn | undefined,
): number {
  const names = readTextList(table.materials, row);
  const density = names.length === 1 ? densities.get(names[0]!) : undefined;
  return (volumes?.values[row] ?? Number.NaN) * (density ?? Number.NaN);
}

const sumWeights = (weights: Float64Array, from: number, to: number): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += weights[i]!;
  return sum;
};
