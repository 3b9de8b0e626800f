import { readTextList } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { findJunctionsAmong } from '../quantities/junctions-among.ts';
import { findLimit, touchesLimit } from '../quantities/limited-quantity.ts';
import { listRoomFinishes } from '../quantities/room-finishes.ts';
import type { Condition } from '../scopes/condition.ts';
import { evaluateScope } from '../scopes/evaluate-scope.ts';
import { buildTable, type Table } from '../tables/build-table.ts';
import type { TakeoffField, TakeoffItem } from './takeoff-fields.ts';
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

/** A takeoff table built, with the columns it has. */
export interface TakeoffTable extends Table {
  readonly columns: readonly TakeoffField[];
}

/** Rows that are always bundled: what they are is what they have in common. */
const BUNDLED: ReadonlySet<TakeoffRowKind> = new Set(['type', 'material']);

/** Builds a takeoff table: lists its items, picks its columns and groups, and leaves the rest to the table engine. */
export function buildTakeoffTable(
  tables: readonly ElementTable[],
  fields: readonly TakeoffField[],
  spec: TakeoffSpec,
): TakeoffTable {
  const byId = new Map(fields.map((f) => [f.id, f]));
  const pick = (ids: readonly string[]) => ids.flatMap((id) => byId.get(id) ?? []);
  const columns = pick(spec.columns);
  const isBundled = spec.isBundled || BUNDLED.has(spec.row);
  const table = buildTable<TakeoffItem>((see) => listTakeoffItems(tables, spec).forEach(see), {
    columns,
    groups: pick(spec.groups).map((field) => ({
      field,
      none: `No ${field.heading[0]!.toLowerCase()}${field.heading.slice(1)}`,
    })),
    bundle: isBundled ? 'alike' : sayItem,
    sort: spec.sort,
    keysOf: spec.row === 'junction' ? listWalls : ({ table: of, row }) => [of.keys[row]!],
    ...(spec.stepOf ? { stepOf: spec.stepOf } : {}),
  });
  return { columns, ...table };
}

/** Identity of an item in its table: its element, and its number among the things of its kind. */
const sayItem = ({ table, row, sub }: TakeoffItem): string => `${table.keys[row] || `row ${row}`}.${sub}`;

/** The walls that meet in a junction. */
const listWalls = ({ table, sub }: TakeoffItem): number[] => table.junctions[sub]!.walls.map((row) => table.keys[row]!);

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
