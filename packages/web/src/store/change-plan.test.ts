import type { CheckedMark, CostItem } from '@tally/core';
import { changeWaste, listFallen, markChecked, noteLine, savePlanView, setFigure, setTarget, swapItem, unmark } from './change-plan.ts'; // biome-ignore format: one module

const LINE = { path: [], section: 'fit', item: 'M-LOCK' };
const signed = [{ signature: '24.a.b', amount: 3_072_000_000 }];

describe('marks', () => {
  it('say what was checked as it was, by whom; of what is not in the plan there is none', () => {
    const { cause, diff } = markChecked([], [LINE], signed, 'Ada');
    expect(cause).toBe('Checked: M-LOCK');
    expect(diff.added).toMatchObject([
      { kind: 'checked', id: '#fit|M-LOCK', body: { on: LINE, signature: '24.a.b', amount: 307_200, by: 'Ada' } },
    ]);
    expect(markChecked([], [LINE], [{ signature: '', amount: 0 }], 'Ada').diff.added).toEqual([]);
  });
  it('are made anew in the place of those that fell away, and taken off', () => {
    const old: CheckedMark = { on: LINE, signature: 'x', amount: 1, by: 'Ada' };
    expect(markChecked([old], [LINE], signed, 'Ada').diff.updated).toHaveLength(1);
    expect(unmark([old], [LINE]).diff.removed).toEqual([{ kind: 'checked', id: '#fit|M-LOCK', body: old }]);
    expect(unmark([], [{ element: 4 }]).diff).toEqual({ added: [], updated: [], removed: [] });
  });
  it('that fell away come with the most money first', () => {
    const held = (id: string, amount: number, holds: boolean) => ({ id, mark: { on: LINE, signature: '', amount }, holds, signature: '', amount: 0 }); // biome-ignore format: short
    expect(listFallen([held('a', 1, false), held('b', 9, false), held('c', 99, true)]).map((h) => h.id)).toEqual(['b', 'a']); // biome-ignore format: short
  });
});

describe('a figure set by hand', () => {
  const quantity = { name: 'NetSideArea', unit: 'm2', was: 23.97 } as const;
  it('keeps what the model had the first time, the reason and who', () => {
    const first = setFigure({ given: {} }, 12, quantity, 20, ' The bay is open ', 'Ada');
    expect(first.diff.added).toMatchObject([{ kind: 'given', id: '12', body: { NetSideArea: { value: 20, was: 23.97, reason: 'The bay is open', by: 'Ada' } } }]); // biome-ignore format: short
    const body = first.diff.added[0]!.body as Parameters<typeof setFigure>[0]['given'][string];
    const again = setFigure({ given: { 12: body } }, 12, { ...quantity, was: 20 }, 21, 'Anew', 'Bo');
    expect(again.diff.updated[0]!.to).toMatchObject({ NetSideArea: { value: 21, was: 23.97 } });
  });
  it('goes back without a trace; others of the element stay', () => {
    const figure = { value: 1, unit: 'm2' as const, was: null, reason: 'x' };
    expect(
      setFigure({ given: { 12: { NetSideArea: figure } } }, 12, quantity, null, '', 'Ada').diff.removed,
    ).toHaveLength(1);
    const two = setFigure({ given: { 12: { NetSideArea: figure, Length: figure } } }, 12, quantity, null, '', 'Ada');
    expect(two.diff.updated[0]!.to).toEqual({ Length: figure });
  });
});

it('an item takes the place of another in a section or everywhere, and goes back', () => {
  expect(swapItem([], 'A', 'fit', 'B').diff.added).toEqual([{ kind: 'swap', id: 'fit|A', body: { from: 'A', to: 'B', section: 'fit' } }]); // biome-ignore format: short
  const known = [{ from: 'A', to: 'B' }];
  expect(swapItem(known, 'A', null, 'C').diff.updated).toEqual([{ kind: 'swap', id: 'A', from: known[0], to: { from: 'A', to: 'C' } }]); // biome-ignore format: short
  expect(swapItem(known, 'A', null, null)).toMatchObject({ cause: 'A in its own place again', diff: { removed: [{ id: 'A' }] } }); // biome-ignore format: short
});

it('targets, notes and views are put, changed and taken away; the same again is no change', () => {
  const target = { amount: '640000' };
  expect(setTarget([], {}, target, 'the whole').diff.added).toEqual([{ kind: 'target', id: 'whole', body: target }]);
  expect(setTarget([target], {}, target, 'the whole').diff.updated).toEqual([]);
  expect(setTarget([target], {}, null, 'the whole').diff.removed).toHaveLength(1);
  expect(noteLine({}, 'fit|X', ' ask the yard ', 'Ada').diff.added).toMatchObject([{ kind: 'note', body: { text: 'ask the yard', by: 'Ada' } }]); // biome-ignore format: short
  expect(noteLine({ 'fit|X': { text: 'a' } }, 'fit|X', ' ', 'Ada').diff.removed).toHaveLength(1);
  expect(savePlanView({}, 'Mine', { by: ['room'] }).diff.added).toEqual([{ kind: 'planView', id: 'Mine', body: { by: ['room'] } }]); // biome-ignore format: short
});

describe('waste typed in the plan', () => {
  const item: CostItem = { code: 'X', description: '', kind: 'material', unit: 'm2', rate: '1', wastePercent: 5 };
  const to = (text: string) => {
    const made = changeWaste(item, text);
    return typeof made === 'string' ? made : (made.diff.updated[0]?.to as CostItem | undefined)?.wastePercent;
  };
  it.each([
    ['7.5', 7.5],
    ['8 %', 8],
    ['0', undefined],
    ['', undefined],
  ])('%s', (text, waste) => expect(to(text)).toBe(waste));
  it.each([
    ['much', /no per cent/],
    ['-3', /no per cent/],
    ['250', /more than twice/],
  ])('refuses %s', (text, why) => expect(to(text)).toMatch(why));
});
