import type { CutBar, PurchaseDto } from '@tally/core';
import { listBarKinds } from './cutting-pane.tsx';
import { describePacks } from './describe-packs.ts';
import { listOrders } from './order-sheets.tsx';

const bought = (code: string, more: Partial<PurchaseDto> = {}): PurchaseDto => ({
  code, description: code, supplier: 'Yard', kind: 'material', storey: null, unit: 'each', minor: 100, surplusMinor: 0, net: 1, waste: 0, toBuy: 1,
  packs: null, lengths: [], surplus: 0, splices: 0, cutting: null, unknown: 0, ...more,
}); // biome-ignore format: a purchase in short

it('orders go to suppliers, those without one last; hours are no order', () => {
  const orders = listOrders([
    bought('B'),
    bought('L', { kind: 'labour', supplier: null }),
    bought('A'),
    bought('X', { supplier: null }),
    bought('C', { supplier: 'Mill' }),
  ]);
  expect(orders.map((o) => [o.supplier, o.lines.map((l) => l.code)])).toEqual([
    ['Mill', ['C']],
    ['Yard', ['A', 'B']],
    [null, ['X']],
  ]);
});

it.each([
  [{}, ''],
  [{ packs: 3, toBuy: 27 }, '3 packs'],
  [{ packs: 1, toBuy: 9 }, '1 pack'],
  [{ packs: 1069, toBuy: 1069 }, ''],
  [{ packs: 5, toBuy: 21, lengths: [{ length: 3, pieces: 3 }, { length: 6, pieces: 2 }], unit: 'm', splices: 1.2 }, '3 × 3 m, 2 × 6 m, 2 splices'],
])('how it is made up: %j', (more, text) => expect(describePacks(bought('A', more))).toBe(text)); // biome-ignore format: short

it('bars that are cut alike are told once, with how often and for what', () => {
  const bar = (from: string, offcutM = 0.2): CutBar => ({ stockM: 5, pieces: [{ lengthM: 2.4, from }, { lengthM: 2.4, from }], offcutM, isKept: false }); // biome-ignore format: short
  const other: CutBar = { stockM: 5, pieces: [{ lengthM: 4, from: 'W3' }], offcutM: 1, isKept: true };
  expect(listBarKinds([bar('W1'), bar('W2'), other, bar('W1')]).map((k) => [k.times, k.from])).toEqual([
    [3, [['W1', 4], ['W2', 2]]],
    [1, [['W3', 1]]],
  ]); // biome-ignore format: two kinds
});
