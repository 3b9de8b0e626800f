import { type PropertyValue, readTypedNumber, showFeetInches, writeTypedNumber } from '@tally/core';
import { numberStyle, toStyle } from './number-style.ts';

const LOCALE = typeof navigator === 'undefined' ? 'en' : navigator.language;
const formats = new Map<string, Intl.NumberFormat>();

function format(value: number, digits: number): string {
  const style = numberStyle();
  const key = `${style ? 'en-US' : LOCALE} ${digits}`;
  let made = formats.get(key);
  if (!made) {
    const locale = style ? 'en-US' : LOCALE;
    made = new Intl.NumberFormat(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits });
    formats.set(key, made);
  }
  return style ? toStyle(made.format(value), style) : made.format(value);
}

const realMinus = (text: string) => text.replace('-', '\u2212');

/** A figure with a fixed number of decimals, thousands separated, with a real minus. */
export function showFigure(value: number, digits = 2): string {
  return realMinus(format(value, digits));
}

/** Minor units as an amount, without the currency. @example showMinor(-123456, 2) -> −1,234.56 */
export function showMinor(minor: number, minorDigits: number): string {
  return showFigure(minor / 10 ** minorDigits, minorDigits);
}

/** Width of a figure in bold at the size of tables, and what stands beside it, px. */
const [DIGIT_PX, PADDING_PX] = [8.4, 18];

/** Width of a column that holds amounts up to these, px: an amount whose first digits are cut off would read as another. */
export function widthOfMoney(minors: Iterable<number>, minorDigits: number, leastPx = 104): number {
  let most = 0;
  for (const minor of minors) most = Math.max(most, Math.abs(minor));
  return Math.max(leastPx, Math.ceil(showMinor(-most, minorDigits).length * DIGIT_PX + PADDING_PX));
}

/** A decimal as it is kept, with the decimals it has. @param least so many at least */
export const showDecimal = (decimal: string, least = 0): string =>
  showFigure(Number(decimal), Math.max(least, decimal.split('.')[1]?.length ?? 0));

/** A rate with the decimals it has, at least two. */
export const showRate = (rate: string): string => showDecimal(rate, 2);

/**
 * A figure with as many decimals as tell it: two at least, more where it is small or has more of its own. Nothing that is something is 0.00.
 * @param significant digits that tell it; what lies behind them is rounded
 * @example showSignificant(0.0035) -> 0.0035, showSignificant(12.345) -> 12.35, showSignificant(12.345, 9) -> 12.345
 */
export function showSignificant(value: number, significant = 3): string {
  const [, decimals = '', exponent = '0'] = /(?:\.(\d+))?e([-+]\d+)$/.exec(Number(value.toPrecision(significant)).toExponential()) ?? []; // biome-ignore format: one pattern
  return showFigure(value, Math.min(MOST_DECIMALS, Math.max(2, decimals.length - Number(exponent))));
}
const MOST_DECIMALS = 12;

/** An amount with its sign always shown. */
export function showMove(minor: number, minorDigits: number): string {
  return `${minor > 0 ? '+' : ''}${showMinor(minor, minorDigits)}`;
}

/** What a change does to a total: before, after, and the move between. */
export const showEffect = (
  before: number,
  move: { readonly after: number; readonly move: number },
  minorDigits: number,
): string =>
  `${showMinor(before, minorDigits)} → ${showMinor(move.after, minorDigits)} (${showMove(move.move, minorDigits)})`;

/** Decimals that matter for a unit. */
export function unitDigits(unit: string): number {
  return unit === 'm3' ? 3 : unit === 'kg' || unit === 'h' ? 1 : unit === 'each' ? 0 : 2;
}

/** A quantity with the decimals its unit deserves; counts that are not whole keep two. */
export function showQuantity(value: number, unit: string): string {
  return showFigure(value, shownDigits(value, unit));
}

function shownDigits(value: number, unit: string): number {
  const digits = unitDigits(unit);
  return digits === 0 && Math.abs(value - Math.round(value)) > 1e-9 ? 2 : digits;
}

/** Most decimals a quantity is shown with. */
const MOST_DIGITS = 3;

/** A quantity for a column of figures in different units: blanks in place of missing decimals keep the points in line. */
export function alignQuantity(value: number, unit: string): string {
  const digits = shownDigits(value, unit);
  return showFigure(value, digits) + '\u00a0'.repeat(MOST_DIGITS - digits + (digits === 0 ? 1 : 0));
}

/** A unit as it is written in print: m2 as m². */
export function showUnit(unit: string): string {
  return unit.replace(/(m|mm|cm|ft|in|yd)2/g, '$1²').replace(/(m|mm|cm|ft|in|yd)3/g, '$1³');
}

/** Reads a typed figure; null if it is none, or could be one of two. */
export function readFigure(text: string): number | null {
  const read = readTypedNumber(text, numberStyle());
  return read.ok ? read.value : null;
}

/** What is asked back where a typed figure could be one of two; null where it is clear. */
export function askFigure(text: string): string | null {
  const read = readTypedNumber(text, numberStyle());
  return read.ok || read.problem.code !== 'number-ambiguous' ? null : `${read.problem.message} ${read.problem.remedy}`;
}

/** What a typed figure is taken for, in full, where its one sign could have meant something else; null where nobody wonders. */
export function echoFigure(text: string): string | null {
  const figure = /^\s*-?[1-9]\d{0,2}[.,]\d{3}\s*$/.test(text) ? readFigure(text) : null;
  return figure === null ? null : `= ${showFigure(figure, Number.isInteger(figure) ? 2 : 3)}`;
}

/** A figure to be edited, as it is read back. */
export const editFigure = (figure: number | string): string => writeTypedNumber(figure, numberStyle());

/** A property as it is read: truths as yes and no. */
export const showProperty = (value: PropertyValue): string =>
  value === true ? 'yes' : value === false ? 'no' : String(value);

const TIME = new Intl.DateTimeFormat(LOCALE, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
const DAY_AND_TIME = new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }); // biome-ignore format: one list

/** Time of day, with the date if it is not today. */
export function showTime(iso: string): string {
  const at = new Date(iso);
  const isToday = at.toDateString() === new Date().toDateString();
  return (isToday ? TIME : DAY_AND_TIME).format(at);
}

/** How a project shows figures. */
export type UnitSystem = 'metric' | 'imperial' | 'both';

const IMPERIAL: Record<string, { unit: string; factor: number }> = {
  m2: { unit: 'ft²', factor: 1 / 0.3048 ** 2 },
  m3: { unit: 'yd³', factor: 1 / 0.9144 ** 3 },
  kg: { unit: 'lb', factor: 1 / 0.45359237 },
};

/** An SI figure with its unit as the project wants it; lengths in feet and inches where it is imperial. */
export function showSi(value: number, unit: string, system: UnitSystem): { figure: string; unit: string } {
  const metric = { figure: showQuantity(value, unit), unit: unit === 'number' ? '' : showUnit(unit) };
  const other = IMPERIAL[unit];
  const imperial =
    unit === 'm'
      ? { figure: showFeetInches(value), unit: '' }
      : other
        ? { figure: showFigure(value * other.factor, 2), unit: other.unit }
        : metric;
  if (system === 'metric' || imperial === metric) return metric;
  if (system === 'imperial') return imperial;
  return { figure: `${metric.figure} ${metric.unit}`, unit: `${imperial.figure} ${imperial.unit}`.trim() };
}

/** An SI figure and its unit as one text. */
export function showSiText(value: number, unit: string, system: UnitSystem): string {
  const shown = showSi(value, unit, system);
  return `${shown.figure} ${shown.unit}`.trim();
}
