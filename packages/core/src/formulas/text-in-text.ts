/** True for a pattern that says where one text stands. @example hasOneText('finish @') // true */
export const hasOneText = (pattern: string): boolean => pattern.split('@').length === 2;

/** Signs of a text without blanks and accents, in small letters, with the place of each in the text. */
interface Squeezed {
  readonly signs: string;
  readonly places: readonly number[];
}

function squeeze(text: string): Squeezed {
  let signs = '';
  const places: number[] = [];
  for (let at = 0; at < text.length; at++) {
    const bare = text[at]!.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
    if (/\s/.test(bare) || bare.length !== 1) continue;
    signs += bare;
    places.push(at);
  }
  return { signs, places };
}

/**
 * The text that stands in another at the `@` of a pattern, which is looked for anywhere in it, the first place first: up to what the pattern has behind it,
 * else one word. `*` stands for any text between. Case, accents and blanks do not matter. Null if it is not there.
 * @example readTextIn('Partition EI60, oak veneer / S2', ', @ /') // 'oak veneer'
 */
export function readTextIn(text: string, pattern: string): string | null {
  const whole = text.normalize('NFC');
  const { signs, places } = squeeze(whole);
  let at = 0;
  let found: string | null = null;
  for (const piece of pattern.split('*')) {
    const [before, after] = piece.split('@').map((part) => squeeze(part).signs);
    const start = signs.indexOf(before!, at);
    if (start < 0) return null;
    at = start + before!.length;
    if (after === undefined) continue;
    const from = places[at];
    if (from === undefined) return null;
    if (after === '') {
      found = /^[^\s,;/|]+/.exec(whole.slice(from))?.[0] ?? null;
      if (found === null) return null;
      while (at < places.length && places[at]! < from + found.length) at++;
    } else {
      const end = signs.indexOf(after, at + 1);
      if (end < 0) return null;
      found = whole.slice(from, places[end]).trim();
      at = end + after.length;
    }
  }
  return found;
}
