import { type Amount, amountToMinor } from '../pricing/money.ts';
import { buildTable, type TableLine, visitRowsBehind } from '../tables/build-table.ts';
import type { CellValue } from '../tables/table-field.ts';
import type { GroupField, GroupNames } from './group-labels.ts';
import type { Plan } from './plan.ts';
import { listPlanGroups, PLAN_COLUMN, PLAN_FIELDS, sayPlanLine, stepOfPlan } from './plan-fields.ts';
import { type PlanRow, visitPlanRows, visitSurplus } from './plan-rows.ts';
import { findShortfall, nameTotal } from './shortfall.ts';

/** What a plan says of one item in one work section within a group: its identity; rate and waste are what it holds. */
export interface PlanLine {
  readonly id: string;
  readonly item: string;
  readonly description: string;
  readonly kind: string | null;
  readonly section: string | null;
  readonly unit: string;
  readonly net: number;
  readonly toBuy: number;
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
}

/** True if nothing of a bundled line is known: it is shown as unknown, not as 0. */
export function isLineUnknown(line: PlanLine): boolean {
  return line.unknown >= line.cells;
}

/** A group of a plan with what is below it: groups, or lines on the last level. */
export interface PlanGroup {
  readonly id: string;
  readonly label: string;
  readonly amount: Amount;
  readonly minor: number;
  readonly unknown: number;
  readonly groups: readonly PlanGroup[];
  readonly lines: readonly PlanLine[];
}

export interface PlanScope {
  /** Only these elements (ElementKeys); all if absent. */
  readonly keys?: ReadonlySet<number>;
}

/**
 * Groups a plan by fields, outermost first, and bundles its cells below the last to lines. The shown amounts are shared out
 * from the total downwards, so that every printed column adds up, and the total is the same under every grouping. The label of the
 * whole says what its total is of.
 */
export function groupPlan(
  plan: Plan,
  by: readonly GroupField[],
  names: GroupNames,
  { keys }: PlanScope = {},
): PlanGroup {
  const isByKind = by.includes('kind');
  const visit = (see: (row: PlanRow) => void) => {
    visitPlanRows(plan, isByKind, keys ? (row) => keys.has(row.part.table.keys[row.row]!) && see(row) : see);
    if (!keys) visitSurplus(plan, isByKind, see);
  };
  const { lines, totals } = buildTable(visit, {
    columns: PLAN_FIELDS,
    groups: listPlanGroups(by, names),
    bundle: sayPlanLine,
    sort: { field: 'item', isDescending: false },
    stepOf: stepOfPlan,
  });
  const label = keys ? 'Total' : nameTotal(findShortfall(plan));
  return { id: '', label, ...readMoney(totals), ...listBelow(lines, 0, lines.length, 0) };
}

const figureAt = (cells: readonly CellValue[], id: string): number => Number(cells[PLAN_COLUMN.get(id)!] ?? 0);
const textAt = (cells: readonly CellValue[], id: string): string | null =>
  (cells[PLAN_COLUMN.get(id)!] as string | null) ?? null;

function readMoney(cells: readonly CellValue[]): Pick<PlanGroup, 'amount' | 'minor' | 'unknown'> {
  const minor = amountToMinor(figureAt(cells, 'minor'));
  return { amount: figureAt(cells, 'amount'), minor, unknown: figureAt(cells, 'unknown') };
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
    else groups.push({ id, label, ...readMoney(cells), ...listBelow(lines, i + 1, end, level + 1) });
    i = end;
  }
  return { groups, lines: own };
}

function toPlanLine({ id, cells, count }: TableLine): PlanLine {
  const orNull = (column: string) => cells[PLAN_COLUMN.get(column)!] as number | null;
  return {
    id,
    item: textAt(cells, 'item') ?? '',
    description: textAt(cells, 'description') ?? '',
    kind: textAt(cells, 'kind'),
    section: textAt(cells, 'section'),
    unit: textAt(cells, 'unit') ?? '',
    net: figureAt(cells, 'net'),
    toBuy: figureAt(cells, 'toBuy'),
    wastePercent: orNull('wastePercent'),
    rate: orNull('rate'),
    rates: figureAt(cells, 'rates'),
    ...readMoney(cells),
    elements: figureAt(cells, 'elements'),
    cells: count,
    problem: textAt(cells, 'problem'),
  };
}

/** ElementKeys behind a group or a bundled line of a grouped plan, by its id. */
export function listGroupElements(plan: Plan, by: readonly GroupField[], names: GroupNames, id: string): number[] {
  const keys = new Set<number>();
  // The surplus of an item is that of all elements that need it.
  const surplusOf = /#surplus\|([^|]*)\|/.exec(id)?.[1];
  const visit = (see: (row: PlanRow) => void) => visitPlanRows(plan, by.includes('kind'), see);
  const take = (row: PlanRow) => {
    if (row.purchase === null) keys.add(row.part.table.keys[row.row]!);
  };
  if (surplusOf === undefined)
    visitRowsBehind(visit, { groups: listPlanGroups(by, names), bundle: sayPlanLine }, id, take);
  else visit((row) => row.purchase === null && row.line.code === surplusOf && take(row));
  return [...keys];
}
