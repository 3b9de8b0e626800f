import fc from 'fast-check';
import { readLength, showFeetInches } from './length-text.ts';

describe('lengths as builders write them', () => {
  it.each<[string, number]>([
    ['2.4 m', 2.4],
    ['2,4', 2.4],
    ['240 cm', 2.4],
    ['2400mm', 2.4],
    [`7' 10 1/2"`, 2.4003],
    [`7'10 1/2"`, 2.4003],
    ['7ft 6in', 2.286],
    [`8'`, 2.4384],
    ['6 3/8 in', 0.161925],
    [`1/2"`, 0.0127],
    [`-3' 6"`, -1.0668],
    ['12 ft', 3.6576],
  ])('%s', (text, metres) => {
    const read = readLength(text);
    expect(read.ok && read.value).toBeCloseTo(metres, 9);
  });
  it.each(['', 'two', '3 kg', `7' 1/0"`, '4 m2', `' "`])('refuses %s', (text) =>
    expect(readLength(text)).toMatchObject({ ok: false, problem: { code: 'length-unreadable' } }),
  );
  it('reads what it shows, to a sixteenth of an inch', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 200, noNaN: true }), (metres) => {
        const read = readLength(showFeetInches(metres));
        expect(read.ok && Math.abs(read.value - metres)).toBeLessThanOrEqual(0.0254 / 32 + 1e-9);
      }),
    );
  });
});
