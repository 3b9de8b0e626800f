import fc from 'fast-check';
import { mergeFields } from './merge-fields.ts';

interface Item {
  readonly rate?: string;
  readonly waste?: number;
  readonly note?: string;
}
const base: Item = { rate: '10', waste: 3 };

describe('one record that two people write', () => {
  it('takes what only one of both changed', () =>
    expect(mergeFields<Item>(base, { rate: '12', waste: 3, note: 'May' }, { rate: '10', waste: 5 })).toEqual({
      merged: { rate: '12', waste: 5, note: 'May' },
      taken: ['rate', 'note'],
      conflicts: [],
    }));
  it('keeps both texts where both changed the same, until one is chosen', () =>
    expect(mergeFields<Item>(base, { rate: '12', waste: 3 }, { rate: '11', waste: 3 })).toEqual({
      merged: { rate: '11', waste: 3 },
      taken: [],
      conflicts: [{ field: 'rate', theirs: '12', mine: '11' }],
    }));
  it('asks nothing where both did the same, or the other took a field away that one left alone', () => {
    expect(mergeFields<Item>(base, { rate: '12', waste: 3 }, { rate: '12', waste: 3 }).conflicts).toEqual([]);
    expect(mergeFields<Item>(base, { rate: '10' }, { rate: '11', waste: 3 })).toEqual({
      merged: { rate: '11' },
      taken: ['waste'],
      conflicts: [],
    });
  });
  it('loses no text of either: each field is one of both, and none is asked that only one changed', () => {
    const field = fc.option(fc.constantFrom('a', 'b', 'c'), { nil: undefined });
    const record = fc.record({ x: field, y: field });
    fc.assert(
      fc.property(record, record, record, (from, theirs, mine) => {
        const { merged, conflicts, taken } = mergeFields(from, theirs, mine);
        for (const name of ['x', 'y'] as const) {
          const changedBoth = theirs[name] !== from[name] && mine[name] !== from[name] && theirs[name] !== mine[name];
          expect(conflicts.some((c) => c.field === name)).toBe(changedBoth);
          const onlyTheirs = theirs[name] !== from[name] && mine[name] === from[name];
          expect(taken.includes(name)).toBe(onlyTheirs);
          expect(merged[name]).toBe(onlyTheirs ? theirs[name] : mine[name]);
        }
      }),
      { seed: 2, numRuns: 300 },
    );
  });
});
