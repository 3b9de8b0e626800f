import fc from 'fast-check';
import { sampleItem } from '../testing/sample-basis.ts';
import { moveItemByPercent, moveRateByPercent } from './move-rate.ts';

describe('a rate moved by a per cent', () => {
  it.each([
    ['12.50', 3, 2, '12.88'],
    ['12.50', -3, 2, '12.13'],
    ['0.85', 10, 2, '0.94'],
    ['0.0425', 10, 2, '0.0468'],
    ['100', 2.5, 0, '103'],
    ['100', 2.5, 2, '102.50'],
    ['7', -100, 2, '0.00'],
    ['-4.00', 10, 2, '-4.40'],
    ['46.10', 0, 2, '46.10'],
    ['1.005', 100, 2, '2.010'],
  ])('%s by %s %% is %s', (rate, percent, digits, moved) => {
    expect(moveRateByPercent(rate, percent, digits)).toBe(moved);
  });
  it('is within half a unit of its last decimal, for any rate', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10 ** 9 }), fc.integer({ min: -1000, max: 5000 }), (minor, tenths) => {
        const [rate, percent] = [(minor / 100).toFixed(2), tenths / 10];
        const moved = Number(moveRateByPercent(rate, percent, 2));
        expect(Math.abs(moved - Number(rate) * (1 + percent / 100))).toBeLessThanOrEqual(0.005 + 1e-6);
      }),
    );
  });
});

describe('an item moved by a per cent', () => {
  const move = (more: object, rate: string | null = null) => moveItemByPercent(sampleItem('X', 'm', rate, more), 10, 2);
  it('has another rate, or other prices of its packs or lengths', () => {
    expect(move({}, '12.50')).toMatchObject({ rate: '13.75' });
    expect(move({ soldAs: { pack: 25, packPrice: '30' } }, '1.00')).toMatchObject({
      rate: '1.00',
      soldAs: { pack: 25, packPrice: '33.00' },
    });
    expect(move({ soldAs: { lengths: [2, 3], lengthPrices: ['4', '5.5'] } })).toMatchObject({
      soldAs: { lengthPrices: ['4.40', '6.05'] },
    });
    expect(move({ soldAs: { pack: 5 } }, '2')).toMatchObject({ rate: '2.20', soldAs: { pack: 5 } });
  });
  it('stays where it has none or a formula', () =>
    expect([move({}), move({ rateFormula: 'Crane' })]).toEqual([null, null]));
});
