import { isAt } from '../units/at-limit.ts';
import { ByCode, codeKey } from '../units/code-key.ts';
import type { CostItem } from './cost-item.ts';
import type { NamedValue } from './named-value.ts';
import { parseRate } from './parse-rate.ts';
import { type DecimalSign, findDecimalSign, isSignSure, readPrice } from './price-text.ts';
import { cellHeading, cellText, HEAD_ROWS, type Sheet, type SheetCell } from './sheet.ts';
import { type PricePlace, placePrice, readLengthCode, scalePrice } from './sheet-price-place.ts';
import { readUnitWord } from './unit-words.ts';

/** What a column of a price sheet can hold. */
export const SHEET_COLUMNS = ['code', 'rate', 'description', 'unit'] as const;
export type SheetColumn = (typeof SHEET_COLUMNS)[number];

/** Where the prices stand in a sheet: chosen once and found again by the headings. Rows and columns are counted from 0. */
export interface SheetProfile {
  readonly sheet: string;
  readonly headerRow: number;
  readonly columns: Readonly<{ code: number; rate: number } & Partial<Record<SheetColumn, number>>>;
  /** Headings of the chosen columns, to know the sheet again. */
  readonly headings: Readonly<Partial<Record<SheetColumn, string>>>;
  /** Sign before the decimals, if it was said; else it is judged over the column. */
  readonly decimal?: DecimalSign;
  /** Content of the file whose prices were taken over last. */
  readonly fileHash?: string;
}

/** A price as the sheet has it. `row` is counted from 1, as spreadsheets do. */
export interface PriceRow {
  readonly row: number;
  readonly code: string;
  readonly rate: string;
  readonly description: string | null;
  readonly unit: string | null;
}

export interface SkippedRow {
  readonly row: number;
  readonly text: string;
  readonly reason: string;
}

/** Words that head the columns, folded. */
const HEADINGS: Readonly<Record<SheetColumn, RegExp>> = {
  code: /^(itemcode|code|item|itemno|no|nr|number|pos|position|article|articleno|artno|ref|reference|id|artikel|artikelnr|kode)$/,
  rate: /(unitprice|price|rate|netprice|cost|preis|pris|tarif)/,
  description: /^(description|text|name|designation|itemdescription|product|material|bezeichnung|beskrivelse)$/,
  unit: /^(unit|uom|per|einheit|enhet|me|qu)$/,
};
/** Headings of prices that do not hold any more, and of those that do. */
const FORMER = /^(old|previous|former|last|prior|alter|alt|gammel|tidligere)|(old|previous|lastyear|alt)$/;
const COMING = /^(new|current|neu|aktuell|ny)/;

/** The rows in which a sheet's headings are likely, with the columns they name; null if no row names a code and a price. */
export function guessProfile(sheets: readonly Sheet[]): SheetProfile | null {
  for (const { name, rows } of sheets)
    for (let r = 0; r < Math.min(rows.length, HEAD_ROWS); r++) {
      const columns: Partial<Record<SheetColumn, number>> = {};
      for (const column of SHEET_COLUMNS) {
        const fits = rows[r]!.flatMap((c, i) => (HEADINGS[column].test(cellHeading(c)) ? [i] : []));
        // Beside the new price lists show the old one.
        const current = column === 'rate' ? fits.filter((i) => !FORMER.test(cellHeading(rows[r]![i]))) : fits;
        const at = current.find((i) => column === 'rate' && COMING.test(cellHeading(rows[r]![i]))) ?? current[0] ?? -1;
        if (at >= 0 && !Object.values(columns).includes(at)) columns[column] = at;
      }
      const { code, rate } = columns;
      if (code !== undefined && rate !== undefined) return makeProfile(name, r, { ...columns, code, rate }, rows[r]!);
    }
  return null;
}

/** A profile for chosen columns. */
export function makeProfile(
  sheet: string,
  headerRow: number,
  columns: SheetProfile['columns'],
  header: readonly SheetCell[],
): SheetProfile {
  const headings: Partial<Record<SheetColumn, string>> = {};
  for (const column of SHEET_COLUMNS) {
    const at = columns[column];
    if (at !== undefined) headings[column] = cellText(header[at]);
  }
  return { sheet, headerRow, columns, headings };
}

/** The profile among known ones whose headings the file has, moved to where they stand now; null if none fits. */
export function findProfile(known: readonly SheetProfile[], sheets: readonly Sheet[]): SheetProfile | null {
  for (const profile of known)
    for (const { name, rows } of sheets)
      for (let r = 0; r < Math.min(rows.length, HEAD_ROWS); r++) {
        const columns: Partial<Record<SheetColumn, number>> = {};
        for (const [column, words] of Object.entries(profile.headings) as [SheetColumn, string][]) {
          const at = rows[r]!.findIndex((c) => cellHeading(c) === cellHeading(words));
          if (at >= 0) columns[column] = at;
        }
        const { code, rate } = columns;
        if (
          code !== undefined &&
          rate !== undefined &&
          Object.keys(columns).length === Object.keys(profile.headings).length
        )
          return {
            ...makeProfile(name, r, { ...columns, code, rate }, rows[r]!),
            ...(profile.decimal && { decimal: profile.decimal }),
          };
      }
  return null;
}

