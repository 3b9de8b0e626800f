import type { CostItem } from '@tally/core';
import { keepNamed } from './use-named-book.ts';

const item = (code: string, more: Partial<CostItem> = {}): CostItem => ({ code, description: `Thing ${code}`, kind: 'material', unit: 'm', rate: '10', ...more }); // biome-ignore format: one item
const book = (...items: CostItem[]) => ({ items, assemblies: [] });

describe('a book as things are found in it', () => {
  const before = book(item('A'), item('B', { classes: { Uniformat: 'B2020' } }));
  it('stays the same object while nothing but prices changes', () => {
    const repriced = book(
      item('A', { rate: '12' }),
      item('B', { classes: { Uniformat: 'B2020' }, rateFormula: 'Base * 2' }),
    );
    expect(keepNamed(before, repriced)).toBe(before);
    expect(keepNamed(before, before)).toBe(before);
  });
  it('is another where a thing is called, measured or classed otherwise, comes or goes', () => {
    const classes = { Uniformat: 'B2020' };
    for (const now of [
      book(item('A'), item('B')),
      book(item('A'), item('B', { classes, unit: 'm2' })),
      book(item('A', { description: 'Other' }), item('B', { classes })),
      book(item('A'), item('C', { classes })),
      book(item('A')),
      { ...before, assemblies: [item('S')] },
    ])
      expect(keepNamed(before, now)).toBe(now);
    expect(keepNamed(null, before)).toBe(before);
  });
});
