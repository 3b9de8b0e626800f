import {
  askFigure,
  echoFigure,
  editFigure,
  readFigure,
  showFigure,
  showMinor,
  showMove,
  showQuantity,
  showRate,
  showSignificant,
  showUnit,
  widthOfMoney,
} from './format.ts';
import { chooseNumberStyle } from './number-style.ts';

describe('figures on screen', () => {
  it('shows money with separators and a real minus', () => {
    expect([showMinor(-123456789, 2), showMinor(5, 2), showMinor(1200, 0), showMove(250, 2), showMove(-1, 2)]).toEqual([
      '\u22121,234,567.89',
      '0.05',
      '1,200',
      '+2.50',
      '\u22120.01',
    ]);
  });
  it('shows the digits that matter for a unit', () => {
    expect([
      showQuantity(1.23456, 'm3'),
      showQuantity(12, 'each'),
      showQuantity(12.5, 'each'),
      showQuantity(1234.56, 'kg'),
      showUnit('kg/m3'),
      showUnit('m2'),
    ]).toEqual(['1.235', '12', '12.50', '1,234.6', 'kg/m³', 'm²']);
  });
  it('shows a rate with the decimals that tell it, two at least: none that is something is 0.00', () => {
    const rates = [46.5, 12.345, 0.0035, 0.125, 0.12345, 1.2345, 1234.567, 0, -0.004, 1e-9, 12];
    expect(rates.map((rate) => showSignificant(rate))).toEqual(
      ['46.50', '12.35', '0.0035', '0.125', '0.123', '1.23', '1,234.57', '0.00', '\u22120.004', '0.000000001', '12.00'], // biome-ignore format: one list
    );
    // To the last of it: what is typed as a rate has six decimals at most.
    expect([12.345, 0.0035, 46.5, 8.123456, 0.1 + 0.2].map((rate) => showSignificant(rate, 9))).toEqual(
      ['12.345', '0.0035', '46.50', '8.123456', '0.30'], // biome-ignore format: one list
    );
    expect([showRate('0.0035'), showRate('46.5')]).toEqual(['0.0035', '46.50']);
  });
  it.each([
    ['12.50', 12.5],
    ['12,50', 12.5],
    ['1 200', 1200],
    ['-3', -3],
    ['', null],
    ['12.50 EUR', null],
    ['1,200.50', 1200.5],
    ['1,200', null],
  ])('reads %s', (text, value) => expect(readFigure(text)).toBe(value));
});

describe('in the way of writing that a person chose', () => {
  const kept = new Map<string, string>();
  beforeAll(() =>
    Object.assign(globalThis, {
      localStorage: {
        getItem: (k: string) => kept.get(k) ?? null,
        setItem: (k: string, v: string) => kept.set(k, v),
        removeItem: (k: string) => kept.delete(k),
      },
    }),
  );
  afterAll(() => {
    chooseNumberStyle(null);
    Reflect.deleteProperty(globalThis, 'localStorage');
  });
  it.each([
    ['1,234.50', '1,234.50', 1250, 1.25],
    ['1.234,50', '1.234,50', 1.25, 1250],
    ['1 234.50', '1\u00a0234.50', null, 1.25],
    ['1 234,50', '1\u00a0234,50', 1.25, null],
  ] as const)('%s figures are shown and read', (style, shown, comma, point) => {
    chooseNumberStyle(style);
    expect(showFigure(1234.5)).toBe(shown);
    expect(readFigure(shown)).toBe(1234.5);
    expect([readFigure('1,250'), readFigure('1.250')]).toEqual([comma, point]);
    expect(askFigure('1,250') === null).toBe(comma !== null);
    expect(readFigure(editFigure('1.125'))).toBe(1.125);
  });
  it('says at once what a figure of one sign is taken for', () => {
    chooseNumberStyle('1,234.50');
    expect([echoFigure('1,250'), echoFigure('1.125'), echoFigure('12.50')]).toEqual(['= 1,250.00', '= 1.125', null]);
  });
  it('columns of amounts are as wide as the longest of them, with its sign', () => {
    expect(widthOfMoney([], 2)).toBe(104);
    expect(widthOfMoney([100, 23_495_215_000], 2)).toBe(widthOfMoney([-23_495_215_000], 2));
    // −234,952,150.00 has 15 signs.
    expect(widthOfMoney([23_495_215_000], 2)).toBe(144);
    expect(widthOfMoney([5], 2, 118)).toBe(118);
  });
});
