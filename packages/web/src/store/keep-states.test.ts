import type { ElementStatesDto } from '@tally/core';
import { keepStates } from './keep-states.ts';

const states = (revisionId: string, amounts: readonly number[]): ElementStatesDto => ({
  revisionId,
  keys: amounts.map((_, i) => i + 1),
  states: amounts.map((amount) => (amount > 0 ? 2 : 0)),
  amounts,
});

describe('states that are read again', () => {
  const held = [states('r1', [100, 0]), states('r2', [7])];
  it('are those that are held while they say the same', () => {
    expect(keepStates(held, [states('r1', [100, 0]), states('r2', [7])])).toBe(held);
    expect(keepStates(undefined, held)).toBe(held);
  });
  it('are new only for the source where one figure is another', () => {
    const read = [states('r1', [100, 0]), states('r2', [8])];
    const kept = keepStates(held, read);
    expect(kept).not.toBe(held);
    expect(kept[0]).toBe(held[0]);
    expect(kept[1]).toBe(read[1]);
  });
  it('are new where an element, a state or a revision is another, comes or goes', () => {
    const first = held[0]!;
    for (const read of [
      [{ ...first, keys: [1, 3] }, held[1]!],
      [{ ...first, states: [2, 1] }, held[1]!],
      [{ ...first, revisionId: 'r9' }, held[1]!],
      [states('r1', [100, 0, 5]), held[1]!],
      [states('r1', [100, 0])],
      [...held, states('r3', [])],
    ])
      expect(keepStates(held, read)).toEqual(read);
    expect(keepStates(held, [states('r1', [100, 0])])).toHaveLength(1);
  });
});
