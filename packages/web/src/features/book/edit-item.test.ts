import { type CostItem, FormulaNames, UNIFORMAT } from '@tally/core';
import { editItem, editItems, isWasteUnusual, itemText } from './edit-item.ts';

const item: CostItem = { code: 'M', description: 'Board', kind: 'material', unit: 'm2', rate: '4.00', wastePercent: 5 };
const terms = { names: new FormulaNames([]), currency: 'EUR', classification: UNIFORMAT };
const edit = (field: Parameters<typeof editItem>[1], text: string) => editItem(item, field, text, terms);

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
    ['class', 'b2010', { classes: { 'UNIFORMAT II': 'B2010' } }],
    ['taxClass', 'Reduced', { taxClass: 'Reduced' }],
    ['density', '680 kg/m³', { densityKgM3: 680 }],
    ['split', 'labour 40, material 60', { split: { labour: 40, material: 60 } }],
    ['soldAs', '', {}],
    ['waste', '1000', { wastePercent: 1000 }],
    ['deduction', 'yes', { rate: '-4.00', isDeduction: true }],
    ['rate', '1 250,50', { rate: '1250.5' }],
    ['soldAs', 'packs of 1 at 1,250.00', { soldAs: { pack: 1, packPrice: '1250' } }],
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
    ['waste', '5000', 'slip'],
    ['class', 'Z99', 'no class "Z99" in UNIFORMAT II'],
    ['density', 'heavy', 'no density'],
    ['density', '0', 'more than 0'],
    ['split', 'labour 40', 'adds up to 40'],
    ['waste', 'lots', 'no percentage'],
    ['waste', '1,250', 'can be 1.25 or 1250'],
    ['rate', '1,250', 'Write 1.25 or 1250'],
    ['rate', '1.250', 'can be 1.25 or 1250'],
    ['soldAs', 'packs of 1,000', 'can be 1 or 1000'],
    ['rate', '-3', 'deduction'],
    ['deduction', 'perhaps', 'yes, or nothing'],
    ['soldAs', 'in bags', 'how it is sold'],
    ['date', 'yesterday', 'date'],
  ] as const)('%s: %s is refused', (field, text, words) =>
    expect(String(edit(field, text))).toMatch(new RegExp(words, 'i')),
  );
  it('shows every field as it is typed', () => {
    const full: CostItem = {
      ...item,
      classes: { 'UNIFORMAT II': 'B2010', Yard: '7' },
      split: { labour: 40, plant: 60 },
      densityKgM3: 680,
    };
    const show = (field: Parameters<typeof itemText>[1]) => itemText(full, field, UNIFORMAT);
    expect([show('class'), show('split'), show('density'), show('notes')]).toEqual([
      'B2010',
      'labour 40, plant 60',
      '680',
      '',
    ]);
    // Another classification keeps its code.
    const made = editItem(full, 'class', '', terms);
    expect(typeof made !== 'string' && made.to.classes).toEqual({ Yard: '7' });
  });
  it('asks about waste above 100 %, once', () => {
    expect(isWasteUnusual(item, { ...item, wastePercent: 1000 })).toBe(true);
    expect(isWasteUnusual(item, { ...item, wastePercent: 100 })).toBe(false);
    expect(isWasteUnusual({ ...item, wastePercent: 300 }, { ...item, wastePercent: 300, rate: '1' })).toBe(false);
  });
  it('puts a block in whole or not at all', () => {
    const other: CostItem = { ...item, code: 'N', rate: null };
    const block = [
      { item, field: 'rate', text: '5' },
      { item, field: 'waste', text: '8' },
      { item: other, field: 'rate', text: '6' },
      { item: other, field: 'description', text: 'Board' },
    ] as const;
    const made = editItems(block, terms);
    expect(made).toMatchObject([
      { from: item, to: { rate: '5', wastePercent: 8 } },
      { from: other, to: { rate: '6' } },
    ]);
    expect(editItems([...block, { item: other, field: 'waste', text: 'x' }], terms)).toBe(
      'N, waste: "x" is no percentage.',
    );
    expect(itemText(item, 'waste', UNIFORMAT)).toBe('5');
  });
});
