import { foldText } from '../units/fold-text.ts';

/** Turns a pattern with `*` (any text) and `?` (one sign) into a test on folded text. */
export function compileTextMatcher(pattern: string, contains = false): (folded: string) => boolean {
  const folded = foldText(pattern);
  if (!/[*?]/.test(folded)) return contains ? (text) => text.includes(folded) : (text) => text === folded;
  const source = folded
    .replace(/[.+^${}()|[\]\\]/g, '\\$&')
    .replace(/\*/g, '.*')
    .replace(/\?/g, '.');
  const regex = new RegExp(contains ? source : `^${source}$`, 's');
  return (text) => regex.test(text);
}
