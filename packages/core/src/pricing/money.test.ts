import fc from 'fast-check';
import { parseRate } from '../book/parse-rate.ts';
import { amountToMinor, apportion, currencyToMinorDigits, minorToDecimal, quantizeAmount } from './money.ts';

const amounts = fc.array(fc.integer({ min: -1e11, max: 1e12 }), { minLength: 1, maxLength: 40 });

describe('the minor unit of a currency', () => {
  it.each([
    ['EUR', 2],
    ['JPY', 0],
    ['UGX', 0],
    ['KWD', 3],
    ['LYD', 3],
    ['CLF', 4],
    ['IDR', 2],
  ])('%s has %d digits', (currency, digits) => expect(currencyToMinorDigits(currency)).toBe(digits));
});

describe('money', () => {
  it('quantises once: 3.333 at 12.50 is 41.6625', () => {
    expect(quantizeAmount(3.333, 12.5, 2)).toBe(41_662_500);
    expect(amountToMinor(41_662_500)).toBe(4166);
    expect(amountToMinor(41_665_000)).toBe(4167);
    expect(amountToMinor(-41_665_000)).toBe(-4167);
    expect(quantizeAmount(1e12, 1e6, 2)).toBeNull();
  });
  it('reads and writes decimals', () => {
    expect(parseRate('12.50')).toEqual({ ok: true, value: 12.5 });
    for (const bad of ['12,50', 'abc', '', '1e5', '--3', '1.123456789']) expect(parseRate(bad).ok).toBe(false);
    expect([minorToDecimal(-5, 2), minorToDecimal(123456, 2), minorToDecimal(7, 0), minorToDecimal(1500, 3)]).toEqual([
      '-0.05',
      '1234.56',
      '7',
      '1.500',
    ]);
    expect([currencyToMinorDigits('EUR'), currencyToMinorDigits('jpy'), currencyToMinorDigits('KWD')]).toEqual([
      2, 0, 3,
    ]);
  });
  it('shares out 1.00 over three thirds as 0.34, 0.33, 0.33', () => {
    expect(apportion(100, [333_334, 333_333, 333_333])).toEqual([34, 33, 33]);
    expect(apportion(0, [])).toEqual([]);
  });
  it('shown parts always add up to the shown total and stay within one unit of their own', () => {
    fc.assert(
      fc.property(amounts, (parts) => {
        const total = amountToMinor(parts.reduce((a, b) => a + b, 0));
        const shares = apportion(total, parts);
        expect(shares.reduce((a, b) => a + b, 0)).toBe(total);
        for (const [i, s] of shares.entries()) expect(Math.abs(s - parts[i]! / 10_000)).toBeLessThanOrEqual(1);
      }),
    );
  });
  it('gives what is left to one part after the other, the largest remainders first, of alike ones the earlier', () => {
    // Remainders in tenths of a unit, few enough that many are alike; the total may be several units off.
    const tenths = fc.array(fc.integer({ min: -40, max: 40 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(tenths, fc.integer({ min: -30, max: 30 }), (parts, off) => {
        const whole = parts.map((p) => Math.floor(p / 10));
        const total = whole.reduce((a, b) => a + b, 0) + off;
        const byHand = [...whole];
        let turn = parts.map((p, i) => ({ i, rest: p - whole[i]! * 10 })).sort((a, b) => b.rest - a.rest || a.i - b.i);
        if (off < 0) turn = turn.reverse();
        for (let n = 0; n < Math.abs(off); n++) byHand[turn[n % turn.length]!.i]! += Math.sign(off);
        expect(
          apportion(
            total,
            parts.map((p) => p * 1000),
          ).map((s) => s + 0),
        ).toEqual(byHand.map((s) => s + 0));
      }),
    );
  });
  it('sums do not depend on order', () => {
    fc.assert(
      fc.property(amounts, (parts) => {
        const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
        expect(sum([...parts].reverse())).toBe(sum(parts));
        expect(sum([...parts].sort((a, b) => a - b))).toBe(sum(parts));
      }),
    );
  });
});
