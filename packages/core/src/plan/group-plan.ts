import { readText } from '../elements/columns.ts';
import { type Amount, amountToMinor } from '../pricing/money.ts';
import { buildTable, type TableLine, type VisitRows, visitRowsBehind } from '../tables/build-table.ts';
import type { CellValue } from '../tables/table-field.ts';
import type { GroupField, GroupNames } from './group-labels.ts';
import type { Plan } from './plan.ts';
import { bundlePlan, isUnknown, lineOf, listPlanFields, listPlanGroups, nameElement, PLAN_COLUMN, type PlanRows, readNet, stepOfPlan } from './plan-fields.ts'; // biome-ignore format: one module
import { type PlanCellRow, type PlanOpenRow, type PlanRow, visitOpen, visitPlanRows, visitSurplus } from './plan-rows.ts'; // biome-ignore format: one module
import { findShortfall, nameTotal } from './shortfall.ts';

/** What a plan says of one item in one work section within a group: its identity; rate and waste are what it holds. */
export interface PlanLine {
  readonly id: string;
  readonly item: string;
  readonly description: string;
  readonly kind: string | null;
  readonly section: string | null;
  /** Empty where its items have several. */
  readonly unit: string;
  /** Null where they are in several units, or nothing of them is known. */
  readonly net: number | null;
  readonly toBuy: number | null;
  /** Null where its elements have several. */
  readonly wastePercent: number | null;
  /** Null where there is none, or where its elements have several. */
  readonly rate: number | null;
  /** How many different rates its elements have. */
  readonly rates: number;
  readonly amount: Amount;
  /** The shown amount in minor units; the shown amounts of a plan add up to its shown total. */
  readonly minor: number;
  readonly elements: number;
  /** Element x line combinations in it, and how many of them are unknown. */
  readonly cells: number;
  readonly unknown: number;
  readonly problem: string | null;
  /** Cells in it that somebody checked. */
  readonly checked: number;
  /** Elements in it that nothing prices, or of which something is not decided about. */
  readonly open: number;
  /** Of a line that is of one element: what it is called, and its ElementKey. */
  readonly element: string | null;
  readonly key: number | null;
}

/** True if nothing of a bundled line is known: it is shown as unknown, not as 0. */
export function isLineUnknown(line: PlanLine): boolean {
  return line.unknown + line.open >= line.cells;
}

/** A group of a plan with what is below it: groups, or lines on the last level. */
export interface PlanGroup {
  readonly id: string;
  readonly label: string;
  readonly amount: Amount;
  readonly minor: number;
  readonly unknown: number;
  /** Elements in it that are open. */
  readonly open: number;
  /** Cells in it, and those among them that somebody checked. */
  readonly cells: number;
  readonly checked: number;
  readonly groups: readonly PlanGroup[];
  readonly lines: readonly PlanLine[];
}

export interface PlanScope {
  /** Only these elements (ElementKeys); all if absent. */
  readonly keys?: ReadonlySet<number>;
  /** What a row is; an item in its section if absent. */
  readonly rows?: PlanRows;
  /** True of cells that somebody checked and that are as they were. */
  readonly isChecked?: ((row: PlanCellRow) => boolean) | null;
}

/**
 * Groups a plan by fields, outermost first, and bundles its rows below the last to lines. The shown amounts are shared out
 * from the total downwards, so that every printed column adds up, and the total is the same under every grouping. What is not priced stands in its
 * place without an amount. The label of the whole says what its total is of.
 */
export function groupPlan(
  plan: Plan,
  by: readonly GroupField[],
  names: GroupNames,
  { keys, rows = 'item', isChecked = null }: PlanScope = {},
): PlanGroup {
  const { lines, totals, count } = buildTable(visitShown(plan, by, keys), {
    columns: listPlanFields(rows, isChecked),
    groups: listPlanGroups(by, names, listStoreys(plan)),
    bundle: bundlePlan(rows),
    ...(rows === 'item' ? { thingOf: lineOf } : {}),
    sort: rows === 'item' ? { field: 'item', isDescending: false } : { field: 'element', isDescending: false },
    stepOf: stepOfPlan,
  });
  const money = readMoney(totals);
  const label = keys ? nameSelection(money) : nameTotal(findShortfall(plan));
  return { id: '', label, cells: count, ...money, ...listBelow(lines, 0, lines.length, 0) };
}

/** How many lines a grouped plan has, on all levels. */
export const countPlanLines = ({ groups, lines }: PlanGroup): number =>
  groups.reduce((n, g) => n + 1 + countPlanLines(g), lines.length);

/** Rows of a plan as it is shown: of some elements only, or of all with what of whole packs is left over. */
function visitShown(plan: Plan, by: readonly GroupField[], keys?: ReadonlySet<number>): VisitRows<PlanRow> {
  const division = { isByKind: by.includes('kind'), isByRoom: by.includes('room') };
  return (see) => {
    const pass = keys ? (row: PlanCellRow | PlanOpenRow) => keys.has(row.part.table.keys[row.row]!) && see(row) : see;
    visitPlanRows(plan, division, pass);
    visitOpen(plan, division, pass);
    if (!keys) visitSurplus(plan, division.isByKind, see);
  };
}

/** Names of the storeys of all models, from the lowest up. */
function listStoreys({ parts }: Plan): string[] {
  const storeys = parts.flatMap((p) => p.table.storeys);
  return [...new Set([...storeys].sort((a, b) => (a.elevation ?? 0) - (b.elevation ?? 0)).map((s) => s.name ?? ''))];
}

