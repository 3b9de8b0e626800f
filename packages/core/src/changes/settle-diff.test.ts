import { bringBackDiff, settleDiff, takeOutDiff } from './settle-diff.ts';

const book = {
  bookId: 'b',
  version: 1,
  hash: 'h',
  name: 'River',
  newest: 1,
  own: ['item/OWN', 'item/CHANGED'],
  overrides: ['item/CHANGED'],
  takenOut: ['item/GONE'],
};
const update = (kind: string, id: string) => ({ kind, id, from: 1, to: 2 });
const entry = (id: string) => ({ kind: 'item', id, body: 1 });
const gone = (id: string) => ({ kind: 'takenOut', id: `item/${id}`, body: {} });

describe('a change in a project that stands on a book', () => {
  it('adds what the project has not of its own, and changes the rest', () => {
    const diff = { updated: [update('item', 'THEIRS'), update('item', 'OWN'), update('rule', 'r')] };
    expect(settleDiff(diff, book)).toEqual({
      added: [{ kind: 'item', id: 'THEIRS', body: 2 }],
      updated: [update('item', 'OWN'), update('rule', 'r')],
      removed: [],
    });
    expect(settleDiff(diff, null)).toMatchObject({ updated: diff.updated, added: [] });
  });
  it('notes what is taken out of the book, and removes what is its own', () => {
    expect(settleDiff({ removed: [entry('THEIRS')] }, book)).toEqual({
      added: [gone('THEIRS')],
      updated: [],
      removed: [],
    });
    expect(settleDiff({ removed: [entry('OWN')] }, book)).toMatchObject({ added: [], removed: [entry('OWN')] });
    expect(settleDiff({ removed: [{ kind: 'rule', id: 'r', body: 1 }] }, book)).toMatchObject({ added: [] });
  });
  it('forgets that something was taken out when it is there again', () =>
    expect(settleDiff({ added: [entry('GONE')] }, book)).toMatchObject({
      added: [entry('GONE')],
      removed: [gone('GONE')],
    }));
});

describe('taking out', () => {
  const settle = (id: string) => settleDiff(takeOutDiff('item', id, 1, book), book);
  it('takes an entry that is changed here, and the book’s below it', () =>
    expect(settle('CHANGED')).toMatchObject({ added: [gone('CHANGED')], removed: [entry('CHANGED')] }));
  it('takes what is of the project alone, or of the book alone', () => {
    expect(settle('OWN')).toMatchObject({ added: [], removed: [entry('OWN')] });
    expect(settle('THEIRS')).toMatchObject({ added: [gone('THEIRS')], removed: [] });
  });
  it('is taken back', () =>
    expect(settleDiff(bringBackDiff('item/GONE'), book)).toMatchObject({ added: [], removed: [gone('GONE')] }));
});
