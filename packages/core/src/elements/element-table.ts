import { appendToList } from '../result/append-to-list.ts';
import type { SiUnit } from '../units/branded.ts';
import {
  buildTextColumn,
  buildTextListColumn,
  readText,
  readTextList,
  type TextColumn,
  type TextListColumn,
} from './columns.ts';
import type { TableParts } from './element-parts.ts';
import type {
  Basis,
  Box,
  Exactness,
  FinishSurface,
  ModelElement,
  ModelStorey,
  PropertyValue,
  Quantity,
  QuantityChoice,
  QuantityMethod,
  SourceKind,
  SurfaceSketch,
  WallFinish,
} from './model-element.ts';
import type { PlanOpening, RoofSlope, RoomPlan, RowAxis, SharedBody, SiteData, WallJunction } from './site-data.ts'; // biome-ignore format: one module
import {
  type FaceTable,
  type LayerTable,
  type OpeningTable,
  readFaces,
  readLayers,
  readOpenings,
} from './sub-tables.ts';

/** One quantity name and basis over all elements. NaN is "absent". */
export interface QuantityColumn {
  readonly name: string;
  readonly basis: Basis;
  readonly unit: SiUnit;
  readonly values: Float64Array;
  readonly methods: TextColumn;
  /** How far each measured figure can be trusted; absent in tables of older readers and for figures that are not measured. */
  readonly exactness?: TextColumn;
}

/** One property over the elements that carry it; `rows` ascending. */
export interface PropertyColumn {
  readonly set: string;
  readonly name: string;
  readonly rows: Int32Array;
  readonly values: readonly PropertyValue[];
}

/** Rows that are, or may be, elements of earlier revisions under other ids; a row that may be several comes several times. */
export interface IdentifiedRows {
  readonly rows: Int32Array;
  /** The ElementKey that the row has, or would have, as an element of its own. */
  readonly own: Int32Array;
  /** The ElementKey of the element that it is or may be. */
  readonly was: Int32Array;
  /** How alike they are, 0 to 1, and by how much more than any other that either could be. */
  readonly score: Float64Array;
  readonly margin: Float64Array;
  /** 1 where it is sure: the row has the key `was`. Else somebody has to say so. */
  readonly sure: Uint8Array;
}

/** The elements of one revision of one source, by columns. Row numbers are positions in it and mean nothing elsewhere. */
export interface ElementTable {
  readonly count: number;
  /** Where the elements come from; a model if absent. */
  readonly origin?: {
    readonly kind: SourceKind;
    /** Of a list: its prices count before those of the book. */
    readonly pricesCount?: boolean;
  };
  /** Our own identity of each element in its project (ElementKey); 0 while not yet assigned. */
  readonly keys: Int32Array;
  /** Rows that came under another id than their element had before, or may have; absent if there are none. */
  readonly identified?: IdentifiedRows;
  /** What tells an element from the others of its source, from revision to revision: of a model its GlobalId, of a list its key. */
  readonly identity: TextColumn;
  readonly ifcClass: TextColumn;
  readonly name: TextColumn;
  readonly typeName: TextColumn;
  readonly tag: TextColumn;
  readonly storey: TextColumn;
  readonly space: TextColumn;
  /** Identity of the whole that it is a part of, and of the element that hosts it, as the source says; by our keys: `relateElements`. */
  readonly parent: TextColumn;
  readonly host: TextColumn;
  readonly zones: TextListColumn;
  readonly materials: TextListColumn;
  readonly codes: TextListColumn;
  readonly quantities: readonly QuantityColumn[];
  readonly properties: readonly PropertyColumn[];
  readonly layers: LayerTable;
  readonly openings: OpeningTable;
  readonly faces: FaceTable;
  /** Finishes of rooms, by surface. */
  readonly finishes: Readonly<Record<FinishSurface, TextColumn>>;
  /** Rows that are rooms: 1, else 0. */
  readonly rooms: Int32Array;
  readonly storeys: readonly ModelStorey[];
  /** Densities that the source states, kg/m3 by material. */
  readonly densities: Readonly<Record<string, number>>;
  /** Outlines of rooms on plan, in the model's world. */
  readonly roomPlans: readonly RoomPlan[];
  readonly junctions: readonly WallJunction[];
  readonly wallAxes: readonly RowAxis[];
  /** Openings of walls on plan, for the rooms beside them. */
  readonly wallOpenings: readonly PlanOpening[];
  /** Slopes of roofs, one by one; absent in tables of older readers. */
  readonly roofSlopes?: readonly RoofSlope[];
  /** Pairs of bodies that share room; absent in tables of older readers. */
  readonly sharedBodies?: readonly SharedBody[];
  /** Rooms whose walls take several finishes, by row; the first part that holds at a place counts. */
  readonly wallFinishes?: ReadonlyMap<number, readonly WallFinish[]>;
  /** What the project asks to be measured of their shapes; absent while nothing is asked. */
  readonly parts?: TableParts;
  /** Rows that the project leaves out: 1, else 0. */
  readonly excluded?: Uint8Array;
  /** Which figure is used, by lower-case quantity name; the better one where nothing is said. */
  readonly choices?: Readonly<Record<string, QuantityChoice>>;
  /** The same row by row, where single elements differ. */
  readonly rowChoices?: Readonly<Record<string, readonly (QuantityChoice | undefined)[]>>;
  /** Six figures a row, NaN where there is no geometry. */
  readonly boxes: Float64Array;
  /** Seven figures a row: area, centre and spread of its surface; NaN where there is no shape, absent in tables of older readers. */
  readonly sketches?: Float64Array;
}

