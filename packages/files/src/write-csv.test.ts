import { writeCsv } from './write-csv.ts';

describe('writeCsv', () => {
  it('quotes what needs it and keeps figures as figures', () => {
    expect(
      writeCsv({
        columns: ['Item', 'Amount'],
        rows: [
          ['Brick, red "old"', -12.5],
          [null, 3],
        ],
      }),
    ).toBe('\ufeffItem,Amount\r\n"Brick, red ""old""",-12.5\r\n,3\r\n');
  });
  it.each(['=1+1', '+1', '-x', '@sum', '\tx'])('%s is no formula any more', (text) => {
    expect(
      writeCsv({ columns: ['A'], rows: [[text]] })
        .split('\r\n')[1]!
        .replace(/^"|"$/g, ''),
    ).toBe(`'${text}`);
  });
});
