import { LineState } from '../cells/cell-line.ts';
import { sayClass } from '../elements/class-word.ts';
import { readText } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import { AMOUNT_SCALE } from '../pricing/money.ts';
import { rateAt, toCharged } from '../pricing/price-lines.ts';
import type { TableGroup } from '../tables/build-table.ts';
import { nameFact } from '../tables/field-catalogue.ts';
import { plainField, type TableField } from '../tables/table-field.ts';
import { foldText } from '../units/fold-text.ts';
import {
  type GroupField,
  type GroupNames,
  nameGroup,
  readGroupLabel,
  readNames,
  readOpenLabel,
  readSurplusLabel,
  sayNoGroup,
} from './group-labels.ts';
import { KIND_QUANTITIES } from './list-element-kinds.ts';
import type { PlanCellRow, PlanOpenRow, PlanRow } from './plan-rows.ts';

/** A column of a plan. */
export type PlanField = TableField<PlanRow>;

/** True of a cell whose amount is not known. */
export const isUnknown = (row: PlanRow): boolean =>
  row.is === 'cell' && (row.line.state[row.at] === LineState.problem || rateAt(row.line, row.at) === null);
const isKnown = (row: PlanCellRow) => row.line.state[row.at] === LineState.known;
const itemOf = (row: PlanRow) =>
  row.is === 'cell' ? row.line.item?.item : row.is === 'surplus' ? row.purchase.item : null;

/** What an element is called: its class in words and its name; the name alone where that begins with the word. */
export function nameElement({ part: { table }, row }: Pick<PlanCellRow, 'part' | 'row'>): string {
  const word = sayClass(readText(table.ifcClass, row)) ?? '';
  const name = readText(table.name, row) || readText(table.typeName, row) || '';
  return foldText(name).startsWith(foldText(word)) ? name || word : `${word} ${name}`.trim();
}

/** Class and type of an open element: those alike stand in one line. */
const nameOpenKind = ({ part: { table }, row }: PlanOpenRow): string =>
  `${sayClass(readText(table.ifcClass, row)) ?? ''} ${readText(table.typeName, row) ?? ''}`.trim() ||
  nameElement({ part: { table } as PlanCellRow['part'], row });

function describe(row: PlanRow): string {
  if (row.is === 'open') return nameOpenKind(row);
  const own = itemOf(row)?.description ?? '';
  const { share, kind } = row.piece;
  const storey = row.is === 'surplus' ? row.purchase.storey : null;
  const left = row.is === 'cell' ? '' : `, left over of whole packs${storey === null ? '' : `, ${storey}`}`;
  return `${own}${left}${share === 1 ? '' : `, ${kind} part`}`;
}

function readRate(row: PlanRow): number | null {
  if (row.is !== 'cell') return null;
  const rate = rateAt(row.line, row.at);
  return rate === null ? null : rate * row.piece.share;
}

/** The quantity that says most of an open element: its area, else its volume, its length; one piece in the end. */
function measureOpen({ part: { table }, row }: PlanOpenRow): { readonly value: number; readonly unit: string } {
  const columns = listEffectiveQuantities(table);
  for (const name of KIND_QUANTITIES) {
    const column = columns.get(name.toLowerCase());
    const value = column?.values[row] ?? Number.NaN;
    if (!Number.isNaN(value)) return { value, unit: column!.unit };
  }
  return { value: 1, unit: 'each' };
}

/** Quantity of a row before waste, in the unit of its item; of what is open that which says most of it. Null where it is not known. */
export function readNet(row: PlanRow): number | null {
  if (row.is === 'open') return measureOpen(row).value * row.extent;
  return row.is === 'cell' && isKnown(row) ? row.line.net[row.at]! * row.piece.extent : null;
}

function readToBuy(row: PlanRow): number | null {
  if (row.is === 'surplus') return row.purchase.surplus;
  return row.is === 'cell' && isKnown(row) ? toCharged(row.line.net[row.at]!, row.line) * row.piece.extent : null;
}

/** Why the amount of a row is not known; null if it is. */
function readProblem(row: PlanRow): string | null {
  if (row.is === 'open')
    return row.openParts.length > 0 ? `Not decided: ${row.openParts.join(', ')}` : 'Nothing prices it.';
  return isUnknown(row) && row.is === 'cell'
    ? ((row.line.problems.get(row.at) ?? row.line.rateProblem)?.message ?? null)
    : null;
}

const column = plainField<PlanRow>;
/** A column that reads the same of all cells of one line of a block. */
const steady = (...of: Parameters<typeof column>): PlanField => ({ ...column(...of), isSteady: true });

/** What cells one after the other have in common: their line, unless each has a rate of its own or they are divided. */
export const lineOf = (row: PlanRow): object | null =>
  row.is === 'cell' && row.line.rates === null && row.piece.share === 1 ? row.line : null;

