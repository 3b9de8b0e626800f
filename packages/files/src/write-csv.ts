import type { ReportTable } from '@tally/core';
import Papa from 'papaparse';

/** Signs that make a spreadsheet take a text for a formula. */
const ACTIVE = /^[=+\-@\t\r]/;

/**
 * Writes a table as CSV (RFC 4180, comma, UTF-8 with byte order mark so that spreadsheets read accents). Texts that a
 * spreadsheet would run as a formula get an apostrophe in front; figures are left as they are.
 */
export function writeCsv(table: ReportTable): string {
  const cell = (value: string | number | null) =>
    typeof value === 'string' && ACTIVE.test(value) ? `'${value}` : value;
  return `\ufeff${Papa.unparse({ fields: [...table.columns], data: table.rows.map((row) => row.map(cell)) }, { newline: '\r\n' })}\r\n`;
}
