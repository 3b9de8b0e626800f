import { parseRate } from '../book/parse-rate.ts';
import { type DecimalSign, findDecimalSign, isSignSure, readPrice } from '../book/price-text.ts';
import { cellText, type Sheet, type SheetCell } from '../book/sheet.ts';
import { readUnitWord } from '../book/unit-words.ts';
import { failure, type Result, success } from '../result/result.ts';
import { codeKey } from '../units/code-key.ts';
import { foldText } from '../units/fold-text.ts';
import type { Unit } from '../units/unit.ts';
import type { ListColumn, ListProfile } from './list-profile.ts';

/** A line of a list. `row` is counted from 1, as spreadsheets do. */
export interface ListLine {
  readonly row: number;
  /** What tells it from the others, in this version of the list and the next. */
  readonly key: string;
  readonly code: string | null;
  readonly description: string;
  /** In `unit`. */
  readonly quantity: number;
  readonly unit: Unit;
  readonly group: string | null;
  readonly storey: string | null;
  /** Decimal per unit; null if the list says none. */
  readonly price: string | null;
}

/** A row that is no line, with the reason. */
export interface RefusedRow {
  readonly row: number;
  readonly text: string;
  readonly reason: string;
}

export interface ReadList {
  readonly lines: readonly ListLine[];
  readonly refused: readonly RefusedRow[];
  /** Lines whose key another line has too: they are told apart by their order. */
  readonly alike: readonly number[];
  /** Rows with words and no figure, unit or price: headings, or lines that somebody has not filled in. */
  readonly headings: readonly number[];
}

/** A quantity no list of a building has. */
const LARGEST = 1e12;

/**
 * Reads the lines of a list. Empty rows are passed over, and rows that are a heading alone, which are told; what cannot be used is refused with its
 * reason. Errors: `list-without-lines` if nothing can be used, `list-sheet-unknown`, `list-decimal-open` if its figures can be read in
 * two ways.
 */
export function readList(sheets: readonly Sheet[], profile: ListProfile): Result<ReadList> {
  const sheet = sheets.find((s) => s.name === profile.sheet);
  if (!sheet)
    return failure('list-sheet-unknown', `The file has no sheet "${profile.sheet}".`, {
      remedy: 'Choose the columns anew.',
    });
  const { columns, headerRow } = profile;
  const body = sheet.rows.slice(headerRow + 1);
  const figures = body.flatMap((r) => [r[columns.quantity], columns.price === undefined ? null : r[columns.price]]);
  const texts = figures.filter((c) => typeof c === 'string').filter((t) => /\d/.test(t));
  if (!profile.decimal && !isSignSure(texts))
    return failure('list-decimal-open', 'Its figures can be read with a decimal point or a decimal comma.', {
      remedy: 'Say which sign stands before the decimals.',
    });
  const decimal = profile.decimal ?? findDecimalSign(texts);
  const lines: ListLine[] = [];
  const refused: RefusedRow[] = [];
  const alike: number[] = [];
  const headings: number[] = [];
  const keys = new Set<string>();
  for (const [i, cells] of body.entries()) {
    const row = headerRow + 2 + i;
    const filled = cells.map(cellText).filter((t) => t !== '');
    const read = readLine(cells, row, profile, decimal);
    if (read === null) {
      if (filled.length > 0) headings.push(row);
      continue;
    }
    if (typeof read === 'string') {
      refused.push({ row, text: filled.slice(0, 3).join(' · ').slice(0, 120), reason: read });
      continue;
    }
    if (keys.has(read.key)) alike.push(row);
    keys.add(read.key);
    lines.push(read);
  }
  if (lines.length === 0)
    return failure(
      'list-without-lines',
      `No row of "${profile.sheet}" can be used${refused[0] ? `: row ${refused[0].row}, ${refused[0].reason}` : '.'}`,
      {
        remedy: 'Look whether the columns and the row of the headings are right.',
      },
    );
  return success({ lines, refused, alike, headings });
}

/** A row as a line; the reason if it is none, null if it is empty or a heading of its own. */
function readLine(
  cells: readonly SheetCell[],
  row: number,
  { columns, key, unit: unitOfAll }: ListProfile,
  decimal: DecimalSign,
): ListLine | string | null {
  const read = (column: ListColumn) => (columns[column] === undefined ? '' : cellText(cells[columns[column]]));
  const [code, description, typed, priceText] = [read('code'), read('description'), read('quantity'), read('price')];
  if (typed === '' && read('unit') === '' && priceText === '') return null;
  if (code === '' && description === '') return 'It has neither a code nor a description.';
  if (typed === '') return 'It has no quantity.';
  const quantity = toFigure(cells[columns.quantity], decimal);
  if (Number.isNaN(quantity)) return `"${typed}" is no figure.`;
  if (quantity < 0) return 'Its quantity is less than nothing.';
  if (quantity > LARGEST) return `${typed} is more than any building has.`;
  const word = read('unit') || unitOfAll || '';
  if (word === '') return 'It has no unit.';
  const unit = readUnitWord(word);
  if (!unit.ok) return unit.problem.message;
  if (quantityName(unit.value) === null) return `Nothing is counted in ${unit.value.symbol} here.`;
  const price = priceText === '' ? null : toPrice(cells[columns.price!], decimal);
  if (priceText !== '' && price === null) return `"${priceText}" is no price.`;
  return {
    row,
    key: key === 'row' ? `row ${row}` : codeKeyOf(key === 'code' ? code || description : description || code),
    code: code || null,
    description: description || code,
    quantity,
    unit: unit.value,
    group: read('group') || null,
    storey: read('storey') || null,
    price,
  };
}

function toFigure(cell: SheetCell | undefined, decimal: DecimalSign): number {
  if (typeof cell === 'number') return cell;
  const text = readPrice(cellText(cell), decimal);
  return text === null ? Number.NaN : Number(text);
}

const codeKeyOf = (text: string) => foldText(codeKey(text));

function toPrice(cell: SheetCell | undefined, decimal: DecimalSign): string | null {
  const text = typeof cell === 'number' ? String(Number(cell.toFixed(8))) : readPrice(cellText(cell), decimal);
  return text !== null && parseRate(text).ok && !text.startsWith('-') ? text : null;
}

const NAMES: Readonly<Record<string, string>> = {
  each: 'Count', mass: 'Weight', hour: 'Hours', bag: 'Bags', roll: 'Rolls', sheet: 'Sheets', set: 'Sets', load: 'Loads', coat: 'Coats', day: 'Days', week: 'Weeks', month: 'Months',
}; // biome-ignore format: a name for each

/** Name under which a figure of a unit is a quantity of an element; null for a unit that nothing is counted in. @example Length for m */
export function quantityName({ dimension }: Pick<Unit, 'dimension'>): string | null {
  const parts = Object.entries(dimension);
  if (parts.length !== 1) return null;
  const [name, power] = parts[0]!;
  if (name === 'length') return power === 1 ? 'Length' : power === 2 ? 'NetArea' : power === 3 ? 'NetVolume' : null;
  return power === 1 ? (NAMES[name] ?? null) : null;
}
