import fc from 'fast-check';
import { readNumberIn } from './number-in-text.ts';

describe('a figure in a text, by a pattern', () => {
  it.each([
    ['Partition EI60 2x12.5 MW', 'EI#', 60],
    ['Partition EI60 2x12.5 MW', '#x', 2],
    ['Partition EI60 2x12.5 MW', 'x#', 12.5],
    ['Partition ei 60, 2 x 12,5 mw', 'EI#', 60],
    ['Partition ei 60, 2 x 12,5 mw', 'x#', 12.5],
    ['Lining 12.5 / 75 / 12.5', '/#/', 75],
    ['Door T30-RS 0.9 x 2.1', 'T#', 30],
    ['C30/37 XC4', 'C#/', 30],
    ['C30/37 XC4', 'C*/#', 37],
    ['Wall 200 mm', '#mm', 200],
    // Two figures with a blank between them are not one.
    ['Type 2 125', 'Type#', 2],
  ])('%s by %s', (text, pattern, figure) => expect(readNumberIn(text, pattern)).toBe(figure));

  it.each([
    ['Partition EI60', 'REI#'],
    ['Partition', 'EI#'],
    ['Wall 12.5x', '#mm'],
    ['', '#'],
  ])('%s has nothing for %s', (text, pattern) => expect(readNumberIn(text, pattern)).toBeNull());

  it('finds a written figure again, whatever stands around it', () =>
    fc.assert(
      fc.property(
        fc.stringMatching(/^[g-w ]{0,12}$/),
        fc.integer({ min: 0, max: 100_000 }),
        fc.stringMatching(/^[g-w ]{0,12}$/),
        (before, hundredths, after) =>
          expect(readNumberIn(`${before}XY${hundredths / 100}Z${after}`, 'XY#Z')).toBe(hundredths / 100),
      ),
    ));
});
