import { isAt } from '../units/at-limit.ts';
import { parseUnit } from '../units/unit.ts';
import type { CostItem } from './cost-item.ts';
import { readUnitWord } from './unit-words.ts';

/** What of an item a price of a sheet is: its rate, the price of its pack or of one of its lengths, or a rate instead of its formula. */
export type PricePlace =
  | { readonly at: 'rate' | 'pack' | 'formula' }
  | { readonly at: 'length'; readonly length: number };

/** A price of a sheet put where it belongs in an item. */
export interface PlacedPrice {
  readonly place: PricePlace;
  /** What it is for, in words: a unit, `pack of 25 kg`, `length of 4.2 m`. */
  readonly per: string;
  readonly from: string | null;
  readonly to: string;
}

/** Decimals that prices are kept with at most. */
const RATE_DIGITS = 8;

/** A price times a size, without the noise of binary fractions. */
export const scalePrice = (rate: string, by: number): string =>
  Number((Number(rate) * by).toPrecision(15))
    .toFixed(RATE_DIGITS)
    .replace(/\.?0+$/, '');

/**
 * Puts a price where it belongs in an item: a plain rate; the price of a pack, if the sheet says nothing else or a count of packs; the
 * prices of all lengths from one by their unit; the rate in place of a formula. Why it cannot be placed where it cannot.
 * @param length of the sold length that the row is about; null if it says none
 */
export function placePrice(
  item: CostItem,
  rate: string,
  said: string | null,
  length: number | null,
): readonly PlacedPrice[] | string {
  const { pack, packPrice, lengths, lengthPrices } = item.soldAs ?? {};
  const isOwnUnit = said !== null && isUnitSame(said, item.unit);
  const misfit = `The sheet prices it per ${said}, the book per ${item.unit}.`;
  const isCount = said !== null && countsPieces(said);
  if (lengths !== undefined && lengthPrices !== undefined) {
    if (length !== null) {
      const i = lengths.findIndex((l) => isAt(l, length));
      return said === null || isCount || isUnitSame(said, item.unit)
        ? [placeLength(item, lengths[i]!, lengthPrices[i]!, rate)]
        : misfit;
    }
    if (isOwnUnit) return lengths.map((l, i) => placeLength(item, l, lengthPrices[i]!, scalePrice(rate, l)));
    return said === null || isCount
      ? `It is sold in several lengths; the sheet does not say which: write ${item.code} ${lengths[0]} ${item.unit}.`
      : misfit;
  }
  if (length !== null) return `${item.code} has no prices for its lengths.`;
  if (pack !== undefined && packPrice !== undefined) {
    if (said !== null && !isOwnUnit && !isCount) return misfit;
    const to = isOwnUnit ? scalePrice(rate, pack) : rate;
    return [{ place: { at: 'pack' }, per: `pack of ${pack} ${item.unit}`, from: packPrice, to }];
  }
  if (said !== null && !isOwnUnit) return misfit;
  if (item.rateFormula !== undefined)
    return [{ place: { at: 'formula' }, per: item.unit, from: item.rateFormula, to: rate }];
  return [{ place: { at: 'rate' }, per: item.unit, from: item.rate, to: rate }];
}

const placeLength = ({ unit }: CostItem, length: number, from: string, to: string): PlacedPrice => ({
  place: { at: 'length', length },
  per: `length of ${length} ${unit}`,
  from,
  to,
});

/** The item with a price put in its place. */
export function withPrice({ rateFormula, ...item }: CostItem, place: PricePlace, to: string): CostItem {
  if (place.at === 'formula') return { ...item, rate: to };
  const kept = rateFormula === undefined ? item : { ...item, rateFormula };
  if (place.at === 'pack') return { ...kept, soldAs: { ...item.soldAs, packPrice: to } };
  if (place.at !== 'length') return { ...kept, rate: to };
  const { lengths = [], lengthPrices = [] } = item.soldAs ?? {};
  const prices = lengthPrices.map((p, i) => (lengths[i] === place.length ? to : p));
  return { ...kept, soldAs: { ...item.soldAs, lengthPrices: prices } };
}

export function isUnitSame(said: string, unit: string): boolean {
  const [a, b] = [readUnitWord(said), parseUnit(unit)];
  return a.ok && b.ok && a.value.symbol === b.value.symbol;
}

/** A word for pieces, packs or bags rather than a measure. */
function countsPieces(said: string): boolean {
  if (/^(pack|packs|pk|pkt|box|boxes|sack|sacks|bar|bars|length|lengths)\.?$/i.test(said.trim())) return true;
  const unit = readUnitWord(said);
  return unit.ok && Object.keys(unit.value.dimension).every((d) => COUNTS.includes(d)) && unit.value.factor === 1;
}
const COUNTS = ['each', 'bag', 'roll', 'sheet', 'set'];

const WITH_LENGTH = /^(.+?)[\s/x@]+(\d+(?:[.,]\d+)?)\s*(mm|m|ft)?$/iu;

/** A code with a length behind it. @example readLengthCode('M-STUD 4.2 m') // { code: 'M-STUD', length: 4.2 }, in `unit` */
export function readLengthCode(text: string, unit: string): { readonly code: string; readonly length: number } | null {
  const found = WITH_LENGTH.exec(text.trim());
  if (!found) return null;
  const [said, own] = [parseUnit(found[3] ?? unit), parseUnit(unit)];
  if (!said.ok || !own.ok) return null;
  return { code: found[1]!, length: (Number(found[2]!.replace(',', '.')) * said.value.factor) / own.value.factor };
}
