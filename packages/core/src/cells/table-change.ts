import { isSameRows, readText, readTextList, type TextColumn, type TextListColumn } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable, PropertyColumn } from '../elements/element-table.ts';
import type { PropertyValue } from '../elements/model-element.ts';
import type { ElementField, ElementLabel } from '../formulas/formula-types.ts';
import { findPropertyColumns } from '../scopes/evaluate-scope.ts';

/** Rows that differ: one byte a row, 1 where it does; null if none does. */
export type RowDifference = Uint8Array | null;

/**
 * Which rows of a table differ from the same elements before, field by field; looked for only in the fields that are asked about, and
 * only where their columns are not the very same.
 */
export class TableChange {
  private readonly known = new Map<string, RowDifference>();

  private constructor(
    private readonly before: ElementTable,
    private readonly after: ElementTable,
  ) {}

  /** Null if the two do not hold the same elements row by row. */
  static between(before: ElementTable, after: ElementTable): TableChange | null {
    if (before.keys !== after.keys && !isSameRows(before.keys, after.keys)) return null;
    return new TableChange(before, after);
  }

  /** Rows that differ in any of the fields. */
  rowsOf(fields: readonly ElementField[]): RowDifference {
    const key = fields.join('|');
    let rows = this.known.get(key);
    if (rows === undefined) {
      const found = fields.map((f) => this.rowsOfField(f)).filter((d) => d !== null);
      rows = found.length === 0 ? null : found.length === 1 ? found[0]! : join(found);
      this.known.set(key, rows);
    }
    return rows;
  }

  private rowsOfField(field: ElementField): RowDifference {
    let rows = this.known.get(`.${field}`);
    if (rows === undefined) {
      rows = this.compare(field);
      this.known.set(`.${field}`, rows);
    }
    return rows;
  }

  private compare(field: ElementField): RowDifference {
    const { before: a, after: b } = this;
    if (field === '*') return this.compareAll();
    if (field === 'parts')
      return this.allUnless(a.openings === b.openings && a.junctions === b.junctions) ?? this.compareLayers();
    if (field === 'room') return compareTexts(a.space, b.space) ?? this.allUnless(isSameRows(a.rooms, b.rooms));
    const name = field.slice(2);
    if (field.startsWith('q:')) {
      const [x, y] = [listEffectiveQuantities(a).get(name), listEffectiveQuantities(b).get(name)];
      return x === y
        ? null
        : mark(b.count, (row) => !Object.is(x?.values[row] ?? Number.NaN, y?.values[row] ?? Number.NaN));
    }
    if (field.startsWith('p:'))
      return compareProperties(findPropertyColumns(a, name), findPropertyColumns(b, name), b.count);
    const [x, y] = [labelColumn(a, name as ElementLabel), labelColumn(b, name as ElementLabel)];
    return 'offset' in x ? compareLists(x, y as TextListColumn) : compareTexts(x, y as TextColumn);
  }

  /** Rows whose layers have other materials, or other figures. */
  private compareLayers(): RowDifference {
    const [a, b] = [this.before.layers, this.after.layers];
    if (a === b) return null;
    if (a.offset !== b.offset) return this.allUnless(false);
    const isSame = (at: number) =>
      readText(a.material, at) === readText(b.material, at) &&
      readFunction(a, at) === readFunction(b, at) &&
      LAYER_FIGURES.every((name) => Object.is(a[name][at], b[name][at]));
    return mark(this.after.count, (row) => {
      for (let at = b.offset[row]!; at < b.offset[row + 1]!; at++) if (!isSame(at)) return true;
      return false;
    });
  }

