import { properClassName } from './class-hierarchy.ts';
import { buildTextColumn, buildTextListColumn, readText, readTextList, type TextColumn } from './columns.ts';
import { type ElementTable, findMeasured, findRow, type PropertyColumn, type QuantityColumn } from './element-table.ts';
import type { PropertyValue } from './model-element.ts';

/** What a file says wrongly about an element and the project says instead; what is absent stays as the file has it. */
export interface CorrectedFacts {
  readonly storey?: string;
  readonly ifcClass?: string;
  readonly typeName?: string;
  readonly material?: string;
  readonly function?: string;
  readonly loadBearing?: boolean;
  readonly isExternal?: boolean;
}
export type FactField = keyof CorrectedFacts;

/** Facts that can be corrected, in the order in which they are shown, with their words and, if they are one, their property. */
export const FACT_FIELDS: readonly { readonly field: FactField; readonly words: string; readonly property?: string }[] =
  [
    { field: 'storey', words: 'Storey' },
    { field: 'ifcClass', words: 'Class' },
    { field: 'typeName', words: 'Type' },
    { field: 'material', words: 'Material' },
    { field: 'function', words: 'Function', property: 'Function' },
    { field: 'loadBearing', words: 'Load-bearing', property: 'LoadBearing' },
    { field: 'isExternal', words: 'Outside', property: 'IsExternal' },
  ];

/** Property set that facts stand in that the file has no place for. */
export const CORRECTED_SET = 'Corrected';

type Facts = ReadonlyMap<number, CorrectedFacts>;

/** A fact as a table has it; null if it says nothing, or several things. */
export function readFact(table: ElementTable, row: number, field: FactField): string | boolean | null {
  switch (field) {
    case 'storey':
      return readText(table.storey, row);
    case 'ifcClass':
      return readText(table.ifcClass, row);
    case 'typeName':
      return readText(table.typeName, row);
    case 'material': {
      const names = readTextList(table.materials, row);
      return names.length === 1 ? names[0]! : null;
    }
    default: {
      const name = FACT_FIELDS.find((f) => f.field === field)!.property!;
      for (const column of table.properties) {
        const at = column.name === name ? findRow(column.rows, row) : -1;
        const value = at < 0 ? undefined : column.values[at];
        if (value !== undefined) return typeof value === 'number' ? String(value) : value;
      }
      return null;
    }
  }
}

/** The elements of a source with the facts that were corrected here. What nobody touched is shared with the table given. */
export function correctFacts(table: ElementTable, facts: Facts): ElementTable {
  if (facts.size === 0) return table;
  const given = Array.from(table.keys, (key) => facts.get(key));
  if (given.every((g) => g === undefined)) return table;
  const text = (column: TextColumn, read: (f: CorrectedFacts) => string | undefined): TextColumn =>
    given.some((g) => g && read(g) !== undefined)
      ? buildTextColumn(given.map((g, row) => (g && read(g)) ?? readText(column, row)))
      : column;
  const hasMaterial = given.some((g) => g?.material !== undefined);
  return {
    ...table,
    storey: text(table.storey, (f) => f.storey),
    ifcClass: text(table.ifcClass, (f) => f.ifcClass && (properClassName(f.ifcClass) ?? f.ifcClass)),
    typeName: text(table.typeName, (f) => f.typeName),
    ...(hasMaterial
      ? {
          materials: buildTextListColumn(
            given.map((g, row) => (g?.material === undefined ? readTextList(table.materials, row) : [g.material])),
          ),
          layers: { ...table.layers, material: correctLayers(table, given) },
        }
      : {}),
    properties: correctProperties(table, given),
    quantities: correctSides(table, given),
  };
}

/** An element of one layer is made of what it is said to be made of; of several layers none is said. */
function correctLayers({ layers }: ElementTable, given: readonly (CorrectedFacts | undefined)[]): TextColumn {
  const out = Array.from({ length: layers.material.index.length }, (_, i) => readText(layers.material, i));
  given.forEach((g, row) => {
    const [from, to] = [layers.offset[row]!, layers.offset[row + 1]!];
    if (g?.material !== undefined && to - from === 1) out[from] = g.material;
  });
  return buildTextColumn(out);
}

function correctProperties(
  table: ElementTable,
  given: readonly (CorrectedFacts | undefined)[],
): readonly PropertyColumn[] {
  let columns = table.properties;
  for (const { field, property } of FACT_FIELDS) {
    if (!property) continue;
    const rows = given.flatMap((g, row) => (g?.[field] === undefined ? [] : [row]));
    if (rows.length === 0) continue;
    const givenTo = (row: number): PropertyValue => given[row]![field]!;
    const done = new Set<number>();
    columns = columns.map((c) => {
      if (c.name !== property) return c;
      const values = c.values.map((v, i) => {
        const row = c.rows[i]!;
        if (given[row]?.[field] === undefined) return v;
        done.add(row);
        return givenTo(row);
      });
      return { ...c, values };
    });
    const left = rows.filter((row) => !done.has(row));
    if (left.length > 0)
      columns = [...columns, { set: CORRECTED_SET, name: property, rows: Int32Array.from(left), values: left.map(givenTo) }]; // biome-ignore format: one list
  }
  return columns;
}

/** Sides of walls that are said to be outside, or not: an inner wall has both inside; of a straight outer wall half is outside. */
function correctSides(table: ElementTable, given: readonly (CorrectedFacts | undefined)[]): readonly QuantityColumn[] {
  if (!given.some((g) => g?.isExternal !== undefined)) return table.quantities;
  const sides = findMeasured(table, 'SidesArea');
  if (!sides) return table.quantities;
  const straight = new Set(table.wallAxes.filter((a) => a.points.length === 4).map((a) => a.row));
  const make = (name: string, wanted: (row: number, isExternal: boolean) => number): QuantityColumn => {
    const known = findMeasured(table, name);
    const values = known ? known.values.slice() : new Float64Array(table.count).fill(Number.NaN);
    given.forEach((g, row) => {
      if (g?.isExternal !== undefined && !Number.isNaN(sides.values[row]!)) values[row] = wanted(row, g.isExternal);
    });
    return { ...sides, name, values };
  };
  const outer = findMeasured(table, 'OuterSideArea');
  const outerOf = (row: number): number => {
    const known = outer?.values[row] ?? Number.NaN;
    return !Number.isNaN(known) ? known : straight.has(row) ? sides.values[row]! / 2 : Number.NaN;
  };
  const made = [
    make('OuterSideArea', (row, isOutside) => (isOutside ? outerOf(row) : Number.NaN)),
    make('InnerSideArea', (row, isOutside) => sides.values[row]! - (isOutside ? outerOf(row) : 0)),
  ];
  return [...table.quantities.filter((q) => q.basis !== 'measured' || !made.some((m) => m.name === q.name)), ...made];
}

/** A correction that the file has come up with, or has not. */
export interface Correction {
  readonly row: number;
  readonly field: FactField;
  readonly given: string | boolean;
  /** What the file says; null for nothing. */
  readonly inFile: string | boolean | null;
}

/** Corrections of a table's elements against what the file itself says. @param table as the file has it */
export function listCorrections(table: ElementTable, facts: Facts): Correction[] {
  const out: Correction[] = [];
  if (facts.size === 0) return out;
  for (let row = 0; row < table.count; row++) {
    const own = facts.get(table.keys[row]!);
    for (const { field } of own ? FACT_FIELDS : []) {
      const given = own![field];
      if (given !== undefined) out.push({ row, field, given, inFile: readFact(table, row, field) });
    }
  }
  return out;
}
