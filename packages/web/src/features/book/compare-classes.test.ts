import { compareClasses } from './compare-classes.ts';

const of = (...pairs: [string, string][]) => pairs.map(([code, title]) => ({ code, title }));

describe('a newer list of a classification', () => {
  it('tells what came, went and is called otherwise, codes in any case', () => {
    const before = { name: 'Yard', classes: of(['A', 'Ground'], ['b1', 'Walls'], ['C', 'Roof']) };
    expect(compareClasses(before, of(['A', 'Ground works'], ['B1', 'Walls'], ['D', 'Yard']))).toEqual({
      came: of(['D', 'Yard']),
      went: of(['C', 'Roof']),
      renamed: of(['A', 'Ground works']),
    });
  });
  it('is all new where there was none', () =>
    expect(compareClasses(undefined, of(['A', 'Ground']))).toMatchObject({ came: of(['A', 'Ground']), went: [] }));
});
