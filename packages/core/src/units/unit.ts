import { failure, type Result, success } from '../result/result.ts';
import { CURRENCIES } from './currencies.ts';
import { type BaseDimension, type Dimension, multiplyDimensions } from './dimension.ts';

/** A unit of measure. `factor` x a figure in this unit gives the figure in SI (m, kg, h, counts). */
export interface Unit {
  readonly symbol: string;
  readonly factor: number;
  readonly dimension: Dimension;
}

const length = (symbol: string, factor: number): Unit[] => [
  { symbol, factor, dimension: { length: 1 } },
  { symbol: `${symbol}2`, factor: factor ** 2, dimension: { length: 2 } },
  { symbol: `${symbol}3`, factor: factor ** 3, dimension: { length: 3 } },
];
const mass = (symbol: string, factor: number): Unit => ({ symbol, factor, dimension: { mass: 1 } });
const count = (symbol: BaseDimension): Unit => ({
  symbol,
  factor: 1,
  dimension: { [symbol]: 1 },
});

/** Simple units. Symbols are case-sensitive and reserved in formulas. Factors: international yard and pound (1959), SI. */
const SIMPLE_UNITS: readonly Unit[] = [
  ...length('m', 1),
  ...length('mm', 0.001),
  ...length('cm', 0.01),
  ...length('km', 1000),
  ...length('in', 0.0254),
  ...length('ft', 0.3048),
  ...length('yd', 0.9144),
  { symbol: 'l', factor: 0.001, dimension: { length: 3 } },
  { symbol: 'ml', factor: 0.000001, dimension: { length: 3 } },
  mass('kg', 1),
  mass('g', 0.001),
  mass('t', 1000),
  mass('lb', 0.45359237),
  { symbol: 'h', factor: 1, dimension: { hour: 1 } },
  { symbol: 'min', factor: 1 / 60, dimension: { hour: 1 } },
  { symbol: '%', factor: 0.01, dimension: {} },
  count('each'),
  count('bag'),
  count('roll'),
  count('sheet'),
  count('set'),
  count('load'),
  count('coat'),
  count('day'),
  count('week'),
  count('month'),
];

const BY_SYMBOL = new Map([...SIMPLE_UNITS, ...CURRENCIES.map(count)].map((u) => [u.symbol, u]));

/** Unit symbols a user may type, for pick lists and completion; beside them stand the currencies. */
export const UNIT_SYMBOLS: readonly string[] = SIMPLE_UNITS.map((u) => u.symbol);

/** Finds a simple unit by its exact symbol (`m2`, also `m²`); undefined if there is none. */
export function findSimpleUnit(symbol: string): Unit | undefined {
  return BY_SYMBOL.get(symbol.replace('²', '2').replace('³', '3'));
}

/**
 * Reads a unit, simple or compound with `/`: `m2`, `kg/m3`, `each/m2`, `number` for a plain figure.
 * Errors: `unit-unknown` with the symbol that was not found.
 * @example parseUnit('l/m2') // factor 0.001, dimension {length: 1}
 */
export function parseUnit(text: string): Result<Unit> {
  const trimmed = text.trim();
  if (trimmed === 'number' || trimmed === '1') return success({ symbol: 'number', factor: 1, dimension: {} });
  let factor = 1;
  let dimension: Dimension = {};
  for (const [index, symbol] of trimmed.split('/').entries()) {
    const unit = findSimpleUnit(symbol.trim());
    if (!unit) {
      return failure('unit-unknown', `There is no unit "${symbol.trim() || text}".`, {
        remedy: `Use one of ${UNIT_SYMBOLS.filter((s) => !/^(k|c|m)?m3?$/.test(s)).join(', ')}, a currency such as EUR, or two joined with "/". Case matters.`,
      });
    }
    const power = index === 0 ? 1 : -1;
    factor *= unit.factor ** power;
    dimension = multiplyDimensions(dimension, unit.dimension, power);
  }
  return success({ symbol: trimmed.replace('²', '2').replace('³', '3'), factor, dimension });
}

/** Converts a figure in SI to the unit. @example siToUnit(2.5, mm) // 2500 */
export function siToUnit(value: number, unit: Unit): number {
  return value / unit.factor;
}

/** Converts a figure in the unit to SI. @example unitToSi(2500, mm) // 2.5 */
export function unitToSi(value: number, unit: Unit): number {
  return value * unit.factor;
}
