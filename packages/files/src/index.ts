export { writeCsv } from './write-csv.ts';
