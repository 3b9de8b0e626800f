import { LineState } from '../cells/cell-line.ts';
import { AMOUNT_SCALE } from '../pricing/money.ts';
import { rateAt, toCharged } from '../pricing/price-lines.ts';
import type { TableGroup } from '../tables/build-table.ts';
import { nameFact } from '../tables/field-catalogue.ts';
import { plainField, type TableField } from '../tables/table-field.ts';
import {
  type GroupField,
  type GroupNames,
  NO_LABEL,
  readGroupLabel,
  readNames,
  readSurplusLabel,
} from './group-labels.ts';
import type { PlanRow } from './plan-rows.ts';

/** A column of a plan. */
export type PlanField = TableField<PlanRow>;

const isUnknown = (row: PlanRow): boolean =>
  row.purchase === null && (row.line.state[row.at] === LineState.problem || rateAt(row.line, row.at) === null);
const isKnown = (row: PlanRow) => row.purchase === null && row.line.state[row.at] === LineState.known;
const itemOf = (row: PlanRow) => (row.purchase === null ? row.line.item?.item : row.purchase.item);

function describe(row: PlanRow): string {
  const own = itemOf(row)?.description ?? '';
  const { share, kind } = row.piece;
  const storey = row.purchase?.storey ?? null;
  const left = row.purchase === null ? '' : `, left over of whole packs${storey === null ? '' : `, ${storey}`}`;
  return `${own}${left}${share === 1 ? '' : `, ${kind} part`}`;
}

function readRate(row: PlanRow): number | null {
  if (row.purchase !== null) return null;
  const rate = rateAt(row.line, row.at);
  return rate === null ? null : rate * row.piece.share;
}

const column = plainField<PlanRow>;

/** Columns of a plan, in reading order. Quantities are in the unit of the item, money in 1/10,000 of a minor unit. */
export const PLAN_FIELDS: readonly PlanField[] = [
  column('item', 'Item', 'only', (row) => (row.purchase === null ? row.line.code : row.purchase.item.code)),
  column('description', 'Description', 'only', describe),
  column('kind', 'Kind', 'only', (row) => row.piece.kind),
  column('section', nameFact('section').word, 'only', (row) =>
    row.purchase === null ? row.block.mapped.section : null,
  ),
  column('unit', 'Unit', 'only', (row) => itemOf(row)?.unit ?? ''),
  column('net', 'Net', 'sum', (row) => (isKnown(row) && row.purchase === null ? row.line.net[row.at]! : null)),
  column('toBuy', 'To buy', 'sum', (row) =>
    row.purchase !== null ? row.purchase.surplus : isKnown(row) ? toCharged(row.line.net[row.at]!, row.line) : null,
  ),
  column('wastePercent', 'Waste %', 'only', (row) => (row.purchase === null ? row.line.wastePercent : 0)),
  column('rate', 'Rate', 'only', readRate),
  column('rates', 'Rates', 'distinct', readRate),
  column('amount', 'Amount', 'sum', (row) => row.piece.amount),
  column('minor', 'Amount', 'sum', (row) => row.piece.amount),
  column('elements', 'Elements', 'distinct', (row) => (row.purchase === null ? row.part.table.keys[row.row]! : null)),
  column('unknown', 'Unknown', 'sum', (row) => (isUnknown(row) ? 1 : 0)),
  column('problem', 'Problem', 'first', (row) =>
    row.purchase === null && isUnknown(row)
      ? ((row.line.problems.get(row.at) ?? row.line.rateProblem)?.message ?? null)
      : null,
  ),
];

/** Places of the columns in a line's cells. */
export const PLAN_COLUMN: ReadonlyMap<string, number> = new Map(PLAN_FIELDS.map((f, i) => [f.id, i]));

/** The shown amount is in whole minor units and adds up. */
export const stepOfPlan = ({ id }: Pick<PlanField, 'id'>): number | null => (id === 'minor' ? AMOUNT_SCALE : null);

/** What a line of a plan stands for: an item in a work section (and of one kind, where rates are divided); never what it costs. */
export function sayPlanLine(row: PlanRow): string {
  const part = row.piece.share === 1 ? '' : `|${row.piece.kind}`;
  return row.purchase === null
    ? `${row.block.mapped.section}|${row.line.code}${part}`
    : `surplus|${row.purchase.item.code}|${row.purchase.storey ?? ''}`;
}

/** Levels that a plan is grouped by. */
export function listPlanGroups(by: readonly GroupField[], names: GroupNames): TableGroup<PlanRow>[] {
  const labels = readNames(names);
  return by.map((field) => ({
    field: column(field, nameFact(field).word, 'only', (row) =>
      row.purchase === null
        ? readGroupLabel(field, row.part, row.row, row.block, row.line, row.piece, labels)
        : readSurplusLabel(field, row.purchase, row.piece, labels),
    ),
    none: NO_LABEL[field],
    ...(field === 'section' ? { order: names.sections.map((s) => s.name) } : {}),
  }));
}
