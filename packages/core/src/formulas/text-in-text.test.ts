import { hasOneText, readTextIn } from './text-in-text.ts';

describe('a text in another', () => {
  it.each([
    ['Partition EI60, oak veneer / S2', ', @ /', 'oak veneer'],
    ['Wall 150 finish PAINT-2 matt', 'finish @', 'PAINT-2'],
    ['Wall 150  FINISH  Kalkputz', 'Finish @', 'Kalkputz'],
    ['Tür Eiche geölt', 'tur @', 'Eiche'],
    ['A-100-red', '* - * - @', 'red'],
    ['Steel (S235)', '(@)', 'S235'],
    ['Oak', '@', 'Oak'],
    ['a+b=c', 'a+@=', 'b'],
  ])('%s at %s is %s', (text, pattern, found) => expect(readTextIn(text, pattern)).toBe(found));
  it.each([
    ['Wall 150', 'finish @'],
    ['Wall finish', 'finish @'],
    ['', '@'],
    ['x', 'x'],
  ])('%s has nothing at %s', (text, pattern) => expect(readTextIn(text, pattern)).toBeNull());
  it('is looked for in one go, whatever the texts are', () =>
    expect(readTextIn('a'.repeat(200_000), `${'*a'.repeat(60)}@b`)).toBeNull());
  it('says where one stands', () => expect(['a @', 'a', '@ and @'].map(hasOneText)).toEqual([true, false, false]));
});
