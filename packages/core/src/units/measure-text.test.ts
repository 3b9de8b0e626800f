import { describe, expect, it } from '@jest/globals';
import { readMeasure } from './measure-text.ts';

describe('a figure with its unit', () => {
  it.each([
    ['240 cm', 2.4, 'm'],
    ['12,5 m2', 12.5, 'm2'],
    ['3 m³', 3, 'm3'],
    ['30 min', 0.5, 'h'],
    ['2 t', 2000, 'kg'],
    ['4 each', 4, 'each'],
    [`7' 10 1/2"`, 2.4003, 'm'],
    ['-1.5 m', -1.5, 'm'],
  ])('reads %s', (text, value, unit) => {
    const read = readMeasure(text);
    expect(read?.unit).toBe(unit);
    expect(read?.value).toBeCloseTo(value, 9);
  });
  it.each(['12', 'oak', '3 m wide', 'G30', '2 rolls', ''])('takes "%s" for no measure', (text) => {
    expect(readMeasure(text)).toBeNull();
  });
});
