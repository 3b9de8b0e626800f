import fc from 'fast-check';
import { sampleItem } from '../testing/sample-basis.ts';
import { applyDiff, diffEntries, type Entry, invertDiff, isEmptyDiff, listTouchedEntries } from './entry-diff.ts';
import { readRateHistory } from './rate-history.ts';
import { findRedoable, findUndoable, listTakenBack } from './undo-order.ts';

const entries = fc.uniqueArray(
  fc.record({ kind: fc.constantFrom('item', 'rule'), id: fc.constantFrom('a', 'b', 'c', 'd'), body: fc.integer() }),
  { selector: (e) => `${e.kind}/${e.id}`, maxLength: 8 },
);
const sorted = (list: readonly Entry[]) =>
  [...list].sort((a, b) => `${a.kind}/${a.id}`.localeCompare(`${b.kind}/${b.id}`));

describe('diffs of entries', () => {
  it('lead from before to after, and inverted back again', () => {
    fc.assert(
      fc.property(entries, entries, (before, after) => {
        const diff = diffEntries<unknown>(before, after);
        expect(sorted(applyDiff(before, diff))).toEqual(sorted(after));
        expect(sorted(applyDiff(after, invertDiff(diff)))).toEqual(sorted(before));
        expect(isEmptyDiff(diffEntries(after, after))).toBe(true);
      }),
    );
  });
  it('refuse to be applied where they do not fit', () => {
    const one = { kind: 'item', id: 'a', body: 1 };
    expect(() => applyDiff([one], { added: [one], updated: [], removed: [] })).toThrow('item/a is there already');
    expect(() => applyDiff([], { added: [], updated: [], removed: [one] })).toThrow('item/a is not there');
    expect(
      listTouchedEntries({ added: [one], updated: [{ kind: 'rule', id: 'r', from: 1, to: 2 }], removed: [] }),
    ).toEqual(['item/a', 'rule/r']);
  });
});

describe('undo and redo', () => {
  type C = { seq: number; undoes: number | null };
  /** A log driven by a user who edits (e), undoes (u) and redoes (r). */
  const play = (keys: string) => {
    const log: C[] = [];
    for (const key of keys) {
      const target = key === 'u' ? findUndoable(log) : key === 'r' ? findRedoable(log) : null;
      if (key !== 'e' && !target) continue;
      log.unshift({ seq: log.length + 1, undoes: target?.seq ?? null });
    }
    const back = listTakenBack(log);
    return log
      .filter((c) => c.undoes === null && !back.has(c.seq))
      .map((c) => c.seq)
      .reverse();
  };
  it.each([
    ['e', [1]],
    ['eu', []],
    ['eur', [1]],
    ['eeu', [1]],
    ['eeuu', []],
    ['eeuur', [1]],
    ['eeuurr', [1, 2]],
    ['eurur', [1]],
    ['eeur', [1, 2]],
    ['euer', [3]],
    ['uuu', []],
  ])('%s leaves %j in force', (keys, inForce) => expect(play(keys)).toEqual(inForce));
});

describe('the past of a rate', () => {
  const item = (at: string, rate: string | null, more = {}) => ({
    at,
    author: 'Ann',
    cause: at,
    item: sampleItem('M', 'm', rate, more),
  });
  it('is what the change log tells of it, with source and date', () => {
    const log = [
      item('1', '1.00'),
      item('2', '1.00', { description: 'Other words' }),
      item('3', '1.10', { source: 'Yard', date: '2026-03-02' }),
      item('5', null, { rateFormula: 'BoardPrice' }),
      item('6', null, { soldAs: { pack: 25, packPrice: '30' } }),
      item('7', null, { soldAs: { lengths: [2, 3], lengthPrices: ['4', '5'] } }),
    ];
    expect(readRateHistory(log).map((r) => [r.at, r.rate, r.workedOut, r.source, r.date])).toEqual([
      ['1', '1.00', null, null, null],
      ['3', '1.10', null, 'Yard', '2026-03-02'],
      ['5', null, 'BoardPrice', null, null],
      ['6', null, 'packs of 25 m at 30', null, null],
      ['7', null, 'lengths 2 at 4, 3 at 5 m', null, null],
    ]);
  });
});
