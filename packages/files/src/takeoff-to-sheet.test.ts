import ExcelJS from 'exceljs';
import { columnLetters, writeSum } from './outline-sums.ts';
import { takeoffToSheet } from './takeoff-to-sheet.ts';
import { writeXlsx } from './write-xlsx.ts';

const table = {
  name: 'Walls',
  columns: ['Name', 'Area m2', 'Height m'],
  rows: [
    ['Ground', 30.5, null],
    ['Outer', 20.5, null],
    ['=w1', 12, 2.5],
    ['w2', 8.5, 2.5],
    ['Inner', 10, null],
    ['w3', 10, 2.5],
    ['w4', null, 2.4],
    ['Upper', null, null],
    ['w5', null, 3],
    ['Total', 30.5, null],
  ],
  levels: [0, 1, 2, 2, 1, 2, 2, 0, 1, 0],
  heads: [true, true, false, false, true, false, false, true, false, false],
  sums: [1],
};

describe('a takeoff table as a sheet', () => {
  it('sums what is right below each group, and the groups in the total; what is unknown is not named', () => {
    expect(takeoffToSheet(table).formulas).toEqual([
      { row: 0, column: 1, formula: 'SUM(B3,B6)', result: 30.5 },
      { row: 1, column: 1, formula: 'SUM(B4:B5)', result: 20.5 },
      { row: 4, column: 1, formula: 'SUM(B7)', result: 10 },
      { row: 9, column: 1, formula: 'SUM(B2)', result: 30.5 },
    ]);
  });
  it('is written with its outline; texts are no formulas', async () => {
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load((await writeXlsx([takeoffToSheet(table)])).buffer as ArrayBuffer);
    const sheet = workbook.getWorksheet('Walls')!;
    expect(sheet.getCell('A4').value).toBe('=w1');
    expect(sheet.getCell('B2').value).toEqual({ formula: 'SUM(B3,B6)', result: 30.5 });
    expect(sheet.getRow(4).outlineLevel).toBe(2);
    expect(sheet.getRow(2).font?.bold).toBe(true);
    expect(sheet.getCell('C4').value).toBe(2.5);
  });
  it('without groups has a total only', () => {
    const flat = { ...table, rows: [['a', 1, 2], ['b', 2, 2], ['Total', 3, null]], levels: [0, 0, 0], heads: [false, false, false] }; // biome-ignore format: short
    expect(takeoffToSheet(flat).formulas).toEqual([{ row: 2, column: 1, formula: 'SUM(B2:B3)', result: 3 }]);
  });
});

describe('cells of a sheet', () => {
  it.each([
    [0, 'A'],
    [25, 'Z'],
    [26, 'AA'],
    [701, 'ZZ'],
    [702, 'AAA'],
  ])('column %d is %s', (n, letters) => expect(columnLetters(n)).toBe(letters));
  it('sums of many parts stay within what spreadsheets take', () => {
    const rows = Array.from({ length: 450 }, (_, i) => i * 2);
    const formula = writeSum(1, rows);
    expect(formula.split('+').map((sum) => sum.split(',').length)).toEqual([200, 200, 50]);
    expect(formula).toMatch(/^SUM\(B2,B4,/);
  });
});
