import { KeptState } from './kept-state.ts';

/** The storage of a browser, as far as it is used. */
function makeStorage(most = Number.POSITIVE_INFINITY): Storage {
  const map = new Map<string, string>();
  return {
    getItem: (name: string) => map.get(name) ?? null,
    setItem: (name: string, text: string) => {
      if (text.length > most) throw new Error('QuotaExceededError');
      map.set(name, text);
    },
    removeItem: (name: string) => void map.delete(name),
    get length() {
      return map.size;
    },
  } as unknown as Storage;
}

describe('what a person has set up', () => {
  it('is there after a reload, by its name', () => {
    const storage = makeStorage();
    const first = new KeptState(storage);
    expect(first.read('p/closed', [] as string[])).toEqual([]);
    first.write('p/closed', ['a', 'b']);
    expect(first.read('p/closed', [])).toBe(first.read('p/closed', []));
    const again = new KeptState(storage);
    expect(again.read('p/closed', [])).toEqual(['a', 'b']);
    expect(again.read('q/closed', ['own'])).toEqual(['own']);
  });
  it('is told to whoever listens, until he stops', () => {
    const state = new KeptState(null);
    const told: number[] = [];
    const stop = state.listen(() => told.push(state.read('n', 0)));
    state.write('n', 4);
    stop();
    state.write('n', 5);
    expect([told, state.read('n', 0)]).toEqual([[4], 5]);
  });
  it('of another kind, or damaged, is as if nothing were kept', () => {
    const storage = makeStorage();
    storage.setItem('tally/kept/a', '{"broken');
    storage.setItem('tally/kept/b', '"text"');
    storage.setItem('tally/kept/c', '[1]');
    storage.setItem('tally/kept/d', '{"x":1}');
    const state = new KeptState(storage);
    expect([state.read('a', 3), state.read('b', 3), state.read('c', {}), state.read('d', null)]).toEqual([3, 3, {}, { x: 1 }]); // biome-ignore format: one list
  });
  it('stays for the page where the browser keeps no more', () => {
    const storage = makeStorage(10);
    const state = new KeptState(storage);
    state.write('long', 'x'.repeat(50));
    expect(state.read('long', '')).toHaveLength(50);
    expect(new KeptState(storage).read('long', '')).toBe('');
  });
  it('is not kept without end: what was written longest ago goes', () => {
    const storage = makeStorage();
    const state = new KeptState(storage);
    for (let n = 0; n < 405; n++) state.write(`n${n}`, n);
    state.write('n5', 55);
    state.write('last', 1);
    const again = new KeptState(storage);
    expect([again.read('n4', -1), again.read('n5', -1), again.read('n6', -1), again.read('n404', -1)]).toEqual([-1, 55, -1, 404]); // biome-ignore format: one list
    expect(storage.length).toBe(401);
  });
});
