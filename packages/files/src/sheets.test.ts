import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import ExcelJS from 'exceljs';
import { MOST_ROWS, readSheets } from './read-sheets.ts';
import { writeCsv } from './write-csv.ts';
import { writeXlsx } from './write-xlsx.ts';

const folder = mkdtempSync(join(tmpdir(), 'tally-sheets-'));
const file = (name: string, content: string | Uint8Array) => {
  writeFileSync(join(folder, name), content);
  return join(folder, name);
};

describe('reading sheets', () => {
  it('reads what a spreadsheet holds: texts, figures, formulas by their value, dates, empty and merged cells', async () => {
    const workbook = new ExcelJS.Workbook();
    const sheet = workbook.addWorksheet('Prices 2026');
    sheet.addRow(['Timber yard', null, null]);
    sheet.mergeCells('A1:C1');
    sheet.getRow(3).values = ['Code', 'Text', 'Price'];
    sheet.getRow(4).values = ['A-1', { richText: [{ text: 'Bat' }, { text: 'ten' }] }, { formula: '2*3.5', result: 7 }];
    sheet.getRow(5).values = [
      'A-2',
      new Date('2026-03-02T00:00:00Z'),
      { formula: '1/0', result: { error: '#DIV/0!' } as never },
    ];
    workbook.addWorksheet('Other');
    const path = file('prices.xlsx', new Uint8Array(await workbook.xlsx.writeBuffer()));
    const read = await readSheets(path);
    expect(read).toMatchObject({ ok: true });
    if (!read.ok) return;
    expect(read.value.map((s) => s.name)).toEqual(['Prices 2026', 'Other']);
    const { rows } = read.value[0]!;
    expect(rows[0]![0]).toBe('Timber yard');
    expect(rows[1]).toEqual([]);
    expect(rows.slice(2)).toEqual([
      ['Code', 'Text', 'Price'],
      ['A-1', 'Batten', 7],
      ['A-2', '2026-03-02', null],
    ]);
  });
  it.each([
    ['semicolons', 'Code;Price\nA-1;"1.234,50"\n', [['Code', 'Price'], ['A-1', '1.234,50'], [null]]],
    ['a byte order mark and CRLF', '\ufeffCode,Price\r\nA-1,2\r\n', [['Code', 'Price'], ['A-1', '2'], [null]]],
    [
      'a neutralised text',
      "Code,Price\n'-A,2",
      [
        ['Code', 'Price'],
        ['-A', '2'],
      ],
    ],
  ])('reads CSV with %s', async (_, text, rows) => {
    expect(await readSheets(file('p.csv', text))).toEqual({ ok: true, value: [{ name: 'CSV', rows }] });
  });
  it('reads the code page of western Europe', async () => {
    expect(await readSheets(file('w.csv', Uint8Array.from([67, 10, 228])))).toMatchObject({
      value: [{ rows: [['C'], ['ä']] }],
    });
  });
  it.each([
    [
      'the signs of Windows',
      Buffer.concat([Buffer.from('Code;Price\nA;7,15 '), Buffer.from([0x80, 0x20, 0x96, 0x0a])]),
    ],
    ['UTF-16 with its mark', Buffer.from('\ufeffCode;Price\nA;7,15 € –\n', 'utf16le')],
    ['UTF-16 without', Buffer.from('Code;Price\nA;7,15 € –\n', 'utf16le')],
    ['UTF-16 the other way round', Buffer.from('\ufeffCode;Price\nA;7,15 € –\n', 'utf16le').swap16()],
    ['UTF-8', Buffer.from('Code;Price\nA;7,15 € –\n')],
  ])('reads %s', async (_, bytes) =>
    expect(await readSheets(file('signs.csv', bytes))).toMatchObject({
      value: [{ rows: [['Code', 'Price'], ['A', '7,15 € –'], [null]] }],
    }),
  );
  it('passes over sheets that are hidden', async () => {
    const workbook = new ExcelJS.Workbook();
    workbook.addWorksheet('Old', { state: 'hidden' }).addRows([['Code', 'Price'], ['A', 1]]); // biome-ignore format: two rows
    workbook.addWorksheet('Prices').addRows([['Code', 'Price'], ['A', 2]]); // biome-ignore format: two rows
    const read = await readSheets(file('hidden.xlsx', new Uint8Array(await workbook.xlsx.writeBuffer())));
    expect(read).toMatchObject({
      value: [
        {
          name: 'Prices',
          rows: [
            ['Code', 'Price'],
            ['A', 2],
          ],
        },
      ],
    });
    expect(read.ok && read.value).toHaveLength(1);
  });
  it('brings back what it wrote: semicolons in every text, rates of eight decimals', async () => {
    const rows = [
      ['M-1', 'Oak; planed | oiled', 0.12345678],
      ['M-2', 'Oak; rough', 0.00000005],
      ['M-3', '=Oak; "old"', 1250],
    ];
    const text = writeCsv({ columns: ['Code', 'Description; long', 'Rate'], rows });
    const read = await readSheets(file('back.csv', text));
    expect(read.ok && read.value[0]!.rows.slice(1, 4)).toEqual([
      ['M-1', 'Oak; planed | oiled', '0.12345678'],
      ['M-2', 'Oak; rough', '0.00000005'],
      ['M-3', '=Oak; "old"', '1250'],
    ]);
  });
  it.each([
    ['an empty file', '', 'sheet-empty'],
    ['a broken archive', 'PK\u0003\u0004nonsense', 'sheet-damaged'],
    ['an old file', Uint8Array.from([0xd0, 0xcf, 0x11, 0xe0, 0, 0]), 'sheet-old-format'],
    ['a picture', Uint8Array.from([137, 80, 78, 71, 0, 0, 1, 0]), 'sheet-damaged'],
    ['too many rows', 'a\n'.repeat(MOST_ROWS + 5), 'sheet-too-long'],
  ])('refuses %s with what to do', async (_, content, code) => {
    expect(await readSheets(file('bad', content))).toMatchObject({
      ok: false,
      problem: { code, remedy: expect.any(String) },
    });
  });
  it.each([
    ['that says it swells beyond all measure', 64, 64],
    ['that says it is small and is not', 620, 1],
  ])('refuses an archive %s', async (_, real, said) => {
    const packed = deflateRawSync(Buffer.alloc(real * 1024 ** 2));
    const entry = Buffer.alloc(46 + 1);
    entry.writeUInt32LE(0x02014b50, 0);
    entry.writeUInt32LE(packed.length, 20);
    entry.writeUInt32LE(said * 1024 ** 2, 24);
    entry.writeUInt16LE(1, 28);
    const local = Buffer.concat([Buffer.from('PK\u0003\u0004'), Buffer.alloc(26), packed]);
    const end = Buffer.alloc(22);
    end.writeUInt32LE(0x06054b50, 0);
    end.writeUInt16LE(1, 10);
    end.writeUInt32LE(local.length, 16);
    expect(await readSheets(file('bomb.xlsx', Buffer.concat([local, entry, end])))).toMatchObject({
      ok: false,
      problem: { code: 'sheet-too-large' },
    });
  });
});

