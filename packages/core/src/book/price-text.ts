/** The sign between whole units and their parts. */
export type DecimalSign = 'point' | 'comma';

const MONEY = /[€$£¥]|(?<!\p{L})(?:[A-Z]{3}|kr|Fr)(?!\p{L})\.?/gu;
const BLANK = /[\s\u00a0\u2007\u2009\u202f'’]/g;

/** A price without its currency and the blanks between thousands. */
const strip = (text: string): string =>
  text
    .replace(MONEY, '')
    .replace(BLANK, '')
    .replace(/[,.]-+$/, '')
    .replace('\u2212', '-')
    // Bookkeepers write the minus behind.
    .replace(/^(\d.*\d|\d)-$/, '-$1');

const SHAPES: Record<DecimalSign, RegExp> = {
  point: /^-?(?:\d+|\d{1,3}(?:,\d{3})+)(?:\.\d+)?$/,
  comma: /^-?(?:\d+|\d{1,3}(?:\.\d{3})+)(?:,\d+)?$/,
};

/**
 * Reads a price as people write it: with a currency, blanks or signs between thousands, a decimal point or comma. Null if it is none.
 * @example readPrice('1.234,50 €', 'comma') // '1234.50'
 */
export function readPrice(text: string, decimal: DecimalSign): string | null {
  const plain = strip(text);
  if (!SHAPES[decimal].test(plain)) return null;
  return decimal === 'point' ? plain.replaceAll(',', '') : plain.replaceAll('.', '').replace(',', '.');
}

/** Votes of a column of prices for the decimal comma (above 0) or the point (below), and whether any could be read either way. */
function countVotes(texts: Iterable<string>): { readonly votes: number; readonly isOpen: boolean } {
  let votes = 0;
  let isOpen = false;
  for (const text of texts) {
    const plain = strip(text);
    const comma = plain.lastIndexOf(',');
    const point = plain.lastIndexOf('.');
    if (comma < 0 && point < 0) continue;
    const before = votes;
    if (comma >= 0 && point >= 0) votes += comma > point ? 1 : -1;
    else if (comma >= 0) votes += isDecimal(plain, ',', comma) ? 1 : plain.indexOf(',') < comma ? -1 : 0;
    else votes += isDecimal(plain, '.', point) ? -1 : plain.indexOf('.') < point ? 1 : 0;
    isOpen ||= votes === before;
  }
  return { votes, isOpen };
}

/** False if prices of a column can be read in two ways and no other price tells which. */
export function isSignSure(texts: Iterable<string>): boolean {
  const { votes, isOpen } = countVotes(texts);
  return votes !== 0 || !isOpen;
}

/**
 * Which decimal sign a column of prices is written with, judged over all of them: `1.234` alone could be either. A point where
 * nothing tells.
 */
export function findDecimalSign(texts: Iterable<string>): DecimalSign {
  return countVotes(texts).votes > 0 ? 'comma' : 'point';
}

/** A single sign that is not followed by exactly three digits stands before decimals. */
const isDecimal = (text: string, sign: string, last: number) =>
  text.indexOf(sign) === last && text.length - last - 1 !== 3;
