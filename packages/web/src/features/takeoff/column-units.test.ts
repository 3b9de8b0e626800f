import type { TakeoffField } from '@tally/core';
import { readStep, showColumnFigure, showColumnUnit, writeColumnFigure, writeColumnUnit } from './column-units.ts';

const field = (unit: TakeoffField['unit']): TakeoffField => ({
  id: 'q',
  heading: 'Q',
  unit,
  aggregate: 'sum',
  read: () => null,
});
const area = field('m2');

describe('a column’s own unit and decimals', () => {
  it('show figures in it, and say it in the heading', () => {
    const spec = { field: 'q', unit: 'ft2', digits: 1 };
    expect(showColumnFigure(10, area, spec, 'metric')).toBe('107.6');
    expect(showColumnUnit(area, spec, 'metric')).toBe('ft²');
    expect(showColumnFigure(0.0125, field('m'), { field: 'q', unit: 'mm', digits: 1 }, 'imperial')).toBe('12.5');
    expect(showColumnFigure(1234.5678, field('kg'), { field: 'q', digits: 3 }, 'metric')).toBe('1,234.568');
  });
  it('decide what columns are rounded to', () => {
    expect(readStep(area, undefined, 'metric')).toBeCloseTo(0.01, 12);
    expect(readStep(area, { field: 'q', unit: 'ft2', digits: 0 }, 'metric')).toBeCloseTo(0.3048 ** 2, 12);
    expect(readStep(area, undefined, 'both')).toBeNull();
    expect(readStep(field(null), undefined, 'metric')).toBeNull();
  });
  it('stay with the project where nothing is said', () => {
    expect(showColumnFigure(2.4003, field('m'), undefined, 'imperial')).toBe(`7' 10 1/2"`);
    expect(showColumnUnit(field('m'), undefined, 'imperial')).toBe('');
    expect(showColumnUnit(field('each'), undefined, 'metric')).toBe('');
  });
  it('go to a spreadsheet as plain numbers in the unit the heading names', () => {
    expect([writeColumnFigure(10, area, undefined, 'imperial'), writeColumnUnit(area, undefined, 'imperial')]).toEqual([
      '107.639104',
      'ft²',
    ]);
    expect([writeColumnFigure(1234.5, area, undefined, 'metric'), writeColumnUnit(area, undefined, 'metric')]).toEqual([
      '1234.5',
      'm²',
    ]);
    expect(writeColumnFigure(2, field('m'), { field: 'q', unit: 'cm', digits: 0 }, 'metric')).toBe('200');
  });
});