describe('writing sheets', () => {
  it('keeps texts as texts, figures as figures, sums as formulas', async () => {
    const bytes = await writeXlsx([
      {
        name: 'Plan: [all]',
        columns: ['Item', 'Amount'],
        rows: [
          ['=HYPERLINK("x")', 12.5],
          ['B', 7.5],
          ['Total', 20],
        ],
        levels: [1, 1, 0],
        formulas: [{ row: 2, column: 1, formula: 'SUM(B2:B3)', result: 20 }],
        formats: [null, '#,##0.00'],
        bold: [2],
      },
    ]);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(bytes.buffer as ArrayBuffer);
    const sheet = workbook.worksheets[0]!;
    expect(sheet.name).toBe('Plan   all');
    expect(sheet.getCell('A2').value).toBe('=HYPERLINK("x")');
    expect(sheet.getCell('A2').type).toBe(ExcelJS.ValueType.String);
    expect(sheet.getCell('B4').value).toEqual({ formula: 'SUM(B2:B3)', result: 20 });
    expect(sheet.getRow(2).outlineLevel).toBe(1);
    const read = await readSheets(file('own.xlsx', bytes));
    expect(read).toMatchObject({
      value: [
        {
          rows: [
            ['Item', 'Amount'],
            ['=HYPERLINK("x")', 12.5],
            ['B', 7.5],
            ['Total', 20],
          ],
        },
      ],
    });
  });
});

describe('the name of a sheet', () => {
  it.each(["'; drop table --", "'", '', 'A/B: C?', 'History', 'x'.repeat(80)])(
    '%j is written whatever it is',
    async (name) => {
      const bytes = await writeXlsx([{ name, columns: ['a'], rows: [[1]] }]);
      expect((await readSheets(file('named.xlsx', bytes))).ok).toBe(true);
    },
  );
});
