import { comparePrices, guessProfile } from '@tally/core';
import { readSheets } from '@tally/files';
import ExcelJS from 'exceljs';
import { measureChild } from './child-run.ts';

const [task, file] = process.argv.slice(2) as [string, string];

async function compare(): Promise<string> {
  const sheets = await readSheets(file);
  if (!sheets.ok) throw new Error(sheets.problem.message);
  const profile = guessProfile(sheets.value)!;
  const sheet = sheets.value.find((s) => s.name === profile.sheet)!;
  const items = sheet.rows.slice(1, 10_001).map((row) => ({
    code: String(row[0]),
    description: '',
    kind: 'material' as const,
    unit: 'm2',
    rate: '1.00',
  }));
  const found = comparePrices(sheet, profile, { items, values: [] }, 'Bench');
  return `${found.changed.length} changed, ${found.fresh.length} new`;
}

async function load(): Promise<string> {
  const workbook = new ExcelJS.Workbook();
  await workbook.xlsx.readFile(file);
  return `${workbook.worksheets[0]!.rowCount} rows`;
}

await measureChild(task === 'compare' ? compare : load);
