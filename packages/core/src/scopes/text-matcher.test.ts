import fc from 'fast-check';
import { compileTextMatcher } from './text-matcher.ts';

describe('patterns with * and ?', () => {
  it.each([
    ['plinth*', 'plinthstone', true],
    ['*stone', 'plinthstone', true],
    ['pl?nth', 'plinth', true],
    ['pl?nth', 'plnth', false],
    ['*a*b', 'aab', true],
    ['*a*b', 'aba', false],
    ['', '', true],
    ['*', '', true],
    ['?', '', false],
  ])('%j of %j is %s', (pattern, text, hit) => expect(compileTextMatcher(pattern)(text)).toBe(hit));
  it('find a part where that is asked', () => expect(compileTextMatcher('st?n', true)('plinthstone')).toBe(true));
  it('agree with a search that tries everything', () => {
    const slow = (text: string, pattern: string): boolean => {
      if (pattern === '') return text === '';
      if (pattern[0] === '*') return slow(text, pattern.slice(1)) || (text !== '' && slow(text.slice(1), pattern));
      return text !== '' && (pattern[0] === '?' || pattern[0] === text[0]) && slow(text.slice(1), pattern.slice(1));
    };
    const word = (signs: string) => fc.array(fc.constantFrom(...signs), { maxLength: 8 }).map((a) => a.join(''));
    fc.assert(
      fc.property(word('ab'), word('ab*?'), (text, pattern) => {
        expect(compileTextMatcher(pattern)(text)).toBe(slow(text, pattern));
      }),
      { seed: 5, numRuns: 2000 },
    );
  });
  it('take their time by the length of the text: 60,000 signs against seven stars', () =>
    expect(compileTextMatcher('*a*a*a*a*a*a*b')('a'.repeat(60_000))).toBe(false));
});