const orNaN = (v: number | null): number => v ?? Number.NaN;

function offsets(lengths: readonly number[]): Uint32Array {
  const out = new Uint32Array(lengths.length + 1);
  lengths.forEach((n, i) => {
    out[i + 1] = out[i]! + n;
  });
  return out;
}

function buildQuantityColumns(elements: readonly ModelElement[]): QuantityColumn[] {
  const columns = new Map<string, { first: Quantity; values: Float64Array; methods: (string | null)[]; exactness: (string | null)[] }>(); // biome-ignore format: one record
  elements.forEach((element, row) => {
    for (const q of element.quantities) {
      const key = `${q.basis}:${q.name}:${q.unit}`;
      let column = columns.get(key);
      if (!column) {
        column = {
          first: q,
          values: new Float64Array(elements.length).fill(Number.NaN),
          methods: new Array(elements.length).fill(null),
          exactness: new Array(elements.length).fill(null),
        };
        columns.set(key, column);
      }
      column.values[row] = q.value;
      column.methods[row] = q.method;
      column.exactness[row] = q.exactness ?? null;
    }
  });
  return [...columns.values()].map(({ first, values, methods, exactness }) => ({
    name: first.name,
    basis: first.basis,
    unit: first.unit,
    values,
    methods: buildTextColumn(methods),
    ...(first.basis === 'measured' ? { exactness: buildTextColumn(exactness) } : {}),
  }));
}

function buildPropertyColumns(elements: readonly ModelElement[]): PropertyColumn[] {
  const columns = new Map<string, { set: string; name: string; rows: number[]; values: PropertyValue[] }>();
  elements.forEach((element, row) => {
    for (const [set, properties] of Object.entries(element.properties)) {
      for (const [name, value] of Object.entries(properties)) {
        const key = `${set}\u0000${name}`;
        let column = columns.get(key);
        if (!column) {
          column = { set, name, rows: [], values: [] };
          columns.set(key, column);
        }
        column.rows.push(row);
        column.values.push(value);
      }
    }
  });
  return [...columns.values()].map((c) => ({ ...c, rows: Int32Array.from(c.rows) }));
}

