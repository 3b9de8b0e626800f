import { isLineUnknown, type PlanGroup, type PlanLine } from '../plan/group-plan.ts';
import { minorToMajor } from '../pricing/money.ts';

/** A table ready to be written: headings, then rows of texts, figures and empty cells. */
export interface ReportTable {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly (string | number | null)[])[];
}

/** Digits a quantity is shown with in files. */
const QUANTITY_DIGITS = 4;
const round = (value: number | null) => (value === null ? null : Number(value.toFixed(QUANTITY_DIGITS)));

/**
 * A grouped plan as a table: one row per bundled line with its groups in the first columns, the total in the last row.
 * The amounts are the shown ones and add up to the shown total.
 */
export function planToTable(root: PlanGroup, groupHeadings: readonly string[], minorDigits: number): ReportTable {
  const rows: (string | number | null)[][] = [];
  const visit = (group: PlanGroup, labels: readonly string[]) => {
    for (const child of group.groups) visit(child, [...labels, child.label]);
    for (const line of group.lines) rows.push([...labels, ...lineToCells(line, minorDigits)]);
  };
  visit(root, []);
  const width = groupHeadings.length + LINE_COLUMNS.length;
  const total: (string | number | null)[] = new Array(width).fill(null);
  total[0] = root.label;
  total[groupHeadings.length + AMOUNT_AT] = minorToMajor(root.minor, minorDigits);
  rows.push(total);
  return { columns: [...groupHeadings, ...LINE_COLUMNS], rows };
}

/** Columns of a bundled line in files. */
export const LINE_COLUMNS = [
  'Item',
  'Description',
  'Kind',
  'Net',
  'Waste %',
  'To buy',
  'Unit',
  'Rate',
  'Amount',
  'Elements',
  'Note',
] as const;
const AMOUNT_AT = LINE_COLUMNS.indexOf('Amount');

/** A bundled line as cells under `LINE_COLUMNS`; its amount is empty while nothing of it is known. */
export function lineToCells(line: PlanLine, minorDigits: number): (string | number | null)[] {
  const isUnknown = isLineUnknown(line);
  return [
    line.item,
    line.element === null ? line.description : [line.element, line.description].filter((t) => t).join(': '),
    line.kind,
    round(line.net),
    line.wastePercent,
    round(line.toBuy),
    line.unit,
    line.rate,
    isUnknown ? null : minorToMajor(line.minor, minorDigits),
    line.elements,
    noteLine(line),
  ];
}

/** What a line of a file cannot say in figures: what is unknown, and that its elements have several rates. */
function noteLine({ unknown, problem, rates, open }: PlanLine): string | null {
  const notes = [
    ...(open > 0 ? [`not priced: ${problem ?? ''}`] : []),
    ...(unknown > 0 ? [`${unknown} unknown: ${problem ?? ''}`] : []),
    ...(rates > 1 ? [`${rates} different rates`] : []),
  ];
  return notes.length > 0 ? notes.join('; ') : null;
}
