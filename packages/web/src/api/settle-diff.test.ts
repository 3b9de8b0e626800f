import { settleDiff } from './settle-diff.ts';

const book = { bookId: 'b', version: 1, hash: 'h', name: 'River', newest: 1, own: ['item/OWN'], overrides: [] };
const update = (kind: string, id: string) => ({ kind, id, from: 1, to: 2 });

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
  it('takes nothing out of the book', () => {
    expect(settleDiff({ removed: [{ kind: 'item', id: 'THEIRS', body: 1 }] }, book)).toContain(
      'belongs to the book River',
    );
    expect(settleDiff({ removed: [{ kind: 'item', id: 'OWN', body: 1 }] }, book)).toMatchObject({ added: [] });
  });
});
