import type { CostItem } from '@tally/core';
import { fillItemForm, itemFormSchema } from './item-form.ts';

const LOCKER: CostItem = { code: 'M-LOCK', description: 'Locker', kind: 'material', unit: 'each', rate: '128.00' };
const FRESH: CostItem = { code: '', description: '', kind: 'material', unit: 'm', rate: null };
const typed = { ...fillItemForm(FRESH), code: 'M-ROPE', description: 'Rope, hemp' };
const read = (form: object, from: CostItem = FRESH) => itemFormSchema(from, [LOCKER]).safeParse(form);

describe('the form of a new item', () => {
  it('gives what was typed, and nothing for what was left empty', () => {
    expect(read({ ...typed, rate: '4.20', supplier: 'Chandlery' }).data).toEqual({
      code: 'M-ROPE',
      description: 'Rope, hemp',
      kind: 'material',
      unit: 'm',
      rate: '4.2',
      supplier: 'Chandlery',
    });
  });
  it('has no rate where none is typed: unknown, not 0', () => {
    expect(read(typed).data?.rate).toBeNull();
  });
  it.each([
    ['a code that is taken, in any case', { code: 'm-lock' }, ['code']],
    ['a rate that is no figure', { rate: 'much' }, ['rate']],
    ['a unit that nobody knows', { unit: 'armful' }, ['unit']],
  ])('refuses %s, at its place', (_, wrong, path) => {
    expect(read({ ...typed, ...wrong }).error?.issues[0]?.path).toEqual(path);
  });
  it('keeps of an item that is copied what the form does not show, and lets a plain rate take the place of a formula', () => {
    const copied: CostItem = { ...LOCKER, code: '', notes: 'Order early', rate: null, rateFormula: 'Width * 90 EUR/m' };
    const { data } = read({ ...fillItemForm(copied), code: 'M-LOCK2', rate: '99' }, copied);
    expect([data?.notes, data?.rate, data?.rateFormula]).toEqual(['Order early', '99', undefined]);
  });
});
