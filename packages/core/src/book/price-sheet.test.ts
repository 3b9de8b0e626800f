import fc from 'fast-check';
import { comparePrices, findProfile, guessProfile, readPriceRows, replacesFormula } from './price-sheet.ts';
import { findDecimalSign, isSignSure, readPrice } from './price-text.ts';
import type { Sheet, SheetCell } from './sheet.ts';
import { withPrice } from './sheet-price-place.ts';

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
  it('offers a rate instead of a formula, told from other changes', () => {
    const own = {
      items: [item('M-BATT', 'm', null, { rateFormula: 'CraneHour' })],
      values: [{ name: 'Crane hour', unit: 'EUR/h', value: '140 EUR/h + 2 EUR/h' }],
    };
    const { changed } = comparePrices(sheet, profile, own, 'X');
    expect(changed.map((c) => [c.code, c.from, c.to, replacesFormula(c)])).toEqual([
      ['M-BATT', 'CraneHour', '1.05', true],
      ['Crane hour', '140 EUR/h + 2 EUR/h', '150.00', true],
    ]);
    expect(withPrice(own.items[0]!, changed[0]!.place!, '1.05')).toEqual(item('M-BATT', 'm', '1.05'));
  });
});

describe('prices of packs and lengths', () => {
  const mortar = item('M-MOR', 'kg', null, { soldAs: { pack: 25, packPrice: '7.15' } });
  const stud = item('M-STUD', 'm', null, { soldAs: { lengths: [3, 4.2], lengthPrices: ['9.00', '13.44'] } });
  const compareRows = (...body: SheetCell[][]) => {
    const list: Sheet = { name: 'L', rows: [['Code', 'Unit', 'Price'], ...body] };
    return comparePrices(list, guessProfile([list])!, { items: [mortar, stud], values: [] }, 'L');
  };
  const told = (...body: SheetCell[][]) => compareRows(...body).changed.map((c) => [c.key, c.unit, c.from, c.to]);

  it.each([
    ['bag', 7.5, '7.5'],
    ['pcs', 7.5, '7.5'],
    [null, 7.5, '7.5'],
    ['kg', 0.3, '7.5'], // 0.30 x 25
    ['per 100 kg', 30, '7.5'],
  ])('a price per %s is one of the pack', (unit, price, to) =>
    expect(told(['M-MOR', unit, price])).toEqual([['M-MOR', 'pack of 25 kg', '7.15', to]]),
  );
  it('a price per tonne is none', () => {
    const { changed, skipped } = compareRows(['M-MOR', 't', 300]);
    expect([changed, skipped[0]!.reason]).toEqual([[], 'The sheet prices it per t, the book per kg.']);
  });
  it('a price per metre is one of each length: 3.10 is 9.30 and 13.02', () =>
    expect(told(['M-STUD', 'm', 3.1])).toEqual([
      ['M-STUD 3', 'length of 3 m', '9.00', '9.3'],
      ['M-STUD 4.2', 'length of 4.2 m', '13.44', '13.02'],
    ]));
  it('a code with a length behind it is priced for that length', () =>
    expect(told(['M-STUD 4.2 m', 'pcs', 14], ['m-stud/3000 mm', null, 9])).toEqual([
      ['M-STUD 4.2', 'length of 4.2 m', '13.44', '14'],
    ]));
  it('a price of a piece of no length is not placed', () => {
    const { changed, skipped } = compareRows(['M-STUD', 'pcs', 14], ['M-STUD 5 m', 'pcs', 14]);
    expect(changed).toEqual([]);
    expect(skipped.map((s) => s.reason)).toEqual([
      'It is sold in several lengths; the sheet does not say which: write M-STUD 3 m.',
    ]);
  });
  it('put in its place it leaves the rest as it is', () => {
    expect(withPrice(mortar, { at: 'pack' }, '7.50').soldAs).toEqual({ pack: 25, packPrice: '7.50' });
    expect(withPrice(stud, { at: 'length', length: 4.2 }, '14').soldAs!.lengthPrices).toEqual(['9.00', '14']);
  });
});

describe('the sign before the decimals', () => {
  it.each([
    [['1.234', '2.500'], false],
    [['1,234'], false],
    [['1,234', '9,95'], true],
    [['1.234.567'], true],
    [['12', '15'], true],
    [[], true],
  ])('%j tells it: %s', (texts, isSure) => expect(isSignSure(texts)).toBe(isSure));
  it('is the one that is said', () => {
    const list: Sheet = { name: 'L', rows: [['Code', 'Price'], ['M', '1.234']] }; // biome-ignore format: two rows
    const profile = guessProfile([list])!;
    const rateOf = (decimal?: 'point' | 'comma') => readPriceRows(list, { ...profile, decimal }).rows[0]!.rate;
    expect([rateOf(), rateOf('point'), rateOf('comma')]).toEqual(['1.234', '1.234', '1234']);
  });
});