/** Prices of a sheet below its headings; what cannot be used is told with the reason. Empty rows are passed over. */
export function readPriceRows(
  sheet: Sheet,
  profile: SheetProfile,
): { rows: PriceRow[]; skipped: SkippedRow[]; decimal: DecimalSign; isDecimalSure: boolean } {
  const { columns, headerRow } = profile;
  const body = sheet.rows.slice(headerRow + 1);
  const texts = body.map((r) => r[columns.rate]).filter((c) => typeof c === 'string');
  const decimal = profile.decimal ?? findDecimalSign(texts);
  const rows: PriceRow[] = [];
  const skipped: SkippedRow[] = [];
  const seen = new Map<string, number>();
  for (const [i, cells] of body.entries()) {
    const row = headerRow + 2 + i;
    const filled = cells.map(cellText).filter((t) => t !== '');
    if (filled.length === 0) continue;
    const skip = (reason: string) =>
      void skipped.push({ row, text: filled.slice(0, 3).join(' · ').slice(0, 120), reason });
    const code = cellText(cells[columns.code]);
    const price = cells[columns.rate];
    if (code === '') {
      skip('It has no code.');
      continue;
    }
    const rate = toRate(price, decimal);
    const before = seen.get(code.normalize('NFC'));
    if (cellText(price) === '') skip('It has no price.');
    else if (rate === null) skip(`"${cellText(price)}" is no price.`);
    else if (rate.startsWith('-')) skip('Its price is less than nothing.');
    else if (before !== undefined) skip(`The code stands in row ${before} already.`);
    else {
      seen.set(code.normalize('NFC'), row);
      const read = (column: 'description' | 'unit') =>
        columns[column] === undefined ? null : cellText(cells[columns[column]]) || null;
      const unit = read('unit');
      const { per, word } = readPer(unit);
      rows.push({
        row,
        code,
        rate: per === 1 ? rate : scalePrice(rate, 1 / per),
        description: read('description'),
        unit: word,
      });
    }
  }
  return { rows, skipped, decimal, isDecimalSure: profile.decimal !== undefined || isSignSure(texts) };
}

const PER = /^(?:per|pr\.?|je|\/)?\s*(\d{1,6})\s*(.*)$/iu;

/** How many of its unit a price is for. @example readPer('per 100 m') // { per: 100, word: 'm' } */
function readPer(unit: string | null): { readonly per: number; readonly word: string | null } {
  const found = unit === null ? null : PER.exec(unit);
  const per = Number(found?.[1] ?? 1);
  return found && per > 0 ? { per, word: found[2]!.trim() || null } : { per: 1, word: unit };
}

/** Decimals that rates are kept with at most. */
const RATE_DIGITS = 8;

function toRate(cell: SheetCell | undefined, decimal: DecimalSign): string | null {
  if (typeof cell === 'number') {
    if (!Number.isFinite(cell) || Math.abs(cell) >= 1e12) return null;
    return cell.toFixed(RATE_DIGITS).replace(/\.?0+$/, '');
  }
  if (typeof cell !== 'string') return null;
  const rate = readPrice(cell, decimal);
  return rate !== null && parseRate(rate).ok ? rate : null;
}

/** A price of the book that the sheet has otherwise. */
export interface ChangedPrice {
  readonly kind: 'item' | 'value';
  /** Tells it from others: the code, with the length behind it where each has a price. */
  readonly key: string;
  readonly code: string;
  readonly description: string;
  /** What it is for: a unit, `pack of 25 kg`, `length of 4.2 m`. */
  readonly unit: string;
  /** What of the item it is; null for a named value. */
  readonly place: PricePlace | null;
  readonly from: string | null;
  readonly to: string;
  /** Change in per cent; null where there was no price, or none above 0. */
  readonly percent: number | null;
}

export interface PriceComparison {
  readonly changed: readonly ChangedPrice[];
  /** Rows whose codes the book does not have. `unit` is one of ours, or null if it cannot be read. */
  readonly fresh: readonly (PriceRow & { readonly unit: string | null })[];
  /** Items that came from this sheet before and are in it no more. */
  readonly vanished: readonly CostItem[];
  readonly skipped: readonly SkippedRow[];
  readonly unchanged: number;
  /** Sign before the decimals, and whether the sheet told it. */
  readonly decimal: DecimalSign;
  readonly isDecimalSure: boolean;
}

/** True where a formula of the book would give way to a price: nobody takes that over without a look. */
export const replacesFormula = ({ place, from }: ChangedPrice): boolean =>
  place === null ? !isPlainFigure(from) : place.at === 'formula';

