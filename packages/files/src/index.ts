export { checkZip } from './check-zip.ts';
export { MOST_ROWS, readSheets } from './read-sheets.ts';
export { writeCsv } from './write-csv.ts';
export { writeXlsx, type XlsxSheet } from './write-xlsx.ts';