/** Turns element records into columns. `keys` are the ElementKeys by row, if they are known already. */
export function buildElementTable(
  elements: readonly ModelElement[],
  keys?: Int32Array,
  { storeys = [], densities = {}, roomPlans = [], junctions = [], wallAxes = [], wallOpenings = [], roofSlopes = [], sharedBodies = [] }: SiteData = {}, // biome-ignore format: one argument
): ElementTable {
  const layers = elements.flatMap((e) => e.layers);
  const openings = elements.flatMap((e) => e.openings);
  const faces = elements.flatMap((e) => e.faces);
  const text = (read: (e: ModelElement) => string | null) => buildTextColumn(elements.map(read));
  const boxes = new Float64Array(elements.length * 6).fill(Number.NaN);
  const sketches = new Float64Array(elements.length * 7).fill(Number.NaN);
  elements.forEach((e, row) => {
    if (e.box) boxes.set(e.box, row * 6);
    if (e.sketch) sketches.set([e.sketch.areaM2, ...e.sketch.centre, ...e.sketch.spread], row * 7);
  });
  return {
    count: elements.length,
    keys: keys ?? new Int32Array(elements.length),
    identity: text((e) => e.globalId),
    ifcClass: text((e) => e.ifcClass),
    name: text((e) => e.name),
    typeName: text((e) => e.typeName),
    tag: text((e) => e.tag),
    storey: text((e) => e.storey),
    space: text((e) => e.space),
    parent: text((e) => e.parent),
    host: text((e) => e.host),
    zones: buildTextListColumn(elements.map((e) => e.zones)),
    materials: buildTextListColumn(elements.map((e) => e.materials)),
    codes: buildTextListColumn(elements.map((e) => e.codes)),
    quantities: buildQuantityColumns(elements),
    properties: buildPropertyColumns(elements),
    layers: {
      offset: offsets(elements.map((e) => e.layers.length)),
      material: buildTextColumn(layers.map((l) => l.material)),
      function: buildTextColumn(layers.map((l) => l.function ?? null)),
      thickness: Float64Array.from(layers, (l) => orNaN(l.thickness)),
      position: Float64Array.from(layers, (l) => orNaN(l.position)),
      weight: Float64Array.from(layers, (l) => orNaN(l.weight)),
      area: Float64Array.from(layers, (l) => orNaN(l.area)),
      volume: Float64Array.from(layers, (l) => orNaN(l.volume)),
    },
    openings: {
      offset: offsets(elements.map((e) => e.openings.length)),
      globalId: buildTextColumn(openings.map((o) => o.globalId)),
      filledBy: buildTextColumn(openings.map((o) => o.filledBy)),
      width: Float64Array.from(openings, (o) => orNaN(o.width)),
      height: Float64Array.from(openings, (o) => orNaN(o.height)),
      area: Float64Array.from(openings, (o) => orNaN(o.area)),
      perimeter: Float64Array.from(openings, (o) => orNaN(o.perimeter)),
      sill: Float64Array.from(openings, (o) => orNaN(o.sill)),
    },
    faces: {
      offset: offsets(elements.map((e) => e.faces.length)),
      style: buildTextColumn(faces.map((f) => f.style)),
      look: buildTextColumn(faces.map((f) => f.look)),
      area: Float64Array.from(faces, (f) => f.area),
    },
    finishes: {
      floor: text((e) => e.finishes?.floor ?? null),
      wall: text((e) => e.finishes?.wall ?? null),
      ceiling: text((e) => e.finishes?.ceiling ?? null),
      skirting: text((e) => e.finishes?.skirting ?? null),
    },
    rooms: Int32Array.from(elements, (e) => (e.finishes ? 1 : 0)),
    storeys,
    densities,
    roomPlans,
    junctions,
    wallAxes,
    wallOpenings,
    roofSlopes,
    sharedBodies,
    boxes,
    ...(elements.some((e) => e.sketch) ? { sketches } : {}),
  };
}

/** Methods that older readers took for exact. */
const EXACT_BEFORE: ReadonlySet<string> = new Set<QuantityMethod>([
  'swept',
  'swept-openings',
  'plan',
  'attribute',
  'parts',
  'count',
  'density',
]);

/** How far a measured figure can be trusted; null for figures that are not measured. */
export function readExactness(column: QuantityColumn, row: number): Exactness | null {
  if (column.basis !== 'measured') return null;
  const said = column.exactness && (readText(column.exactness, row) as Exactness | null);
  if (said) return said;
  return EXACT_BEFORE.has(readText(column.methods, row) ?? '') ? 'exact' : 'mesh';
}

