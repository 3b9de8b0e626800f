import { failure, type Result, success } from '../result/result.ts';

const BLANK = /[ \u00a0\u2007\u2009\u202f'’]/g;
const GROUPED = /^-?\d{1,3}(?:[ \u00a0\u2007\u2009\u202f'’]\d{3})+(?:[.,]\d+)?$/;
const PLAIN = /^-?\d+(?:[.,]\d+)?$/;
const BOTH = /^-?\d{1,3}(?:(?:,\d{3})+\.\d+|(?:\.\d{3})+,\d+)$/;
const SEVERAL = /^-?\d{1,3}(?:(?:,\d{3}){2,}|(?:\.\d{3}){2,})$/;
/** One sign with three digits behind it and up to three before: decimals to some, thousands to others. */
const EITHER = /^-?[1-9]\d{0,2}[.,]\d{3}$/;

/** Ways of writing figures: sign or blank between thousands, sign before decimals. */
export const NUMBER_STYLES = ['1,234.50', '1.234,50', '1 234.50', '1 234,50'] as const;
export type NumberStyle = (typeof NUMBER_STYLES)[number];

/** Sign before the decimals of a style, and between thousands. @example signsOf('1 234,50') // { decimal: ',', group: ' ' } */
export const signsOf = (style: NumberStyle): { readonly decimal: string; readonly group: string } => ({
  decimal: style[5]!,
  group: style[1]!,
});

/**
 * Reads a figure as people type it: a point or a comma before decimals, blanks, points or commas between thousands. What could be
 * either is read as the style of the person writes it; where that does not use the sign, or no style is known, it is asked, never
 * guessed. Errors: `number-unreadable`, `number-ambiguous` with both readings.
 * @example readTypedNumber('1 250,5') // 1250.5; '1,250' is 1250 in the style '1,234.50', 1.25 in '1.234,50', else ambiguous
 */
export function readTypedNumber(text: string, style: NumberStyle | null = null): Result<number> {
  const typed = text.trim().replace('\u2212', '-');
  if (EITHER.test(typed)) {
    const decimals = Number(typed.replace(',', '.'));
    const whole = typed.replace(/[.,]/, '');
    const { decimal, group } = style ? signsOf(style) : { decimal: '', group: '' };
    const sign = /[.,]/.exec(typed)![0];
    if (sign === decimal) return success(decimals);
    if (sign === group) return success(Number(whole));
    return failure('number-ambiguous', `"${text.trim()}" can be ${decimals} or ${whole}.`, {
      remedy: `Write ${writeTypedNumber(decimals, style)} or ${whole}.`,
    });
  }
  const bare = typed.replace(BLANK, '');
  if (SEVERAL.test(typed)) return success(Number(typed.replace(/[.,]/g, '')));
  if (BOTH.test(typed)) {
    const thousands = typed.lastIndexOf(',') > typed.lastIndexOf('.') ? /\./g : /,/g;
    return success(Number(typed.replace(thousands, '').replace(',', '.')));
  }
  if (PLAIN.test(typed) || GROUPED.test(typed)) return success(Number(bare.replace(',', '.')));
  return failure('number-unreadable', `"${text.trim()}" is no figure.`, { remedy: 'Write a figure such as 12.50.' });
}

/**
 * A figure so that it is read back as it is: where no style tells, 1.125 as 1.1250, which is not taken for a thousand.
 * @param figure as it is kept, with a point
 */
export function writeTypedNumber(figure: number | string, style: NumberStyle | null = null): string {
  const text = String(figure);
  if (style) return text.replace('.', signsOf(style).decimal);
  return EITHER.test(text) ? `${text}0` : text;
}

/** A figure that a file has as text: files write points; a comma is read where it is clear. NaN if it is none. */
export function readFileNumber(text: string): number {
  if (!text.includes(',')) return text.trim() === '' ? Number.NaN : Number(text);
  const read = readTypedNumber(text);
  return read.ok ? read.value : Number.NaN;
}
