import { compileValues, FormulaNames } from '@tally/core';
import { changeRate, rateText, workOutRate } from './change-rate.ts';

describe('changing a rate', () => {
  const item = { code: 'M', description: 'M', kind: 'material', unit: 'm2', rate: '1.00' } as const;
  const names = new FormulaNames(compileValues([{ name: 'Oil finish', unit: 'EUR/m2', value: '9.40' }]));
  const change = (text: string, from: Parameters<typeof changeRate>[0] = item) => changeRate(from, text, names, 'EUR');
  it('names the move and both states', () => {
    expect(change('2,5')).toEqual({
      cause: 'Rate of M 1.00 > 2.5',
      diff: { updated: [{ kind: 'item', id: 'M', from: item, to: { ...item, rate: '2.5' } }] },
    });
    expect(change('')).toMatchObject({ cause: 'Rate of M 1.00 > none' });
  });
  it('takes a formula whose dimension fits, and a figure again instead of it', () => {
    const made = change('OilFinish * 2');
    const to = { ...item, rate: null, rateFormula: 'OilFinish * 2' };
    expect(made).toMatchObject({ cause: 'Rate of M 1.00 > OilFinish * 2', diff: { updated: [{ to }] } });
    expect(workOutRate(to, names, 'EUR').value).toBe(18.8);
    expect(rateText(to)).toBe('OilFinish * 2');
    expect(change('4', to)).toMatchObject({ diff: { updated: [{ to: { ...item, rate: '4' } }] } });
  });
  it('takes a figure in another currency, and one in the project’s again', () => {
    const made = change('2,50 USD');
    const to = { ...item, rate: '2.5', currency: 'USD' };
    expect(made).toMatchObject({ cause: 'Rate of M 1.00 > 2.5 USD', diff: { updated: [{ to }] } });
    expect(rateText(to)).toBe('2.5 USD');
    expect(change('3 EUR', to)).toMatchObject({ diff: { updated: [{ to: { ...item, rate: '3' } }] } });
    expect(change('3', to)).toMatchObject({ diff: { updated: [{ to: { ...item, rate: '3' } }] } });
  });
  it('refuses what is no rate', () => {
    expect(change('dear')).toContain('There is no');
    expect(change('OilFinish * 2 m')).toContain('EUR/m2');
    expect(change('-1')).toContain('deduction');
    expect(change('2000000000')).toContain('between');
    expect(change('1,250')).toContain('can be 1.25 or 1250');
    expect(change('1;2')).toContain('no rate');
  });
});