/** What a total of some elements is of. */
function nameSelection({ unknown, open }: Pick<PlanGroup, 'unknown' | 'open'>): string {
  if (open > 0) return `Total of what is shown so far: ${open} not priced`;
  return unknown > 0 ? `Total of what is shown so far: ${unknown} amounts are unknown` : 'Total of what is shown';
}

const figureAt = (cells: readonly CellValue[], id: string): number => Number(cells[PLAN_COLUMN.get(id)!] ?? 0);
const textAt = (cells: readonly CellValue[], id: string): string | null =>
  (cells[PLAN_COLUMN.get(id)!] as string | null) ?? null;

function readMoney(cells: readonly CellValue[]): Pick<PlanGroup, 'amount' | 'minor' | 'unknown' | 'open' | 'checked'> {
  const minor = amountToMinor(figureAt(cells, 'minor'));
  return {
    amount: figureAt(cells, 'amount'),
    minor,
    unknown: figureAt(cells, 'unknown'),
    open: figureAt(cells, 'open'),
    checked: figureAt(cells, 'checked'),
  };
}

/** The groups or lines of one level between two places of a table's lines. */
function listBelow(
  lines: readonly TableLine[],
  from: number,
  to: number,
  level: number,
): Pick<PlanGroup, 'groups' | 'lines'> {
  const groups: PlanGroup[] = [];
  const own: PlanLine[] = [];
  for (let i = from; i < to; ) {
    const line = lines[i]!;
    let end = i + 1;
    while (end < to && lines[end]!.level > level) end++;
    const { id, label, cells } = line;
    if (line.kind === 'row') own.push(toPlanLine(line));
    else groups.push({ id, label, cells: line.count, ...readMoney(cells), ...listBelow(lines, i + 1, end, level + 1) });
    i = end;
  }
  return { groups, lines: own };
}

function toPlanLine({ id, cells, count }: TableLine): PlanLine {
  const orNull = (column: string) => (cells[PLAN_COLUMN.get(column)!] ?? null) as number | null;
  const unit = textAt(cells, 'unit');
  return {
    id,
    item: textAt(cells, 'item') ?? '',
    description: textAt(cells, 'description') ?? '',
    kind: textAt(cells, 'kind'),
    section: textAt(cells, 'section'),
    unit: unit ?? '',
    // Figures in several units do not add up.
    net: unit === null ? null : orNull('net'),
    toBuy: unit === null ? null : orNull('toBuy'),
    wastePercent: orNull('wastePercent'),
    rate: orNull('rate'),
    rates: figureAt(cells, 'rates'),
    ...readMoney(cells),
    elements: figureAt(cells, 'elements'),
    cells: count,
    problem: textAt(cells, 'problem'),
    element: textAt(cells, 'element'),
    key: orNull('key'),
  };
}

/** The rows behind a group or a line of a grouped plan, by its id, and whether it is of what is left over of whole packs. */
function visitBehind(
  plan: Plan,
  by: readonly GroupField[],
  names: GroupNames,
  id: string,
  { rows = 'item', keys }: PlanScope,
  take: (row: PlanCellRow | PlanOpenRow) => void,
): void {
  // The surplus of an item is that of all elements that need it.
  const surplusOf = /#surplus\|([^|]*)\|/.exec(id)?.[1];
  const visit = visitShown(plan, by, keys);
  const see = (row: PlanRow) => row.is !== 'surplus' && take(row);
  if (surplusOf === undefined)
    visitRowsBehind(visit, { groups: listPlanGroups(by, names), bundle: bundlePlan(rows) }, id, see);
  else visit((row) => row.is === 'cell' && row.line.code === surplusOf && take(row));
}

/** ElementKeys behind a group or a bundled line of a grouped plan, by its id. */
export function listGroupElements(
  plan: Plan,
  by: readonly GroupField[],
  names: GroupNames,
  id: string,
  scope: PlanScope = {},
): number[] {
  const keys = new Set<number>();
  visitBehind(plan, by, names, id, scope, (row) => void keys.add(row.part.table.keys[row.row]!));
  return [...keys];
}

/** What one element adds to a line or group of a plan. */
export interface BehindElement {
  readonly key: number;
  readonly label: string;
  readonly storey: string | null;
  /** In the unit of the item; null where it is unknown, or of several items. */
  readonly net: number | null;
  readonly amount: Amount;
  readonly unknown: number;
  readonly isOpen: boolean;
}

/** The elements behind a group or a line of a plan with what each adds to it, the most money first. */
export function listBehind(
  plan: Plan,
  by: readonly GroupField[],
  names: GroupNames,
  id: string,
  scope: PlanScope = {},
): readonly BehindElement[] {
  const found = new Map<number, { -readonly [K in keyof BehindElement]: BehindElement[K] }>();
  const items = new Set<string>();
  visitBehind(plan, by, names, id, scope, (row) => {
    const { table } = row.part;
    const key = table.keys[row.row]!;
    const of = found.get(key) ?? {
      key, label: nameElement(row), storey: readText(table.storey, row.row), net: null, amount: 0, unknown: 0, isOpen: false,
    }; // biome-ignore format: one record
    found.set(key, of);
    if (row.is === 'cell') items.add(row.line.code);
    const net = readNet(row);
    if (net !== null) of.net = (of.net ?? 0) + net;
    if (row.is === 'open') of.isOpen = true;
    else of.amount += row.piece.amount;
    if (isUnknown(row)) of.unknown++;
  });
  const list = [...found.values()].sort((a, b) => b.amount - a.amount || a.key - b.key);
  return items.size > 1 ? list.map((e) => ({ ...e, net: null })) : list;
}
