import type { Allowance } from '@tally/core';
import { addAllowance, changeAllowance, readAllowanceFigure, removeAllowance } from './change-allowance.ts';

const CABIN: Allowance = { code: 'AL-1', name: 'Site cabin', measure: 'weeks', amount: 26, rate: '185', kind: 'plant' };

describe('the allowances of a project', () => {
  it('begin under a code that none has, with a key that no element of a model has', () => {
    const { cause, diff } = addAllowance({ '-5': { ...CABIN, code: 'AL-2' }, '-6': CABIN });
    expect(cause).toBe('Allowance added: AL-3');
    expect(diff.added![0]).toMatchObject({ kind: 'allowance', body: { code: 'AL-3', measure: 'once' } });
    expect(Number(diff.added![0]!.id)).toBeLessThan(0);
  });
  it('are changed in part; an empty text takes a part away', () => {
    const made = changeAllowance('-5', CABIN, { rate: undefined, name: 'Site cabin and toilet' });
    const to = { code: 'AL-1', name: 'Site cabin and toilet', measure: 'weeks', amount: 26, kind: 'plant' };
    expect(made).toMatchObject({ to, diff: { updated: [{ id: '-5', from: CABIN, to }] } });
    expect(made).not.toHaveProperty('to.rate');
  });
  it('refuse what cannot be: no name, no unit to count, a rate that is none', () => {
    expect(changeAllowance('-5', CABIN, { name: ' ' })).toBe('An allowance needs a name.');
    expect(changeAllowance('-5', CABIN, { measure: 'units' })).toBe('Say which functional unit is counted.');
    expect(changeAllowance('-5', CABIN, { rate: 'much' })).toBe('A rate is a figure such as 185.00.');
  });
  it('read figures as they are typed', () => {
    expect(readAllowanceFigure('185.50')).toEqual({ value: '185.5' });
    expect(readAllowanceFigure(' ')).toEqual({ value: '' });
    expect(readAllowanceFigure('-3')).toBe('"-3" is no figure. Write e.g. 185.00.');
  });
  it('go whole', () =>
    expect(removeAllowance('-5', CABIN).diff.removed).toEqual([{ kind: 'allowance', id: '-5', body: CABIN }]));
});
