import { findDecimalSign, isSignSure, readPrice } from '../book/price-text.ts';
import type { Sheet, SheetCell } from '../book/sheet.ts';
import { readUnitWord } from '../book/unit-words.ts';
import { failure, type Result, success } from '../result/result.ts';
import { codeKey } from '../units/code-key.ts';
import { foldText } from '../units/fold-text.ts';
import type { Unit } from '../units/unit.ts';
import { cellText, type ListColumn, type ListProfile } from './list-profile.ts';

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
}

/** A quantity no list of a building has. */
const LARGEST = 1e12;

/**
 * Reads the lines of a list. Empty rows, and rows that are a heading alone, are passed over; what cannot be used is refused with its
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
  const keys = new Set<string>();
  const toFigure = (cell: SheetCell | undefined): number => {
    if (typeof cell === 'number') return cell;
    const text = readPrice(cellText(cell), decimal);
    return text === null ? Number.NaN : Number(text);
  };
  body.forEach((cells, i) => {
    const row = headerRow + 2 + i;
    const read = (column: ListColumn) => (columns[column] === undefined ? '' : cellText(cells[columns[column]]));
    const filled = cells.map(cellText).filter((t) => t !== '');
    if (filled.length === 0) return;
    const refuse = (reason: string) =>
      void refused.push({ row, text: filled.slice(0, 3).join(' · ').slice(0, 120), reason });
    const [code, description] = [read('code'), read('description')];
    const typed = read('quantity');
    if (typed === '' && read('unit') === '' && read('price') === '') return;
    if (code === '' && description === '') return refuse('It has neither a code nor a description.');
    const quantity = toFigure(cells[columns.quantity]);
    if (typed === '') return refuse('It has no quantity.');
    if (Number.isNaN(quantity)) return refuse(`"${typed}" is no figure.`);
    if (quantity < 0) return refuse('Its quantity is less than nothing.');
    if (quantity > LARGEST) return refuse(`${typed} is more than any building has.`);
    const word = read('unit') || profile.unit || '';
    if (word === '') return refuse('It has no unit.');
    const unit = readUnitWord(word);
    if (!unit.ok) return refuse(`${unit.problem.message}`);
    const name = quantityName(unit.value);
    if (name === null) return refuse(`Nothing is counted in ${unit.value.symbol} here.`);
    const priceText = read('price');
    const price = priceText === '' ? null : toPrice(cells[columns.price!], decimal);
    if (priceText !== '' && price === null) return refuse(`"${priceText}" is no price.`);
    const base =
      profile.key === 'row'
        ? `row ${row}`
        : codeKeyOf(profile.key === 'code' ? code || description : description || code);
    if (keys.has(base)) alike.push(row);
    keys.add(base);
    lines.push({
      row,
      key: base,
      code: code || null,
      description: description || code,
      quantity,
      unit: unit.value,
      group: read('group') || null,
      storey: read('storey') || null,
      price,
    });
  });
  if (lines.length === 0)
    return failure(
      'list-without-lines',
      `No row of "${profile.sheet}" can be used${refused[0] ? `: row ${refused[0].row}, ${refused[0].reason}` : '.'}`,
      {
        remedy: 'Look whether the columns and the row of the headings are right.',
      },
    );
  return success({ lines, refused, alike });
}

const codeKeyOf = (text: string) => foldText(codeKey(text));

function toPrice(cell: SheetCell | undefined, decimal: 'point' | 'comma'): string | null {
  const text = typeof cell === 'number' ? String(Number(cell.toFixed(8))) : readPrice(cellText(cell), decimal);
  return text !== null && /^\d{1,12}(\.\d{1,8})?$/.test(text) ? text : null;
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
