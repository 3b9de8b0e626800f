import { failure, type Result, success } from '../result/result.ts';
import { type NumberStyle, readTypedNumber } from './typed-number.ts';
import { parseUnit } from './unit.ts';

const METRES_PER_INCH = 0.0254;
const FRACTION = String.raw`(?:(\d+)\s*\/\s*(\d+))`;
const FEET = new RegExp(
  String.raw`^(-)?\s*(?:(\d+(?:[.,]\d+)?)\s*(?:'|ft|feet))?\s*-?\s*(?:(\d+(?:[.,]\d+)?)?\s*${FRACTION}?\s*(?:"|''|in|inch(?:es)?))?$`,
  'i',
);
const PLAIN = /^(-?\d(?:[\d.,' ]*\d)?)\s*([a-z]+)?$/i;

/**
 * Reads a length as builders write it: `2.4 m`, `240 cm`, `2,4`, `7' 10 1/2"`, `7ft 6in`. Without a unit it is in `assumed`.
 * Returns metres. Errors: `length-unreadable`, `number-ambiguous`.
 * @example readLength(`7' 10 1/2"`) // 2.4003
 */
export function readLength(
  text: string,
  assumed: 'm' | 'mm' | 'ft' | 'in' = 'm',
  style: NumberStyle | null = null,
): Result<number> {
  const trimmed = text.trim().replace(/[’′]/g, "'").replace(/[”″]/g, '"');
  const plain = PLAIN.exec(trimmed);
  if (plain) {
    const unit = parseUnit(plain[2]?.toLowerCase() ?? assumed);
    if (unit.ok && unit.value.dimension.length === 1 && Object.keys(unit.value.dimension).length === 1) {
      const figure = readTypedNumber(plain[1]!, style);
      return figure.ok ? success(figure.value * unit.value.factor) : figure;
    }
  }
  const feet = FEET.exec(trimmed);
  if (feet && (feet[2] !== undefined || feet[3] !== undefined || feet[4] !== undefined)) {
    const figure = (t: string | undefined) => (t === undefined ? 0 : Number(t.replace(',', '.')));
    const fraction = feet[4] === undefined ? 0 : Number(feet[4]) / Number(feet[5]);
    if (Number.isFinite(fraction)) {
      const inches = figure(feet[2]) * 12 + figure(feet[3]) + fraction;
      return success((feet[1] ? -1 : 1) * inches * METRES_PER_INCH);
    }
  }
  return failure('length-unreadable', `"${text}" is no length.`, {
    remedy: `Write for example 2.4 m, 240 cm or 7' 10 1/2".`,
  });
}

/**
 * A length in feet, inches and sixteenths, the nearest.
 * @example showFeetInches(2.4003) // 7' 10 1/2"
 */
export function showFeetInches(metres: number): string {
  const sixteenths = Math.round((Math.abs(metres) / METRES_PER_INCH) * 16);
  const feet = Math.floor(sixteenths / 192);
  const inches = Math.floor((sixteenths % 192) / 16);
  let [over, under] = [sixteenths % 16, 16];
  while (over > 0 && over % 2 === 0) [over, under] = [over / 2, under / 2];
  const sign = metres < 0 && sixteenths > 0 ? '\u2212' : '';
  return `${sign}${feet}' ${inches}${over > 0 ? ` ${over}/${under}` : ''}"`;
}
