import { keepIdentity } from './keep-identity.ts';

const item = (code: string, rate: string, sizes: readonly number[] = [3, 4.2]) => ({ code, rate, soldAs: { sizes } });
const idOf = ({ code }: { code: string }) => code;

describe('the objects of a list that came anew', () => {
  const before = [item('A', '1'), item('B', '2'), item('C', '3')];
  it('are those of before where they hold the same', () => {
    const after = keepIdentity(before, [item('B', '2'), item('A', '1.10'), item('C', '3', [3])], idOf);
    expect(after[0]).toBe(before[1]);
    expect(after[1]).toEqual(item('A', '1.10'));
    expect(after[2]).toEqual(item('C', '3', [3]));
  });
  it('are the very list where all of it is the same', () =>
    expect(keepIdentity(before, structuredClone(before), idOf)).toBe(before));
  it('tell an absent value from an undefined one, a list from an object', () => {
    const one: unknown[] = [
      { id: 'x', a: undefined },
      { id: 'y', a: [] },
    ];
    const two: unknown[] = [
      { id: 'x', b: undefined },
      { id: 'y', a: {} },
    ];
    expect(keepIdentity(one, two, (t) => (t as { id: string }).id)).toEqual(two);
    expect(keepIdentity(one, two, (t) => (t as { id: string }).id)[1]).toBe(two[1]);
  });
});
