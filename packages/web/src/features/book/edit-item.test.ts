import { type CostItem, FormulaNames } from '@tally/core';
import { editItem, editItems, itemText } from './edit-item.ts';

const item: CostItem = { code: 'M', description: 'Board', kind: 'material', unit: 'm2', rate: '4.00', wastePercent: 5 };
const names = new FormulaNames([]);
const edit = (field: Parameters<typeof editItem>[1], text: string) => editItem(item, field, text, names, 'EUR');

describe('typing in the book', () => {
  it.each([
    ['description', ' Wide board ', { description: 'Wide board' }],
    ['kind', 'Labour', { kind: 'labour' }],
    ['unit', 'm3', { unit: 'm3' }],
    ['rate', '4,50', { rate: '4.5' }],
    ['waste', '7,5 %', { wastePercent: 7.5 }],
    ['soldAs', '3 packs', { soldAs: { pack: 3 } }],
    ['supplier', 'Yard', { supplier: 'Yard' }],
    ['date', '2026-03-02', { date: '2026-03-02' }],
  ] as const)('%s: %s', (field, text, part) => expect(edit(field, text)).toMatchObject({ to: { ...item, ...part } }));
  it('leaves no empty fields behind', () => {
    expect(edit('waste', '')).toMatchObject({ to: { code: 'M' } });
    const made = edit('waste', '0');
    expect(typeof made !== 'string' && 'wastePercent' in made.to).toBe(false);
  });
  it.each([
    ['kind', 'wood', 'Write one of'],
    ['unit', 'furlong', 'no such unit'],
    ['rate', 'dear', 'no quantity'],
    ['waste', '-2', 'negative'],
    ['waste', '1000', 'slip'],
    ['waste', 'lots', 'no percentage'],
    ['soldAs', 'in bags', 'how it is sold'],
    ['date', 'yesterday', 'date'],
  ] as const)('%s: %s is refused', (field, text, words) =>
    expect(String(edit(field, text))).toMatch(new RegExp(words, 'i')),
  );
  it('puts a block in whole or not at all', () => {
    const other: CostItem = { ...item, code: 'N', rate: null };
    const block = [
      { item, field: 'rate', text: '5' },
      { item, field: 'waste', text: '8' },
      { item: other, field: 'rate', text: '6' },
      { item: other, field: 'description', text: 'Board' },
    ] as const;
    const made = editItems(block, names, 'EUR');
    expect(made).toMatchObject([
      { from: item, to: { rate: '5', wastePercent: 8 } },
      { from: other, to: { rate: '6' } },
    ]);
    expect(editItems([...block, { item: other, field: 'waste', text: 'x' }], names, 'EUR')).toBe(
      'N, waste: "x" is no percentage.',
    );
    expect(itemText(item, 'waste')).toBe('5');
  });
});