/** Columns of a plan, in reading order. Quantities are in the unit of the item, money in 1/10,000 of a minor unit. */
export const PLAN_FIELDS: readonly PlanField[] = [
  steady('item', 'Item', 'only', (row) =>
    row.is === 'cell' ? row.line.code : row.is === 'surplus' ? row.purchase.item.code : '',
  ),
  steady('description', 'Description', 'only', describe),
  steady('kind', 'Kind', 'only', (row) => (row.is === 'open' ? null : row.piece.kind)),
  steady('section', nameFact('section').word, 'only', (row) => (row.is === 'cell' ? row.block.mapped.section : null)),
  steady('unit', 'Unit', 'only', (row) => (row.is === 'open' ? measureOpen(row).unit : (itemOf(row)?.unit ?? ''))),
  column('net', 'Net', 'sum', readNet),
  column('toBuy', 'To buy', 'sum', readToBuy),
  steady('wastePercent', 'Waste %', 'only', (row) => (row.is === 'cell' ? row.line.wastePercent : 0)),
  steady('rate', 'Rate', 'only', readRate),
  steady('rates', 'Rates', 'distinct', readRate),
  column('amount', 'Amount', 'sum', (row) => (row.is === 'open' ? 0 : row.piece.amount)),
  column('minor', 'Amount', 'sum', (row) => (row.is === 'open' ? 0 : row.piece.amount)),
  column('elements', 'Elements', 'distinct', (row) => (row.is === 'surplus' ? null : row.part.table.keys[row.row]!)),
  column('unknown', 'Unknown', 'sum', (row) => (isUnknown(row) ? 1 : null)),
  column('problem', 'Problem', 'first', readProblem),
  column('open', 'Not priced', 'sum', (row) => (row.is === 'open' ? 1 : null)),
];

/** Columns of a plan whose rows are elements, beside the others. */
const ELEMENT_FIELDS: readonly PlanField[] = [
  column('element', 'Element', 'only', (row) => (row.is === 'surplus' ? null : nameElement(row))),
  column('key', 'Key', 'only', (row) => (row.is === 'surplus' ? null : row.part.table.keys[row.row]!)),
];

/** How many cells are under a mark that they were checked. */
const checkedField = (isChecked: ((row: PlanCellRow) => boolean) | null): PlanField =>
  column('checked', 'Checked', 'sum', (row) => (row.is === 'cell' && isChecked?.(row) ? 1 : null));

/** The columns by what a row is. */
export const listPlanFields = (
  rows: PlanRows,
  isChecked: ((row: PlanCellRow) => boolean) | null = null,
): readonly PlanField[] => [...PLAN_FIELDS, checkedField(isChecked), ...(rows === 'item' ? [] : ELEMENT_FIELDS)];

/** Places of the columns in a line's cells. */
export const PLAN_COLUMN: ReadonlyMap<string, number> = new Map(listPlanFields('cell').map((f, i) => [f.id, i]));

/** The shown amount is in whole minor units and adds up. */
export const stepOfPlan = ({ id }: Pick<PlanField, 'id'>): number | null => (id === 'minor' ? AMOUNT_SCALE : null);

/** What a row of a shown plan is: an item in its work section, an element, or an element with an item. */
export const PLAN_ROWS = ['item', 'element', 'cell'] as const;
export type PlanRows = (typeof PLAN_ROWS)[number];

/** What a line of a plan stands for: an item in a work section (and of one kind, where rates are divided); never what it costs. */
export function sayPlanLine(row: PlanRow): string {
  if (row.is === 'open') return `open|${nameOpenKind(row)}|${measureOpen(row).unit}`;
  const part = row.piece.share === 1 ? '' : `|${row.piece.kind}`;
  return row.is === 'cell'
    ? `${row.block.mapped.section}|${row.line.code}${part}`
    : `surplus|${row.purchase.item.code}|${row.purchase.storey ?? ''}`;
}

const SAY: Readonly<Record<PlanRows, (row: PlanRow) => string>> = {
  item: sayPlanLine,
  element: (row) => (row.is === 'surplus' ? sayPlanLine(row) : `element|${row.part.table.keys[row.row]!}`),
  cell: (row) => (row.is === 'surplus' ? sayPlanLine(row) : `${row.part.table.keys[row.row]!}|${sayPlanLine(row)}`),
};

/** What makes rows one line, by what a row is. */
export const bundlePlan = (rows: PlanRows): ((row: PlanRow) => string) => SAY[rows];

/** Fields whose labels are those of a line of a block, whatever element it is on. */
const OF_LINE: ReadonlySet<GroupField> = new Set([
  'section',
  'kind',
  'supplier',
  'item',
  'assembly',
  'itemGroup',
  'taxClass',
  'rule',
]);

/** Levels that a plan is grouped by. */
export function listPlanGroups(
  by: readonly GroupField[],
  names: GroupNames,
  storeys: readonly string[] = [],
): TableGroup<PlanRow>[] {
  const labels = readNames(names);
  return by.map((field) => ({
    field: (OF_LINE.has(field) ? steady : column)(field, nameGroup(field).word, 'only', (row) =>
      row.is === 'cell'
        ? readGroupLabel(field, row, labels)
        : row.is === 'open'
          ? readOpenLabel(field, row, labels)
          : readSurplusLabel(field, row, labels),
    ),
    none: sayNoGroup(field),
    ...(field === 'section' ? { order: names.sections.map((s) => s.name) } : {}),
    ...(field === 'storey' ? { order: storeys } : {}),
  }));
}
