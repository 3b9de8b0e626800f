import type { SiUnit } from './branded.ts';
import { isSameDimension } from './dimension.ts';
import { readLength } from './length-text.ts';
import { siUnitToDimension } from './si-units.ts';
import { type NumberStyle, readTypedNumber } from './typed-number.ts';
import { findSimpleUnit } from './unit.ts';

const FIGURE_AND_UNIT = /^(-?\d(?:[\d.,' ]*\d)?)\s*([a-z]+[23²³]?)$/i;
const CARRIED: readonly SiUnit[] = ['m', 'm2', 'm3', 'kg', 'each', 'h'];

/**
 * Reads a figure typed with its unit, as an SI figure: `2.4 m`, `12,5 m2`, `30 min`, `7' 6"`. Null for anything else, also for a
 * figure without a unit.
 * @example readMeasure('240 cm') // { value: 2.4, unit: 'm' }
 */
export function readMeasure(
  text: string,
  style: NumberStyle | null = null,
): { readonly value: number; readonly unit: SiUnit } | null {
  const trimmed = text.trim();
  const match = FIGURE_AND_UNIT.exec(trimmed);
  const unit = match && findSimpleUnit(match[2]!);
  const carried = unit && CARRIED.find((si) => isSameDimension(siUnitToDimension(si), unit.dimension));
  if (carried) {
    const figure = readTypedNumber(match[1]!, style);
    return figure.ok ? { value: figure.value * unit.factor, unit: carried } : null;
  }
  if (!/\d\s*(?:['"’′”″]|ft|in)/i.test(trimmed)) return null;
  const length = readLength(trimmed, 'm', style);
  return length.ok ? { value: length.value, unit: 'm' } : null;
}
