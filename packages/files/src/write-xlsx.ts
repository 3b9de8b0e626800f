import type { ReportTable } from '@tally/core';
import type ExcelJS from 'exceljs';

/** A sheet to be written. */
export interface XlsxSheet extends ReportTable {
  readonly name: string;
  /** Depth of each row in the outline; 0 for all if absent. */
  readonly levels?: readonly number[];
  /** Formulas instead of values: what a spreadsheet works out, with the value it has now. `row` and `column` count from 0. */
  readonly formulas?: readonly {
    readonly row: number;
    readonly column: number;
    readonly formula: string;
    readonly result: number;
  }[];
  /** Number formats by column. */
  readonly formats?: readonly (string | null)[];
  /** Rows set in bold. */
  readonly bold?: readonly number[];
}

/** Longest name of a sheet, and signs it may not have. */
const NAME = { most: 31, refused: /[[\]*?:\\/]/g };

/**
 * Writes tables as the sheets of an XLSX file. Texts are written as texts: none is ever taken for a formula.
 * The first row holds the headings and stays in view.
 */
export async function writeXlsx(sheets: readonly XlsxSheet[]): Promise<Uint8Array> {
  const { default: Excel } = await import('exceljs');
  const workbook = new Excel.Workbook();
  for (const sheet of sheets) {
    const worksheet = workbook.addWorksheet(nameSheet(sheet.name), {
      views: [{ state: 'frozen', ySplit: 1 }],
      properties: { outlineLevelRow: Math.max(0, ...(sheet.levels ?? [])) } as Partial<ExcelJS.WorksheetProperties>,
    });
    worksheet.addRow([...sheet.columns]).font = { bold: true };
    for (const [i, cells] of sheet.rows.entries()) {
      const row = worksheet.addRow([...cells]);
      const level = sheet.levels?.[i] ?? 0;
      if (level > 0) row.outlineLevel = level;
    }
    for (const at of sheet.bold ?? []) worksheet.getRow(at + 2).font = { bold: true };
    for (const { row, column, formula, result } of sheet.formulas ?? [])
      worksheet.getCell(row + 2, column + 1).value = { formula, result };
    for (const [i, heading] of sheet.columns.entries()) {
      const column = worksheet.getColumn(i + 1);
      const format = sheet.formats?.[i];
      if (format) column.numFmt = format;
      const widest = sheet.rows.reduce((w, r) => Math.max(w, String(r[i] ?? '').length), heading.length);
      column.width = Math.min(60, Math.max(8, widest + 2));
    }
  }
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}

/** The name of a sheet as spreadsheets take it: some signs are refused, a quotation mark at its ends too. @example "'A/B'" -> 'A B' */
function nameSheet(name: string): string {
  const plain = name
    .replace(NAME.refused, ' ')
    .slice(0, NAME.most)
    .replace(/^[\s']+|[\s']+$/g, '');
  return plain === '' || /^history$/i.test(plain) ? 'Table' : plain;
}
