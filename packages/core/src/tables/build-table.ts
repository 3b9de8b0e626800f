import { addToSums, type ExactSums, readSum, startSums } from './exact-sums.ts';
import { listEnds, shareColumn } from './share-column.ts';
import { type CellValue, compareCells, type TableField } from './table-field.ts';

/** What a table is grouped by on one level. */
export interface TableGroup<R> {
  readonly field: TableField<R>;
  /** What stands for nothing. */
  readonly none: string;
  /** Labels that have an order of their own; the others follow as people read them. */
  readonly order?: readonly string[];
}

export interface TableSpec<R> {
  readonly columns: readonly TableField<R>[];
  /** Outermost first. */
  readonly groups: readonly TableGroup<R>[];
  /** What makes rows of a group one line: that they read the same, or that they have this identity. */
  readonly bundle: 'alike' | ((row: R) => string);
  /** Order of the lines in a group by a column; as they come if null. */
  readonly sort: { readonly field: string; readonly isDescending: boolean } | null;
  /** What rows that follow each other have in common: steady fields, and what makes a row of it, are read once of it. Null for a row by itself. */
  readonly thingOf?: (row: R) => object | null;
  /** Elements behind a row, by their ElementKeys; lines have none if absent. */
  readonly keysOf?: (row: R) => readonly number[];
  /** Smallest figure that a column shows; null for none. Then the shown figures of it add up to its shown sums. */
  readonly stepOf?: (field: TableField<R>) => number | null;
}

/** A line of a table: a group heading with its sums, or the rows that read as one. */
export interface TableLine {
  readonly kind: 'group' | 'row';
  /** The labels above it and its own (`/…/…`), of rows with `#` and their identity: what it stands for, never what it costs. */
  readonly id: string;
  readonly level: number;
  /** Heading of a group. */
  readonly label: string;
  readonly cells: readonly CellValue[];
  readonly keys: readonly number[];
  /** Rows in it. */
  readonly count: number;
}

/** A table built: lines in reading order, a group before what it holds. */
export interface Table {
  readonly lines: readonly TableLine[];
  /** Sums over everything, by column; null where a column has none. */
  readonly totals: readonly CellValue[];
  readonly count: number;
}

/** Calls back for each row of a table's source. A row may be one object used again: it is good during the call only. */
export type VisitRows<R> = (see: (row: R) => void) => void;

interface Sums {
  readonly sums: ExactSums;
  /** Keys of its one row; of several rows they are in `keys`. */
  first: readonly number[];
  keys: Set<number> | null;
  count: number;
}
interface Group extends Sums {
  readonly label: string;
  readonly groups: Map<string, Group>;
  readonly bundles: Map<string, Bundle>;
  /** The thing of its last row, and where that went. */
  thing: object | null;
  bundle: Bundle | null;
}
interface Bundle extends Sums {
  readonly cells: CellValue[];
  /** Columns in which its rows differ; null while there is none. */
  mixed: Set<number> | null;
  /** What was seen in columns whose different values are counted. */
  seen: Map<number, Set<CellValue>> | null;
}
type DraftLine = Omit<TableLine, 'cells'> & { readonly cells: CellValue[] };

const NO_KEYS: readonly number[] = [];

/** Most lines are of one row: they need no set of their own. */
function addKeys(to: Sums, keys: readonly number[]): void {
  if (to.count === 0) to.first = keys;
  else if (to.keys || keys.length > 0) {
    to.keys ??= new Set(to.first);
    for (let i = 0; i < keys.length; i++) to.keys.add(keys[i]!);
  }
}

const listKeys = ({ keys, first }: Sums): readonly number[] =>
  keys ? [...keys] : first.length > 1 ? [...new Set(first)] : first;

/** Figures that describe are alike if so many digits are. */
const ALIKE_DIGITS = 6;

/**
 * The one engine of all tables: reads the columns of each row, bundles rows within their groups, sorts, adds up, and rounds what is shown
 * so that it adds up. The sums of a group are of its rows, not of its lines; no order and no grouping changes them.
 */
export function buildTable<R>(visit: VisitRows<R>, spec: TableSpec<R>): Table {
  const { columns, groups, keysOf } = spec;
  const summed = columns.flatMap((f, i) => (f.aggregate === 'sum' ? [i] : []));
  const others = columns.flatMap((f, i) => (f.aggregate === 'sum' ? [] : [i]));
  const startOwn = (): Sums => ({ sums: startSums(summed.length), first: NO_KEYS, keys: null, count: 0 });
  const startGroup = (label: string): Group => ({
    ...startOwn(),
    label,
    groups: new Map(),
    bundles: new Map(),
    thing: null,
    bundle: null,
  });
  const root = startGroup('');
  const values = new Float64Array(summed.length);
  const cells: CellValue[] = columns.map(() => null);
  const add = (to: Sums, keys: readonly number[]) => {
    for (let i = 0; i < values.length; i++) addToSums(to.sums, i, values[i]!);
    addKeys(to, keys);
    to.count++;
  };
  const loose = others.filter((i) => !columns[i]!.isSteady);
  /** Labels of the last thing, level by level; undefined where they are not steady. */
  const steady: (string | undefined)[] = groups.map(() => undefined);
  let last: object | null = null;
  visit((row) => {
    const thing = spec.thingOf?.(row) ?? null;
    for (let i = 0; i < summed.length; i++) {
      const value = columns[summed[i]!]!.read(row);
      values[i] = typeof value === 'number' ? value : Number.NaN;
    }
    const keys = keysOf ? keysOf(row) : NO_KEYS;
    if (thing === null || thing !== last) steady.fill(undefined);
    last = thing;
    let group = root;
    add(group, keys);
    for (let level = 0; level < groups.length; level++) {
      const by = groups[level]!;
      const label = steady[level] ?? showLabel(by, row);
      if (thing !== null && by.field.isSteady) steady[level] = label;
      let next = group.groups.get(label);
      if (!next) {
        next = startGroup(label);
        group.groups.set(label, next);
      }
      group = next;
      add(group, keys);
    }
    let bundle = thing !== null && group.thing === thing ? group.bundle : null;
    const isKnown = bundle !== null;
    const asked = isKnown ? loose : others;
    for (const i of asked) cells[i] = columns[i]!.read(row);
    if (!bundle) {
      const id = spec.bundle === 'alike' ? sayAlike(cells, others) : spec.bundle(row);
      bundle = group.bundles.get(id) ?? null;
      if (!bundle) {
        bundle = { ...startOwn(), cells: [...cells], mixed: null, seen: null };
        group.bundles.set(id, bundle);
      }
      group.thing = thing;
      group.bundle = bundle;
    }
    add(bundle, keys);
    for (const i of asked) join(bundle, i, cells[i]!, columns[i]!);
  });
  const lines = listLines(root, spec, summed);
  const totals = readSums(root, columns.length, summed);
  const ends = listEnds(lines);
  for (const i of summed) {
    const step = spec.stepOf?.(columns[i]!);
    if (step) shareColumn(lines, ends, totals, i, step);
  }
  return { lines, totals, count: root.count };
}

