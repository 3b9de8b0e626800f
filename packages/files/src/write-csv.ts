import type { ReportTable } from '@tally/core';
import Papa from 'papaparse';

/** Signs that make a spreadsheet take a text for a formula. */
const ACTIVE = /^[=+\-@\t\r]/;

/** A figure without an exponent, which few readers know: 0.00000005, not 5e-8. */
const writeFigure = (value: number): number | string =>
  /e-/.test(String(value)) ? value.toFixed(12).replace(/\.?0+$/, '') : value;

/**
 * Writes a table as CSV (RFC 4180, comma, UTF-8 with byte order mark so that spreadsheets read accents). Texts that a
 * spreadsheet would run as a formula get an apostrophe in front; figures are left as they are.
 */
export function writeCsv(table: ReportTable): string {
  const cell = (value: string | number | null) =>
    typeof value === 'string' && ACTIVE.test(value)
      ? `'${value}`
      : typeof value === 'number'
        ? writeFigure(value)
        : value;
  const data = table.rows.map((row) => row.map(cell));
  // Texts with signs that others separate cells by are quoted, so that no reader takes them for separators.
  const quotes = (value: unknown) => typeof value === 'string' && /[;|\t]/.test(value);
  return `\ufeff${Papa.unparse({ fields: [...table.columns], data }, { newline: '\r\n', quotes })}\r\n`;
}
