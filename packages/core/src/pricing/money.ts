import { data as currencies } from 'currency-codes';

/**
 * An amount as a whole number of 1/10,000 of the currency's minor unit (of a cent). Sums of whole numbers do not depend
 * on order or grouping. Safe up to about 9 thousand million of a currency with cents.
 */
export type Amount = number & { readonly __unit?: 'minor/10000' };

/** Parts of a minor unit that an amount is counted in. */
export const AMOUNT_SCALE = 10_000;

const DIGITS = new Map(currencies.map(({ code, digits }) => [code, digits]));

/** Decimals of a currency's minor unit, from the list of ISO 4217; 2 for a code that is not on it. @example 0 for JPY, 3 for IQD */
export function currencyToMinorDigits(currency: string): number {
  return DIGITS.get(currency.toUpperCase()) ?? 2;
}

/** Half away from zero; adding 0 turns a negative zero into a plain one. */
const roundHalfAway = (x: number) => Math.sign(x) * Math.round(Math.abs(x)) + 0;

/**
 * The one place where money is rounded on its way in: quantity x rate, to the nearest 1/10,000 of a minor unit, half away
 * from zero. Null if the figure is beyond what can be counted exactly.
 * @example quantizeAmount(3.333, 12.5, 2) // 41.6625 -> 41662500
 */
export function quantizeAmount(quantity: number, rate: number, minorDigits: number): Amount | null {
  const amount = roundHalfAway(quantity * rate * 10 ** minorDigits * AMOUNT_SCALE);
  return Number.isSafeInteger(amount) ? amount : null;
}

/** A total rounded once to whole minor units, half away from zero. @example 41662500 -> 4166 */
export function amountToMinor(amount: Amount): number {
  return roundHalfAway(amount / AMOUNT_SCALE);
}

/** Minor units as a figure in major units, exact to the digit. @example minorToMajor(4166, 2) // 41.66 */
export function minorToMajor(minor: number, minorDigits: number): number {
  return Number(minorToDecimal(minor, minorDigits));
}

/** Minor units as decimal text. @example minorToDecimal(-5, 2) // '-0.05' */
export function minorToDecimal(minor: number, minorDigits: number): string {
  const digits = String(Math.abs(minor)).padStart(minorDigits + 1, '0');
  const text = minorDigits === 0 ? digits : `${digits.slice(0, -minorDigits)}.${digits.slice(-minorDigits)}`;
  return minor < 0 ? `-${text}` : text;
}

/**
 * Shares out a rounded total over its parts so that the shown parts add up to it: each part is rounded down, what is left
 * goes to the parts with the largest remainders, the earlier first.
 * @param totalMinor the rounded total; differs from the sum of the parts by less than half a minor unit per level above
 * @example apportion(100, [33.4, 33.3, 33.3] x 10000) -> [34, 33, 33]
 */
export function apportion(totalMinor: number, parts: readonly Amount[]): number[] {
  const count = parts.length;
  const shares = parts.map((p) => Math.floor(p / AMOUNT_SCALE));
  const left = totalMinor - shares.reduce((sum, s) => sum + s, 0);
  if (left === 0 || count === 0) return shares;
  // A total that was itself apportioned may be a unit off: then the smallest remainders give one back, the later first.
  const unit = Math.sign(left);
  const rounds = Math.floor(Math.abs(left) / count);
  const taken = Math.abs(left) % count;
  if (rounds > 0) for (let i = 0; i < count; i++) shares[i]! += unit * rounds;
  if (taken === 0) return shares;
  const rests = Float64Array.from(parts, (p) => p - Math.floor(p / AMOUNT_SCALE) * AMOUNT_SCALE);
  const sorted = rests.slice().sort();
  const limit = unit > 0 ? sorted[count - taken]! : sorted[taken - 1]!;
  let alike = taken;
  for (let i = 0; i < count; i++) {
    const isBeyond = unit > 0 ? rests[i]! > limit : rests[i]! < limit;
    if (isBeyond) [shares[i], alike] = [shares[i]! + unit, alike - 1];
  }
  for (let n = 0; n < count && alike > 0; n++) {
    const i = unit > 0 ? n : count - 1 - n;
    if (rests[i] === limit) [shares[i], alike] = [shares[i]! + unit, alike - 1];
  }
  return shares;
}
