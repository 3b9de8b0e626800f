import { CURRENCIES } from './currencies.ts';

/** Base kinds that exponents are counted in. Counts are kept apart: a bag is not a roll. */
export const BASE_DIMENSIONS = [
  'length',
  'mass',
  'hour',
  'each',
  'bag',
  'roll',
  'sheet',
  'set',
  'load',
  'coat',
  'day',
  'week',
  'month',
  ...CURRENCIES,
] as const;
export type BaseDimension = (typeof BASE_DIMENSIONS)[number];

/** Exponents of the base kinds; a kind that is absent has exponent 0. Area is `{length: 2}`. */
export type Dimension = Readonly<Partial<Record<BaseDimension, number>>>;

export const DIMENSIONLESS: Dimension = {};

/** Product of two dimensions (exponents added). `power` -1 gives the quotient. */
export function multiplyDimensions(a: Dimension, b: Dimension, power = 1): Dimension {
  const out: Partial<Record<BaseDimension, number>> = { ...a };
  for (const key of Object.keys(b) as BaseDimension[]) {
    const exponent = (out[key] ?? 0) + power * b[key]!;
    if (exponent === 0) delete out[key];
    else out[key] = exponent;
  }
  return out;
}

/** True if both have the same exponents. */
export function isSameDimension(a: Dimension, b: Dimension): boolean {
  return Object.keys(multiplyDimensions(a, b, -1)).length === 0;
}

export function isDimensionless(d: Dimension): boolean {
  return Object.keys(d).length === 0;
}

/** True for a count of one kind: bags, hours, pieces, or a plain number. */
export function isCountDimension(d: Dimension): boolean {
  const keys = Object.keys(d) as BaseDimension[];
  return keys.length === 0 || (keys.length === 1 && keys[0] !== 'length' && keys[0] !== 'mass' && d[keys[0]!] === 1);
}

/**
 * True if a result of dimension `given` may stand where `needed` is asked: equal, a plain number for pieces, or so many pieces of a
 * length, area, volume, mass or time for that itself (`Corners * Height` is m, `Count * 25 kg` is kg).
 */
export function fitsDimension(given: Dimension, needed: Dimension): boolean {
  if (isSameDimension(given, needed)) return true;
  if (isDimensionless(given)) return isSameDimension(needed, EACH);
  return isMeasure(needed) && isSameDimension(given, multiplyDimensions(needed, EACH));
}

const EACH: Dimension = { each: 1 };
const isMeasure = (d: Dimension) =>
  Object.keys(d).length === 1 && ((d.length ?? 0) > 0 || d.mass === 1 || d.hour === 1);

/** Dimension shared by two operands of + - or a comparison, where a plain number joins pieces; null if they differ. */
export function joinDimensions(a: Dimension, b: Dimension): Dimension | null {
  if (isSameDimension(a, b)) return a;
  if (fitsDimension(a, b)) return b;
  if (fitsDimension(b, a)) return a;
  return null;
}

const SI_SYMBOL: Partial<Record<BaseDimension, string>> = { length: 'm', mass: 'kg', hour: 'h' };

/** Readable SI unit of a dimension: `m2`, `kg/m3`, `each/m2`; a plain number is `number`. */
export function dimensionToUnitName(d: Dimension): string {
  const part = (key: BaseDimension, exponent: number) => `${SI_SYMBOL[key] ?? key}${exponent === 1 ? '' : exponent}`;
  const keys = (Object.keys(d) as BaseDimension[]).sort(
    (a, b) => BASE_DIMENSIONS.indexOf(a) - BASE_DIMENSIONS.indexOf(b),
  );
  const above = keys.filter((k) => d[k]! > 0).map((k) => part(k, d[k]!));
  const below = keys.filter((k) => d[k]! < 0).map((k) => part(k, -d[k]!));
  if (above.length === 0 && below.length === 0) return 'number';
  return [above.join('·') || '1', ...below].join('/');
}
