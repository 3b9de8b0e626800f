import { describeBookChange } from './describe-book-change.ts';

const item = (rate: string | null, more = {}) => ({
  code: 'M',
  description: 'M',
  kind: 'material',
  unit: 'm',
  rate,
  ...more,
});

it('says what changed between two versions of a book, rates and values with what they were', () => {
  expect(
    describeBookChange({
      updated: [
        { kind: 'item', id: 'M', from: item('1.00'), to: item('1.10') },
        { kind: 'item', id: 'N', from: item('1.00'), to: item(null, { rateFormula: 'CraneHour' }) },
        { kind: 'item', id: 'O', from: item('1.00'), to: item('1.00', { supplier: 'Yard' }) },
        { kind: 'value', id: 'Crane hour', from: { value: '142' }, to: { value: '150' } },
        { kind: 'assembly', id: 'A', from: {}, to: { lines: [] } },
      ],
      added: [{ kind: 'scale', id: 'Depths', body: {} }],
      removed: [{ kind: 'item', id: 'P', body: item(null) }],
    }),
  ).toEqual([
    'Item M: rate 1.00 > 1.10',
    'Item N: rate 1.00 > CraneHour',
    'Item O: changed',
    'Value Crane hour: 142 > 150',
    'Assembly A: changed',
    'Scale Depths: new',
    'Item P: gone',
  ]);
});
