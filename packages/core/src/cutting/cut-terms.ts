import type { CostItem } from '../book/cost-item.ts';
import type { CutTerms, StockLength } from './cut-bars.ts';

/** The lengths that an item is sold in, m, with their prices. @param factor metres of one of its unit */
export function listStock({ soldAs }: CostItem, lengths: readonly number[], factor: number): StockLength[] {
  const prices = soldAs?.lengthPrices;
  return lengths.map((length) => ({
    lengthM: length * factor,
    price: prices ? Number(prices[soldAs.lengths!.indexOf(length)]) : null,
  }));
}

/** How an item is cut, in metres. */
export function readCutTerms({ soldAs }: CostItem, factor: number): CutTerms {
  const { kerf = 0, keepOver, joined: isJoined = true } = soldAs?.cut ?? {};
  return { kerfM: kerf * factor, ...(keepOver === undefined ? {} : { keepOverM: keepOver * factor }), isJoined };
}
