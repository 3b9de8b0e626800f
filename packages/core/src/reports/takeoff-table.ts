import { readTextList } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { AMOUNT_SCALE, apportion } from '../pricing/money.ts';
import { findJunctionsAmong } from '../quantities/junctions-among.ts';
import { findLimit, touchesLimit } from '../quantities/limited-quantity.ts';
import { listRoomFinishes } from '../quantities/room-finishes.ts';
import type { Condition } from '../scopes/condition.ts';
import { evaluateScope } from '../scopes/evaluate-scope.ts';
import type { TakeoffField, TakeoffItem, TakeoffValue } from './takeoff-fields.ts';
import type { TakeoffRowKind } from './takeoff-row.ts';

/** What a takeoff table shows. Fields by their ids; unknown ones are passed over. */
export interface TakeoffSpec {
  readonly row: TakeoffRowKind;
  readonly scope: Condition | null;
  readonly columns: readonly string[];
  readonly groups: readonly string[];
  readonly sort: { readonly field: string; readonly isDescending: boolean } | null;
  /** Rows that read the same become one, with the sums of their figures. */
  readonly isBundled: boolean;
  /** Name of the limit that quantities are limited to; what lies outside is not listed. */
  readonly within?: string;
  /** Junctions are looked for among the walls that the scope and the selection leave, as if there were no others. */
  readonly isAmong?: boolean;
  /** Only these elements; all if absent. */
  readonly keys?: ReadonlySet<number>;
  /** Smallest figure that a column shows, SI; null for none. Then the shown figures of it add up to its shown sums. */
  readonly stepOf?: (field: TakeoffField) => number | null;
}

/** A line of a takeoff table: a group heading with its sums, or a row. `keys` are the elements behind it. */
export interface TakeoffLine {
  readonly kind: 'group' | 'row';
  readonly id: string;
  readonly level: number;
  /** Heading of a group. */
  readonly label: string;
  readonly cells: readonly TakeoffValue[];
  readonly keys: readonly number[];
  /** Items in it. */
  readonly count: number;
}

export interface TakeoffTable {
  readonly columns: readonly TakeoffField[];
  readonly lines: readonly TakeoffLine[];
  /** Sums over everything, by column; null where a column has none. */
  readonly totals: readonly TakeoffValue[];
  readonly count: number;
}

interface Row {
  readonly cells: TakeoffValue[];
  readonly groups: readonly string[];
  readonly keys: number[];
  count: number;
}

/** Builds a takeoff table: picks items, reads columns, bundles, sorts, groups, adds up. */
export function buildTakeoffTable(
  tables: readonly ElementTable[],
  fields: readonly TakeoffField[],
  spec: TakeoffSpec,
): TakeoffTable {
  const byId = new Map(fields.map((f) => [f.id, f]));
  const pick = (ids: readonly string[]) => ids.flatMap((id) => byId.get(id) ?? []);
  const columns = pick(spec.columns);
  const groups = pick(spec.groups);
  const items = listTakeoffItems(tables, spec);
  const plain = items.map(
    (item): Row => ({
      cells: columns.map((f) => f.read(item)),
      groups: groups.map((f) => showGroup(f.read(item))),
      keys:
        spec.row === 'junction'
          ? item.table.junctions[item.sub]!.walls.map((row) => item.table.keys[row]!)
          : [item.table.keys[item.row]!],
      count: 1,
    }),
  );
  const isBundled = spec.isBundled || spec.row === 'type' || spec.row === 'material';
  const rows = isBundled ? bundleRows(plain, columns) : plain;
  const at = spec.sort ? columns.findIndex((f) => f.id === spec.sort!.field) : -1;
  if (at >= 0) rows.sort((a, b) => compareValues(a.cells[at]!, b.cells[at]!) * (spec.sort!.isDescending ? -1 : 1));
  const lines = groupRows(rows, columns, 0, groups.length, '');
  const totals = sumCells(rows, columns);
  const ends = listEnds(lines);
  for (const [i, f] of columns.entries()) {
    const step = f.isAdditive ? spec.stepOf?.(f) : null;
    if (step) shareColumn(lines, ends, totals, i, step);
  }
  return { columns, lines, totals, count: items.length };
}

/** For each line the end of what it heads: the next line of its level or above. */
function listEnds(lines: readonly DraftLine[]): Int32Array {
  const ends = new Int32Array(lines.length).fill(lines.length);
  const open: number[] = [];
  lines.forEach(({ level }, i) => {
    while (open.length > 0 && lines[open.at(-1)!]!.level >= level) ends[open.pop()!] = i;
    open.push(i);
  });
  return ends;
}

/**
 * Rounds a column as it is shown: its total once, then what is below from the top down by largest remainder, so that rows add up to
 * their group and groups to the total as printed.
 */
function shareColumn(
  lines: readonly DraftLine[],
  ends: Int32Array,
  totals: TakeoffValue[],
  column: number,
  step: number,
): void {
  const share = (from: number, to: number, sum: number) => {
    const own: number[] = [];
    const parts: number[] = [];
    for (let i = from; i < to; i = ends[i]!) {
      const value = lines[i]!.cells[column];
      if (typeof value !== 'number') continue;
      own.push(i);
      parts.push(Math.round((value / step) * AMOUNT_SCALE));
    }
    const shares = apportion(sum, parts);
    for (const [n, i] of own.entries()) {
      lines[i]!.cells[column] = shares[n]! * step;
      if (ends[i]! > i + 1) share(i + 1, ends[i]!, shares[n]!);
    }
  };
  const total = totals[column];
  if (typeof total !== 'number') return;
  const rounded = Math.round(total / step + 1e-9);
  totals[column] = rounded * step;
  share(0, lines.length, rounded);
}