  private compareAll(): RowDifference {
    const { before: a, after: b } = this;
    // What is left out is for the mapping; layers are looked at below.
    const handled = new Set([
      'keys',
      'identified',
      'quantities',
      'properties',
      'choices',
      'rowChoices',
      'excluded',
      'layers',
      // No formula reads it.
      'sketches',
      ...TEXTS,
      ...LISTS,
    ]);
    const names = new Set([...Object.keys(a), ...Object.keys(b)]) as Set<keyof ElementTable>;
    for (const name of names)
      if (!handled.has(name) && a[name] !== b[name] && !(name === 'finishes' && isSameFinishes(a, b)))
        return this.allUnless(false);
    const quantities = new Set([a, b].flatMap((t) => [...listEffectiveQuantities(t).keys()]));
    const found = [
      ...[...quantities].map((q) => this.rowsOfField(`q:${q}`)),
      ...TEXTS.map((name) => compareTexts(a[name], b[name])),
      ...LISTS.map((name) => compareLists(a[name], b[name])),
      compareProperties(a.properties, b.properties, b.count),
      this.compareLayers(),
    ].filter((d) => d !== null);
    return found.length > 0 ? join(found) : null;
  }

  private allUnless(isSame: boolean): RowDifference {
    return isSame ? null : new Uint8Array(this.after.count).fill(1);
  }
}

const readFunction = ({ function: use }: ElementTable['layers'], at: number) => use && readText(use, at);
const LAYER_FIGURES = ['thickness', 'position', 'weight', 'area', 'volume'] as const;
const TEXTS = ['identity', 'ifcClass', 'name', 'typeName', 'tag', 'storey', 'space', 'parent', 'host'] as const;
const LISTS = ['zones', 'materials', 'codes'] as const;

function labelColumn(table: ElementTable, what: ElementLabel): TextColumn | TextListColumn {
  const columns = {
    name: table.name,
    type: table.typeName,
    tag: table.tag,
    material: table.materials,
    code: table.codes,
  };
  return columns[what];
}

function isSameFinishes({ finishes: a }: ElementTable, { finishes: b }: ElementTable): boolean {
  return (Object.keys(a) as (keyof typeof a)[]).every((s) => compareTexts(a[s], b[s]) === null);
}

function mark(count: number, differs: (row: number) => boolean): RowDifference {
  let rows: Uint8Array | null = null;
  for (let row = 0; row < count; row++)
    if (differs(row)) {
      rows ??= new Uint8Array(count);
      rows[row] = 1;
    }
  return rows;
}

function join(differences: readonly Uint8Array[]): Uint8Array {
  const joined = differences[0]!.slice();
  for (const rows of differences.slice(1)) for (let row = 0; row < joined.length; row++) joined[row]! |= rows[row]!;
  return joined;
}

const compareTexts = (a: TextColumn, b: TextColumn): RowDifference =>
  a === b ? null : mark(b.index.length, (row) => readText(a, row) !== readText(b, row));

const compareLists = (a: TextListColumn, b: TextListColumn): RowDifference =>
  a === b
    ? null
    : mark(b.offset.length - 1, (row) => readTextList(a, row).join('\n') !== readTextList(b, row).join('\n'));

/** Rows that have another value in any of the columns; columns that both have are not looked at. */
function compareProperties(a: readonly PropertyColumn[], b: readonly PropertyColumn[], count: number): RowDifference {
  if (a.length === b.length && a.every((c, i) => c === b[i])) return null;
  const gather = (columns: readonly PropertyColumn[], others: ReadonlySet<PropertyColumn>) => {
    const values = new Map<string, PropertyValue>();
    for (const column of columns)
      if (!others.has(column)) column.rows.forEach((row, i) => void values.set(`${row}|${column.set}|${column.name}`, column.values[i]!)); // biome-ignore format: one step
    return values;
  };
  const [old, now] = [gather(a, new Set(b)), gather(b, new Set(a))];
  const rows = new Uint8Array(count);
  let isAny = false;
  const note = (place: string) => {
    rows[Number(place.slice(0, place.indexOf('|')))] = 1;
    isAny = true;
  };
  for (const [place, value] of old) if (now.get(place) !== value) note(place);
  for (const place of now.keys()) if (!old.has(place)) note(place);
  return isAny ? rows : null;
}
