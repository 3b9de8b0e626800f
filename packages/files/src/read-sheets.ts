import { readFileSync, statSync } from 'node:fs';
import { failure, type Result, type Sheet, type SheetCell, success } from '@tally/core';
import type ExcelJS from 'exceljs';
import iconv from 'iconv-lite';
import Papa from 'papaparse';
import { checkZip } from './check-zip.ts';

/** Most rows of a sheet that are read. */
export const MOST_ROWS = 250_000;
const MOST_COLUMNS = 100;
/** First bytes of the spreadsheet format of before 2007. */
const OLD_FORMAT = [0xd0, 0xcf, 0x11, 0xe0];
const LARGEST_FILE = 150 * 1024 ** 2;

/**
 * Reads the sheets of an XLSX or CSV file; formulas by their last value. What a file is is told by its content, not by its name.
 * Errors: `sheet-empty`, `sheet-too-large`, `sheet-too-long`, `sheet-damaged`, `sheet-old-format`.
 */
export async function readSheets(path: string): Promise<Result<Sheet[]>> {
  const { size } = statSync(path);
  if (size === 0)
    return failure('sheet-empty', 'The file is empty.', { remedy: 'Save the sheet again and check its size.' });
  if (size > LARGEST_FILE)
    return failure('sheet-too-large', `The file has ${Math.round(size / 1024 ** 2)} MB; at most 150 MB are read.`, {
      remedy: 'Save only the sheet with the prices.',
    });
  const bytes = readFileSync(path);
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const checked = await checkZip(bytes);
    return checked.ok ? readXlsx(path) : checked;
  }
  if (OLD_FORMAT.every((b, i) => bytes[i] === b))
    return failure('sheet-old-format', 'This is an old spreadsheet file (.xls).', {
      remedy: 'Save it as .xlsx or .csv.',
    });
  return readCsv(bytes);
}

function tooLong(name: string): Result<never> {
  return failure('sheet-too-long', `${name} has more than ${MOST_ROWS} rows.`, {
    remedy: 'Save only the rows with prices.',
  });
}

/** Text of a file in UTF-16 where it says or shows so, in UTF-8, else in the code page of western Europe with all its signs. */
function decode(bytes: Buffer): string {
  const wide = findWide(bytes);
  if (wide) return iconv.decode(bytes, wide);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return iconv.decode(bytes, 'windows-1252');
  }
}

/** Whether a text is in UTF-16: by its byte order mark, else by every second byte of its beginning being 0. */
function findWide(bytes: Buffer): 'utf-16le' | 'utf-16be' | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const head = bytes.subarray(0, 64);
  if (head.length < 8 || bytes.length % 2 !== 0) return null;
  const zeros = [0, 1].map((from) => head.filter((b, i) => i % 2 === from && b === 0).length * 2);
  if (zeros[1]! >= head.length * 0.8 && zeros[0] === 0) return 'utf-16le';
  return zeros[0]! >= head.length * 0.8 && zeros[1] === 0 ? 'utf-16be' : null;
}

function readCsv(bytes: Buffer): Result<Sheet[]> {
  const text = decode(bytes);
  if (text.includes('\0'))
    return failure('sheet-damaged', 'The file is neither a spreadsheet nor a text.', {
      remedy: 'Choose an .xlsx or .csv file.',
    });
  const { data } = Papa.parse<string[]>(text, { delimiter: findDelimiter(text), preview: MOST_ROWS + 1 });
  if (data.length > MOST_ROWS) return tooLong('The file');
  // What our own export marks as a text is the text without the mark.
  const rows = data.map((row) =>
    row.slice(0, MOST_COLUMNS).map((c) => (c === '' ? null : c.replace(/^'(?=[=+\-@\t\r])/, ''))),
  );
  return success([{ name: 'CSV', rows }]);
}

/** The sign between cells: one that at least half of the first lines have outside of quotation marks, else the comma. */
function findDelimiter(text: string): string {
  const lines = text
    .slice(0, 20_000)
    .replace(/"[^"]*"/g, '')
    .split(/\r?\n/)
    .filter((line) => line.trim() !== '')
    .slice(0, 50);
  const isUsual = (sign: string) => lines.filter((line) => line.includes(sign)).length * 2 >= Math.max(1, lines.length);
  return [';', '\t', '|'].find(isUsual) ?? ',';
}

async function readXlsx(path: string): Promise<Result<Sheet[]>> {
  const sheets: Sheet[] = [];
  // It takes as long to load as everything else together: only where a spreadsheet is read.
  const { default: Excel } = await import('exceljs');
  try {
    const reader = new Excel.stream.xlsx.WorkbookReader(path, {
      worksheets: 'emit',
      sharedStrings: 'cache',
      hyperlinks: 'ignore',
      styles: 'cache',
      entries: 'ignore',
    });
    for await (const worksheet of reader) {
      const rows: SheetCell[][] = [];
      const { name = `Sheet ${sheets.length + 1}`, state } = worksheet as unknown as { name?: string; state?: string };
      // What its author has hidden is not meant to be taken.
      if (state === 'hidden' || state === 'veryHidden') {
        for await (const _ of worksheet);
        continue;
      }
      for await (const row of worksheet) {
        if (row.number > MOST_ROWS) return tooLong(name);
        // Rows that the file leaves out are empty ones.
        while (rows.length < row.number - 1) rows.push([]);
        const cells: SheetCell[] = [];
        const last = Math.min(row.cellCount, MOST_COLUMNS);
        for (let c = 1; c <= last; c++) cells.push(toCell(row.getCell(c).value));
        rows.push(cells);
      }
      sheets.push({ name, rows });
    }
  } catch (error) {
    return failure('sheet-damaged', `The spreadsheet cannot be read: ${(error as Error).message}.`, {
      remedy: 'Open it in a spreadsheet program and save it again.',
    });
  }
  return sheets.length > 0
    ? success(sheets)
    : failure('sheet-damaged', 'The file has no sheets, or hidden ones only.', {
        remedy: 'Open it in a spreadsheet program, show the sheet with the prices and save it again.',
      });
}

function toCell(value: ExcelJS.CellValue): SheetCell {
  if (value === null || value === undefined) return null;
  if (typeof value !== 'object') return value;
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if ('richText' in value) return value.richText.map((part) => part.text).join('');
  if ('error' in value) return value.error;
  if ('text' in value) return toCell(value.text as ExcelJS.CellValue);
  if ('result' in value) return toCell(value.result as ExcelJS.CellValue);
  return null;
}
