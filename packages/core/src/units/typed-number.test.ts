import fc from 'fast-check';
import { NUMBER_STYLES, type NumberStyle, readTypedNumber, signsOf, writeTypedNumber } from './typed-number.ts';

const read = (text: string, style: NumberStyle | null = null) => {
  const made = readTypedNumber(text, style);
  return made.ok ? made.value : made.problem.code;
};

describe('a figure as it is typed', () => {
  it.each([
    ['12.50', 12.5],
    ['12,50', 12.5],
    ['0,125', 0.125],
    ['0.250', 0.25],
    ['1 250', 1250],
    ['1\u00a0250,5', 1250.5],
    ['1’250.50', 1250.5],
    ['1,250.50', 1250.5],
    ['1.250,50', 1250.5],
    ['1,234,567', 1234567],
    ['1.234.567', 1234567],
    ['1250.125', 1250.125],
    ['1.2500', 1.25],
    ['\u22123', -3],
  ])('%s is %d', (text, value) => expect(read(text)).toBe(value));
  it.each(['1,250', '1.250', '999.999', '-12,500'])('%s is asked about', (text) =>
    expect(read(text)).toBe('number-ambiguous'),
  );
  it('says both readings, each written so that it is clear', () =>
    expect(readTypedNumber('1,234')).toMatchObject({
      problem: { message: '"1,234" can be 1.234 or 1234.', remedy: 'Write 1.2340 or 1234.' },
    }));
  it.each(['', '1 2', '12 50', '1,2,3', '1,25.5', '1.250.5', '12.50 EUR', 'ten', '1e5', '--1'])('%j is none', (text) =>
    expect(read(text)).toBe('number-unreadable'),
  );
  it.each(NUMBER_STYLES)('is read back as it was written in the style %s', (style) => {
    const { decimal, group } = signsOf(style);
    fc.assert(
      fc.property(
        fc.integer({ min: -99_999_999, max: 99_999_999 }),
        fc.integer({ min: 0, max: 3 }),
        fc.boolean(),
        (n, digits, isGrouped) => {
          const [whole, part] = (Math.abs(n) / 10 ** digits).toFixed(digits).split('.');
          const shown = isGrouped ? whole!.replace(/\B(?=(\d{3})+$)/g, group) : whole!;
          const text = `${n < 0 ? '-' : ''}${shown}${part === undefined ? '' : `${decimal}${part}`}`;
          expect(read(text, style)).toBe(Number((n / 10 ** digits).toFixed(digits)));
        },
      ),
      { seed: 9 },
    );
  });
  it.each([
    ['1,250', [1250, 1.25, 'number-ambiguous', 1.25]],
    ['1.250', [1.25, 1250, 1.25, 'number-ambiguous']],
    // These are clear in every style.
    ['1,250.50', [1250.5, 1250.5, 1250.5, 1250.5]],
    ['12,5', [12.5, 12.5, 12.5, 12.5]],
    ['0.125', [0.125, 0.125, 0.125, 0.125]],
  ])('%s is what the style of the person makes of it', (text, readings) =>
    expect(NUMBER_STYLES.map((style) => read(text, style))).toEqual(readings),
  );
  it('any figure that is kept is read back as itself', () => {
    fc.assert(
      fc.property(fc.integer({ min: -9_999_999, max: 9_999_999 }), fc.integer({ min: 0, max: 4 }), (n, digits) => {
        const value = Number((n / 10 ** digits).toFixed(digits));
        for (const style of [null, ...NUMBER_STYLES])
          expect(read(writeTypedNumber(value, style), style)).toBe(value + 0);
      }),
      { seed: 2 },
    );
  });
});