/** A line while its cells are still being rounded. */
type DraftLine = Omit<TakeoffLine, 'cells'> & { readonly cells: TakeoffValue[] };

const showGroup = (value: TakeoffValue): string => (value === null ? 'none' : String(value));

/** The things a table lists, in the order of their sources. */
export function listTakeoffItems(
  tables: readonly ElementTable[],
  { row: kind, scope, keys, within, isAmong }: Pick<TakeoffSpec, 'row' | 'scope' | 'keys' | 'within' | 'isAmong'>,
): TakeoffItem[] {
  const out: TakeoffItem[] = [];
  for (const table of tables) {
    const mask = scope ? evaluateScope(scope, table) : null;
    const limit = within === undefined ? undefined : findLimit(table, within);
    const isOutside = (row: number) => limit !== undefined && !touchesLimit(limit, row);
    if (kind === 'junction') {
      const isShown = (row: number) => (!mask || mask[row] === 1) && (!keys || keys.has(table.keys[row]!));
      const own = isAmong
        ? { ...table, junctions: findJunctionsAmong(table.wallAxes.filter(({ row }) => isShown(row))).list }
        : table;
      for (const [sub, { owner, walls }] of own.junctions.entries())
        if (walls.some(isShown)) out.push({ table: own, row: owner, sub });
      continue;
    }
    const isListed = (row: number) =>
      !table.excluded?.[row] && !isOutside(row) && (!mask || mask[row]) && (!keys || keys.has(table.keys[row]!));
    if (kind === 'finish') {
      for (const [sub, { row }] of listRoomFinishes(table).entries()) if (isListed(row)) out.push({ table, row, sub });
      continue;
    }
    const addSubs = (offset: Uint32Array, row: number) => {
      for (let sub = offset[row]!; sub < offset[row + 1]!; sub++) out.push({ table, row, sub });
    };
    for (let row = 0; row < table.count; row++) {
      if (!isListed(row)) continue;
      if (kind === 'opening') addSubs(table.openings.offset, row);
      else if (kind === 'face') addSubs(table.faces.offset, row);
      else if (kind === 'layer' || kind === 'material') {
        const before = out.length;
        addSubs(table.layers.offset, row);
        // What is made of one material without layers is listed with the materials too.
        if (kind === 'material' && out.length === before && readTextList(table.materials, row).length === 1)
          out.push({ table, row, sub: -1 });
      } else if (kind !== 'room' || table.rooms[row]) out.push({ table, row, sub: -1 });
    }
  }
  return out;
}

/** Figures that describe are compared with this many digits. */
const SAME_DIGITS = 6;

function bundleRows(rows: readonly Row[], columns: readonly TakeoffField[]): Row[] {
  const bundles = new Map<string, Row>();
  for (const row of rows) {
    const key = JSON.stringify([
      row.groups,
      row.cells.map((v, i) => (columns[i]!.isAdditive ? 0 : typeof v === 'number' ? v.toPrecision(SAME_DIGITS) : v)),
    ]);
    const known = bundles.get(key);
    if (!known) {
      bundles.set(key, { ...row, cells: [...row.cells], keys: [...row.keys] });
      continue;
    }
    known.cells.forEach((v, i) => {
      if (columns[i]!.isAdditive) known.cells[i] = addValues(v, row.cells[i]!);
    });
    if (known.keys.at(-1) !== row.keys[0]) known.keys.push(...row.keys);
    known.count += row.count;
  }
  return [...bundles.values()];
}

/** Sum of two figures; an unknown one adds nothing but does not hide the other. */
function addValues(a: TakeoffValue, b: TakeoffValue): TakeoffValue {
  if (typeof a !== 'number') return typeof b === 'number' ? b : null;
  return typeof b === 'number' ? a + b : a;
}

function sumCells(rows: readonly Row[], columns: readonly TakeoffField[]): TakeoffValue[] {
  return columns.map((f, i) => {
    if (!f.isAdditive) return null;
    let sum: TakeoffValue = null;
    for (const row of rows) sum = addValues(sum, row.cells[i]!);
    return sum;
  });
}

function compareValues(a: TakeoffValue, b: TakeoffValue): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  return String(a).localeCompare(String(b), 'en', { numeric: true });
}

/** Elements behind rows, each once. */
function joinKeys(rows: readonly Row[]): number[] {
  const keys = new Set<number>();
  for (const row of rows) for (const key of row.keys) keys.add(key);
  return [...keys];
}

function groupRows(
  rows: readonly Row[],
  columns: readonly TakeoffField[],
  level: number,
  levels: number,
  id: string,
): DraftLine[] {
  if (level === levels)
    return rows.map(({ cells, keys, count }, i) => ({
      kind: 'row',
      id: `${id}#${keys[0]}.${i}`,
      level,
      label: '',
      cells,
      keys,
      count,
    }));
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const label = row.groups[level]!;
    const list = groups.get(label);
    if (list) list.push(row);
    else groups.set(label, [row]);
  }
  return [...groups]
    .sort(([a], [b]) => compareValues(a, b))
    .flatMap(([label, members]): DraftLine[] => {
      const own = `${id}/${encodeURIComponent(label)}`;
      return [
        {
          kind: 'group',
          id: own,
          level,
          label,
          cells: sumCells(members, columns),
          keys: joinKeys(members),
          count: members.reduce((n, m) => n + m.count, 0),
        },
        ...groupRows(members, columns, level + 1, levels, own),
      ];
    });
}
