import { type CostItem, FormulaNames, UNIFORMAT } from '@tally/core';
import { type ItemView, sortItems } from './item-view.ts';

const terms = { names: new FormulaNames([]), currency: 'EUR', classification: UNIFORMAT };
const item = (code: string, more: Partial<CostItem>): CostItem => ({
  code,
  description: '',
  kind: 'material',
  unit: 'm',
  rate: null,
  ...more,
});
const items = [
  item('M-10', { rate: '9', classes: { 'UNIFORMAT II': 'C3020' } }),
  item('M-2', { rate: '10', wastePercent: 5 }),
  item('A-1', { soldAs: { pack: 2, packPrice: '19' }, classes: { 'UNIFORMAT II': 'B2010' } }),
  item('Z-1', { rateFormula: 'number("Set.Price", 1 EUR/m)', wastePercent: 12 }),
  item('Z-0', {}),
];
const order = (sort: ItemView['sort'], isDescending = false) =>
  sortItems(items, { shown: [], sort, isDescending }, terms).map((i) => i.code);

describe('items in order', () => {
  it('by code, figures in it by their size', () => expect(order('code')).toEqual(['A-1', 'M-2', 'M-10', 'Z-0', 'Z-1']));
  it('by rate as it is worked out; one for each element, then none, come last', () => {
    // 9, 9.50 of the pack, 10
    expect(order('rate')).toEqual(['M-10', 'A-1', 'M-2', 'Z-1', 'Z-0']);
    expect(order('rate', true)).toEqual(['Z-1', 'M-2', 'A-1', 'M-10', 'Z-0']);
  });
  it('by class and by waste, what says nothing last either way', () => {
    expect(order('class')).toEqual(['A-1', 'M-10', 'M-2', 'Z-0', 'Z-1']);
    expect(order('class', true)).toEqual(['M-10', 'A-1', 'M-2', 'Z-0', 'Z-1']);
    expect(order('waste', true).slice(0, 2)).toEqual(['Z-1', 'M-2']);
  });
});