/** Quantities of a row, stated and measured. */
export function readQuantities(table: ElementTable, row: number): Quantity[] {
  const out: Quantity[] = [];
  for (const column of table.quantities) {
    const { name, basis, unit, values, methods } = column;
    const value = values[row]!;
    if (Number.isNaN(value)) continue;
    const exactness = readExactness(column, row);
    const method = readText(methods, row) as QuantityMethod;
    out.push({ name, value, unit, basis, method, ...(exactness ? { exactness } : {}) });
  }
  return out;
}

/** Position of `row` in an ascending list of rows, or -1. */
export function findRow(rows: Int32Array, row: number): number {
  let low = 0;
  let high = rows.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    if (rows[middle]! === row) return middle;
    if (rows[middle]! < row) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}

/** Properties of a row by set and name. */
export function readProperties(table: ElementTable, row: number): Record<string, Record<string, PropertyValue>> {
  const out: Record<string, Record<string, PropertyValue>> = {};
  for (const { set, name, rows, values } of table.properties) {
    const at = findRow(rows, row);
    if (at >= 0) {
      out[set] ??= {};
      out[set][name] = values[at]!;
    }
  }
  return out;
}

/** Box of a row in the model's world; all NaN if it has no shape. */
export function readBox(table: Pick<ElementTable, 'boxes'>, row: number): Box {
  return [...table.boxes.subarray(row * 6, row * 6 + 6)] as unknown as Box;
}

/** Sketch of the surface of a row in the model's world; null if it has no shape, or comes from an older reader. */
export function readSketch({ sketches }: Pick<ElementTable, 'sketches'>, row: number): SurfaceSketch | null {
  const areaM2 = sketches?.[row * 7];
  if (!sketches || areaM2 === undefined || Number.isNaN(areaM2)) return null;
  const triple = (from: number) =>
    [...sketches.subarray(row * 7 + from, row * 7 + from + 3)] as unknown as SurfaceSketch['centre'];
  return { areaM2, centre: triple(1), spread: triple(4) };
}

/** The measured figures of a name; undefined if the table has none. */
export function findMeasured(
  { quantities }: Pick<ElementTable, 'quantities'>,
  name: string,
): QuantityColumn | undefined {
  return quantities.find((q) => q.basis === 'measured' && q.name === name);
}

/** ElementKeys of all elements of each identity; a faulty file has several of one. */
export function listKeysByIdentity(table: Pick<ElementTable, 'count' | 'identity' | 'keys'>): Map<string, number[]> {
  const out = new Map<string, number[]>();
  for (let row = 0; row < table.count; row++) appendToList(out, readText(table.identity, row) ?? '', table.keys[row]!);
  return out;
}

/** The record of one row: the inverse of `buildElementTable`. */
export function readElement(table: ElementTable, row: number): ModelElement {
  const box = readBox(table, row);
  return {
    globalId: readText(table.identity, row) ?? '',
    ifcClass: readText(table.ifcClass, row) ?? '',
    name: readText(table.name, row),
    typeName: readText(table.typeName, row),
    tag: readText(table.tag, row),
    storey: readText(table.storey, row),
    space: readText(table.space, row),
    parent: readText(table.parent, row),
    host: readText(table.host, row),
    zones: readTextList(table.zones, row),
    materials: readTextList(table.materials, row),
    codes: readTextList(table.codes, row),
    quantities: readQuantities(table, row),
    layers: readLayers(table, row),
    openings: readOpenings(table, row),
    faces: readFaces(table, row),
    properties: readProperties(table, row),
    finishes: table.rooms[row]
      ? {
          floor: readText(table.finishes.floor, row),
          wall: readText(table.finishes.wall, row),
          ceiling: readText(table.finishes.ceiling, row),
          skirting: readText(table.finishes.skirting, row),
        }
      : null,
    box: Number.isNaN(box[0]) ? null : box,
    ...(table.sketches ? { sketch: readSketch(table, row) } : {}),
  };
}