const showLabel = <R>({ field, none }: TableGroup<R>, row: R): string => {
  const value = field.read(row);
  return value === null || value === '' ? none : String(value);
};

const sayAlike = (cells: readonly CellValue[], described: readonly number[]): string =>
  JSON.stringify(described.map((i) => (typeof cells[i] === 'number' ? cells[i].toPrecision(ALIKE_DIGITS) : cells[i]!)));

/** Takes one more row's cell into a bundle. */
function join<R>(bundle: Bundle, i: number, value: CellValue, { aggregate }: TableField<R>): void {
  if (aggregate === 'first') bundle.cells[i] ??= value;
  else if (aggregate === 'only') {
    if (bundle.cells[i] === value) return;
    bundle.mixed ??= new Set();
    bundle.mixed.add(i);
  } else {
    bundle.seen ??= new Map();
    const seen = bundle.seen.get(i);
    if (seen) seen.add(value);
    else bundle.seen.set(i, new Set([value]));
  }
}

function readSums({ sums }: Sums, width: number, summed: readonly number[]): CellValue[] {
  const cells: CellValue[] = new Array(width).fill(null);
  for (const [n, i] of summed.entries()) cells[i] = readSum(sums, n);
  return cells;
}

/** The cells of a bundle: sums, and what its rows have in common. Figures that are alike read as the first of them. */
function readBundle<R>(bundle: Bundle, { columns, bundle: by }: TableSpec<R>, summed: readonly number[]): CellValue[] {
  const cells = readSums(bundle, columns.length, summed);
  for (let i = 0; i < cells.length; i++) {
    const { aggregate } = columns[i]!;
    if (aggregate === 'distinct') cells[i] = bundle.seen!.get(i)!.size;
    else if (aggregate !== 'sum') cells[i] = bundle.mixed?.has(i) && by !== 'alike' ? null : bundle.cells[i]!;
  }
  return cells;
}

function listLines<R>(root: Group, spec: TableSpec<R>, summed: readonly number[]): DraftLine[] {
  const lines: DraftLine[] = [];
  const at = spec.sort ? spec.columns.findIndex((f) => f.id === spec.sort!.field) : -1;
  const turn = spec.sort?.isDescending ? -1 : 1;
  const visit = (group: Group, level: number, id: string) => {
    const places = new Map(spec.groups[level]?.order?.map((label, i) => [label, i]));
    const place = (label: string) => places.get(label) ?? places.size;
    for (const g of [...group.groups.values()].sort(
      (a, b) => place(a.label) - place(b.label) || compareCells(a.label, b.label),
    )) {
      const own = `${id}/${encodeURIComponent(g.label)}`;
      const { label, count } = g;
      const cells = readSums(g, spec.columns.length, summed);
      lines.push({ kind: 'group', id: own, level, label, cells, keys: listKeys(g), count });
      visit(g, level + 1, own);
    }
    const rows = [...group.bundles].map(
      ([key, bundle]): DraftLine => ({
        kind: 'row',
        id: `${id}#${key}`,
        level,
        label: '',
        cells: readBundle(bundle, spec, summed),
        keys: listKeys(bundle),
        count: bundle.count,
      }),
    );
    if (at >= 0) rows.sort((a, b) => compareCells(a.cells[at]!, b.cells[at]!) * turn);
    for (const row of rows) lines.push(row);
  };
  visit(root, 0, '');
  return lines;
}

/** Calls back for the rows behind a line of a table by the line's id, whether or not the table has been built; for none if no line has it. */
export function visitRowsBehind<R>(
  visit: VisitRows<R>,
  { groups, bundle }: { readonly groups: readonly TableGroup<R>[]; readonly bundle: (row: R) => string },
  id: string,
  see: (row: R) => void,
): void {
  const end = id.indexOf('#');
  const key = end < 0 ? null : id.slice(end + 1);
  const path = end < 0 ? id : id.slice(0, end);
  const labels = readLabels(path);
  if (!labels) return;
  visit((row) => {
    for (const [i, label] of labels.entries()) if (!groups[i] || showLabel(groups[i], row) !== label) return;
    if (key === null || bundle(row) === key) see(row);
  });
}

/** The labels of a line's path; null for one that no line has. */
function readLabels(path: string): string[] | null {
  try {
    return path === '' ? [] : path.slice(1).split('/').map(decodeURIComponent);
  } catch {
    return null;
  }
}