const isPlainFigure = (text: string | null): boolean => text === null || /^\s*-?\d+(\.\d+)?\s*$/.test(text);

/**
 * Things of the book by the codes of a sheet: as written first; in another case only where neither the sheet nor the book has a second
 * one like it. Accents, dashes and blanks tell codes apart.
 */
function matchCodes<T>(
  things: readonly T[],
  codeOf: (thing: T) => string,
  rows: readonly PriceRow[],
): (code: string) => T | undefined {
  const known = new ByCode(things.map((thing) => ({ code: codeOf(thing).normalize('NFC'), thing })));
  const inSheet = new Map<string, number>();
  for (const { code } of rows) inSheet.set(codeKey(code), (inSheet.get(codeKey(code)) ?? 0) + 1);
  return (code) => {
    const written = code.normalize('NFC');
    const found = known.get(written);
    return found && (found.code === written || inSheet.get(codeKey(code)) === 1) ? found.thing : undefined;
  };
}

const readLast = new WeakMap<Sheet, { readonly by: string; readonly read: ReturnType<typeof readPriceRows> }>();

/** The rows of a sheet; one that is compared with many books by the same columns is read once. */
function readPriceRowsOnce(sheet: Sheet, profile: SheetProfile): ReturnType<typeof readPriceRows> {
  const by = JSON.stringify(profile);
  const known = readLast.get(sheet);
  if (known?.by === by) return known.read;
  const read = readPriceRows(sheet, profile);
  readLast.set(sheet, { by, read });
  return read;
}

/**
 * What a sheet changes in a book: codes match items, names match named values, as written or else in another case.
 * @param source name that items from this sheet carry as their source
 */
export function comparePrices(
  sheet: Sheet,
  profile: SheetProfile,
  book: { readonly items: readonly CostItem[]; readonly values: readonly NamedValue[] },
  source: string,
): PriceComparison {
  const read = readPriceRowsOnce(sheet, profile);
  const findItem = matchCodes(book.items, (i) => i.code, read.rows);
  const findValue = matchCodes(book.values, (v) => v.name, read.rows);
  const taken = new Set(book.items.map((i) => codeKey(i.code)));
  const changed: ChangedPrice[] = [];
  const fresh: PriceRow[] = [];
  const skipped = [...read.skipped];
  const met = new Set<string>();
  let unchanged = 0;
  const findByLength = matchLengths(book.items, findItem);
  for (const row of read.rows) {
    const whole = findItem(row.code);
    const cut = whole ? null : findByLength(row.code);
    const item = whole ?? cut?.item;
    const value = item ? undefined : findValue(row.code);
    const skip = (reason: string) => void skipped.push({ row: row.row, text: `${row.code} · ${row.rate}`, reason });
    if (!item && !value && taken.has(codeKey(row.code))) {
      skip('It differs from another code in nothing but capital letters.');
      continue;
    }
    if (!item && !value) {
      taken.add(codeKey(row.code));
      const unit = row.unit === null ? null : readUnitWord(row.unit);
      fresh.push({ ...row, unit: unit?.ok ? unit.value.symbol : null });
      continue;
    }
    if (item) met.add(item.code);
    const placed = item
      ? placePrice(item, row.rate, row.unit, cut?.length ?? null)
      : [{ place: null, per: value!.unit, from: value!.value, to: row.rate }];
    if (typeof placed === 'string') {
      skip(placed);
      continue;
    }
    let isSame = true;
    for (const { place, per, from, to } of placed) {
      if (from !== null && isPlainFigure(from) && Number(from) === Number(to)) continue;
      isSame = false;
      const code = item?.code ?? value!.name;
      changed.push({
        kind: item ? 'item' : 'value',
        key: place?.at === 'length' ? `${code} ${place.length}` : code,
        code,
        description: item?.description ?? value!.note ?? '',
        unit: per,
        place,
        from,
        to,
        percent: from !== null && Number(from) > 0 ? (Number(to) / Number(from) - 1) * 100 : null,
      });
    }
    if (isSame) unchanged++;
  }
  const vanished = book.items.filter((i) => i.source === source && !met.has(i.code));
  const { decimal, isDecimalSure } = read;
  return { changed, fresh, vanished, skipped, unchanged, decimal, isDecimalSure };
}

/** The item that is sold in a length, by a code with that length behind it. */
function matchLengths(items: readonly CostItem[], findItem: (code: string) => CostItem | undefined) {
  const units = new Set(items.flatMap((i) => (i.soldAs?.lengthPrices ? [i.unit] : [])));
  return (text: string): { readonly item: CostItem; readonly length: number } | null => {
    for (const unit of units) {
      const read = readLengthCode(text, unit);
      const item = read ? findItem(read.code) : undefined;
      if (item?.unit === unit && item.soldAs?.lengthPrices && item.soldAs.lengths?.some((l) => isAt(l, read!.length)))
        return { item, length: read!.length };
    }
    return null;
  };
}
