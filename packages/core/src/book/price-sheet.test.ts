import fc from 'fast-check';
import { comparePrices, findProfile, guessProfile, readPriceRows, type Sheet, type SheetCell } from './price-sheet.ts';
import { findDecimalSign, readPrice } from './price-text.ts';

describe('prices as people write them', () => {
  it.each([
    ['12.50', 'point', '12.50'],
    ['1,234.50', 'point', '1234.50'],
    ['EUR 1 234.50', 'point', '1234.50'],
    ['$1,234,567', 'point', '1234567'],
    ['1.234,50 €', 'comma', '1234.50'],
    ["1'234,5", 'comma', '1234.5'],
    ['12,-', 'comma', '12'],
    ['kr 85', 'comma', '85'],
    ['7,15EUR', 'comma', '7.15'],
    ['EUR7.15', 'point', '7.15'],
    ['9,35-', 'comma', '-9.35'],
    ['12.345,00 €-', 'comma', '-12345.00'],
    ['12,34.5', 'point', null],
    ['1.2.3', 'comma', null],
    ['on request', 'point', null],
    ['', 'point', null],
  ] as const)('%s with a %s is %s', (text, decimal, rate) => expect(readPrice(text, decimal)).toBe(rate));
  it.each([
    [['12,50', '1.234,00'], 'comma'],
    [['12.50', '1,234.00'], 'point'],
    [['1.234', '2.500', '9,95'], 'comma'],
    [['1,234', '12.5'], 'point'],
    [['1.234.567'], 'comma'],
    [['1.234'], 'point'],
  ] as const)('of %j the decimals stand behind a %s', (texts, sign) => expect(findDecimalSign(texts)).toBe(sign));
  it('are read back whatever the thousands', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999_999 }), fc.constantFrom('point', 'comma'), (cents, sign) => {
        const [big, small] = sign === 'point' ? [',', '.'] : ['.', ','];
        const whole = String(Math.floor(cents / 100)).replace(/\B(?=(\d{3})+$)/g, big!);
        expect(Number(readPrice(`${whole}${small}${String(cents % 100).padStart(2, '0')}`, sign as 'point'))).toBe(
          cents / 100,
        );
      }),
      { seed: 7 },
    );
  });
});

const rows: SheetCell[][] = [
  ['Heron Wharf timber yard', null, null, null],
  ['Spring list', null, null, null],
  [],
  ['Item no.', 'Description', 'UoM', 'Net price €'],
  ['Timber', null, null, null],
  ['M-BATT', 'Battens 30 x 50', 'm', '1,05'],
  ['m-larch', 'Larch boards 25', 'm²', 38.5],
  ['M-REB', 'Reinforcement', 't', '1.380,00'],
  [],
  ['N-1', 'New thing', 'pcs', '12,00'],
  ['N-2', 'On request', 'm', 'ask'],
  ['M-BATT', 'Battens again', 'm', '2,00'],
  [null, 'Sum', null, '99,00'],
  ['Crane hour', 'Crane', 'h', '150,00'],
  ['N-3', 'Credit', 'm', '-5,00'],
];
const sheet: Sheet = { name: 'Prices', rows };
const item = (code: string, unit: string, rate: string | null, more = {}) =>
  ({ code, description: code, kind: 'material', unit, rate, ...more }) as const;
const book = {
  items: [
    item('M-BATT', 'm', '0.98'),
    item('M-LARCH', 'm2', '38.50'),
    item('M-REB', 'kg', '1.38'),
    item('M-OLD', 'm', '4.00', { source: 'Timber yard' }),
  ],
  values: [{ name: 'Crane hour', unit: 'EUR/h', value: '142' }],
};

