export { bookToSheet } from './book-to-sheet.ts';
export { checkZip } from './check-zip.ts';
export { planToSheet } from './plan-to-sheet.ts';
export { MOST_ROWS, readSheets } from './read-sheets.ts';
export { takeoffToSheet } from './takeoff-to-sheet.ts';
export { writeCsv } from './write-csv.ts';
export { writeXlsx, type XlsxSheet } from './write-xlsx.ts';
