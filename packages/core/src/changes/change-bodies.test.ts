import { changeAttribute } from './change-bodies.ts';

describe('an attribute of our own', () => {
  const own = { 1: { Grade: 'A' }, 2: { Grade: 'B', Coats: 2 } };
  it('is taken away from several elements; what nothing is left of goes', () =>
    expect(changeAttribute(own, [1, 2], 'Grade', null)).toEqual({
      cause: 'Grade of 2 elements: taken away',
      diff: {
        added: [],
        updated: [{ kind: 'attributes', id: '2', from: { Grade: 'B', Coats: 2 }, to: { Coats: 2 } }],
        removed: [{ kind: 'attributes', id: '1', body: { Grade: 'A' } }],
      },
    }));
  it('is given beside what is there; what has it already is passed over', () =>
    expect(changeAttribute(own, [1, 2, 3], 'Coats', 2)).toEqual({
      cause: 'Coats of 3 elements: 2',
      diff: {
        added: [{ kind: 'attributes', id: '3', body: { Coats: 2 } }],
        updated: [{ kind: 'attributes', id: '1', from: { Grade: 'A' }, to: { Grade: 'A', Coats: 2 } }],
        removed: [],
      },
    }));
});