describe('a price sheet', () => {
  const profile = guessProfile([{ name: 'Notes', rows: [['Prices below']] }, sheet])!;
  it('is found by its headings', () => {
    expect(profile).toMatchObject({
      sheet: 'Prices',
      headerRow: 3,
      columns: { code: 0, description: 1, unit: 2, rate: 3 },
    });
    expect(guessProfile([{ name: 'X', rows: [['a', 'b']] }])).toBeNull();
  });
  it('takes the new price where an old one stands beside it', () => {
    const columnOf = (...head: string[]) => guessProfile([{ name: 'L', rows: [head] }])?.columns.rate;
    expect(columnOf('Code', 'Old price', 'New price')).toBe(2);
    expect(columnOf('Code', 'New price', 'Old price')).toBe(1);
    expect(columnOf('Code', 'Price', 'Current rate')).toBe(2);
    expect(columnOf('Code', 'Previous price', 'Price')).toBe(2);
    expect(columnOf('Code', 'Old price')).toBeUndefined();
  });
  it('reads prices for more than one of a unit: 105.00 per 100 m are 1.05', () => {
    const list: Sheet = {
      name: 'L',
      rows: [
        ['Code', 'Unit', 'Price'],
        ['M-BATT', 'per 100 m', '105.00'],
        ['M-REB', '1000 kg', '1,380.00'],
        ['M-OLD', 'm', '4.00'],
        ['N', '1000 pcs', '1.25'],
      ],
    };
    const found = comparePrices(list, guessProfile([list])!, book, 'L');
    expect(found.changed.map((c) => [c.code, c.to])).toEqual([['M-BATT', '1.05']]);
    expect(found.fresh).toMatchObject([{ code: 'N', unit: 'each', rate: '0.00125' }]);
    // 1.38 a kilogram and 4.00 a metre are what the book has.
    expect(found.unchanged).toBe(2);
  });
  it('is known again where its columns have moved', () => {
    const moved = rows.map((r) => ['', ...r].reverse());
    expect(findProfile([profile], [{ name: 'Other', rows: moved }])).toMatchObject({
      sheet: 'Other',
      columns: { rate: 0, unit: 1, description: 2, code: 3 },
    });
    expect(findProfile([profile], [{ name: 'Other', rows: [['Code', 'Price']] }])).toBeNull();
  });
  it('gives prices below its headings and says what was passed over and why', () => {
    const read = readPriceRows(sheet, profile);
    expect(read.decimal).toBe('comma');
    expect(read.rows.map((r) => [r.row, r.code, r.rate])).toEqual([
      [6, 'M-BATT', '1.05'],
      [7, 'm-larch', '38.5'],
      [8, 'M-REB', '1380.00'],
      [10, 'N-1', '12.00'],
      [14, 'Crane hour', '150.00'],
    ]);
    expect(read.skipped.map((s) => [s.row, s.reason])).toEqual([
      [5, 'It has no price.'],
      [11, '"ask" is no price.'],
      [12, 'The code stands in row 6 already.'],
      [13, 'It has no code.'],
      [15, 'Its price is less than nothing.'],
    ]);
  });
  it('compared with the book tells what changed, is new, is gone, cannot be used', () => {
    const found = comparePrices(sheet, profile, book, 'Timber yard');
    expect(found.changed).toMatchObject([
      { kind: 'item', code: 'M-BATT', from: '0.98', to: '1.05' },
      { kind: 'value', code: 'Crane hour', from: '142', to: '150.00' },
    ]);
    expect(found.changed[0]!.percent).toBeCloseTo((1.05 / 0.98 - 1) * 100, 9);
    expect(found.unchanged).toBe(1);
    expect(found.fresh).toMatchObject([{ code: 'N-1', unit: 'each' }]);
    expect(found.vanished.map((i) => i.code)).toEqual(['M-OLD']);
    // A price per tonne on a kilogram is the classic slip.
    expect(found.skipped).toContainEqual({
      row: 8,
      text: 'M-REB · 1380.00',
      reason: 'The sheet prices it per t, the book per kg.',
    });
  });
  it('never gives one code the price of another', () => {
    const codes = ['11-1', '1-11', 'M-O1', 'M-Ö1', 'm1', 'M1', 'a 1'];
    const own = { items: ['11-1', 'M-Ö1', 'M1', 'A1', 'A-1'].map((c) => item(c, 'm', '5.00')), values: [] };
    const list = {
      name: 'L',
      rows: [['Code', 'Price'], ...codes.map((c, i) => [c, `${i + 10}.00`])] as SheetCell[][],
    };
    const found = comparePrices(list, guessProfile([list])!, own, 'L');
    expect(found.changed.map((c) => [c.code, c.to])).toEqual([
      ['11-1', '10.00'],
      ['M-Ö1', '13.00'],
      ['M1', '15.00'],
    ]);
    expect(found.fresh.map((f) => f.code)).toEqual(['1-11', 'M-O1', 'a 1']);
    expect(found.skipped).toMatchObject([{ row: 6, text: 'm1 · 14.00' }]);
  });
  it('leaves alone what the book works out itself', () => {
    const own = {
      items: [item('M-BATT', 'm', null, { rateFormula: 'CraneHour' })],
      values: [{ name: 'Crane hour', unit: 'EUR/h', value: '140 EUR/h + 2 EUR/h' }],
    };
    const { skipped, changed } = comparePrices(sheet, profile, own, 'X');
    expect(changed).toEqual([]);
    expect(skipped.map((s) => s.reason)).toEqual(
      expect.arrayContaining(['The book works its rate out otherwise.', 'The named value is a formula.']),
    );
  });
});
