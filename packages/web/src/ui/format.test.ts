import { readFigure, showMinor, showMove, showQuantity, showUnit } from './format.ts';

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
