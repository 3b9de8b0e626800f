import { foldText } from '../units/fold-text.ts';

/**
 * Turns a pattern with `*` (any text) and `?` (one sign) into a test on folded text. It never goes back further than the last `*`, so
 * that a text of n signs against a pattern of m takes n x m steps at most.
 */
export function compileTextMatcher(pattern: string, contains = false): (folded: string) => boolean {
  const folded = foldText(pattern);
  if (!/[*?]/.test(folded)) return contains ? (text) => text.includes(folded) : (text) => text === folded;
  const wanted = (contains ? `*${folded}*` : folded).replace(/\*+/g, '*');
  return (text) => matches(text, wanted);
}

function matches(text: string, pattern: string): boolean {
  let [at, p] = [0, 0];
  // Where the last `*` stands, and up to where it has swallowed the text.
  let [star, swallowed] = [-1, 0];
  while (at < text.length) {
    const sign = pattern[p];
    if (sign === '*') {
      star = p++;
      swallowed = at;
    } else if (sign === '?' || sign === text[at]) {
      at++;
      p++;
    } else if (star >= 0) {
      p = star + 1;
      at = ++swallowed;
    } else return false;
  }
  while (pattern[p] === '*') p++;
  return p === pattern.length;
}
