import type { CostItem } from '../book/cost-item.ts';

/** Most decimals that a per cent is taken with. */
const PERCENT_DIGITS = 4;

/**
 * A rate moved by a per cent, worked out in whole numbers and rounded half away from zero to the decimals the rate has, at least
 * `digits`.
 * @example moveRateByPercent('12.50', 3, 2) // '12.88'
 */
export function moveRateByPercent(rate: string, percent: number, digits: number): string {
  const [whole = '0', part = ''] = rate.replace('-', '').split('.');
  const decimals = Math.max(digits, part.length);
  const units = BigInt(whole + part.padEnd(decimals, '0'));
  const scale = 10n ** BigInt(PERCENT_DIGITS + 2);
  const factor = scale + BigInt(Math.round(percent * 10 ** PERCENT_DIGITS));
  const product = units * factor;
  const moved = (product < 0n ? product - scale / 2n : product + scale / 2n) / scale;
  const text = (moved < 0n ? -moved : moved).toString().padStart(decimals + 1, '0');
  const figure = decimals === 0 ? text : `${text.slice(0, -decimals)}.${text.slice(-decimals)}`;
  const isNegative = moved !== 0n && rate.startsWith('-') !== moved < 0n;
  return isNegative ? `-${figure}` : figure;
}

/**
 * An item with its prices moved by a per cent: its rate, or the prices of its packs or lengths. Null if it has none, or works them out
 * by a formula.
 */
export function moveItemByPercent(item: CostItem, percent: number, digits: number): CostItem | null {
  const move = (price: string) => moveRateByPercent(price, percent, digits);
  const { rate, rateFormula, soldAs } = item;
  if (rateFormula !== undefined) return null;
  if (soldAs?.packPrice !== undefined) return { ...item, soldAs: { ...soldAs, packPrice: move(soldAs.packPrice) } };
  if (soldAs?.lengthPrices) return { ...item, soldAs: { ...soldAs, lengthPrices: soldAs.lengthPrices.map(move) } };
  return rate === null ? null : { ...item, rate: move(rate) };
}
