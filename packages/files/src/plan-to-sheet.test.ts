import type { PlanGroup, PlanLine } from '@tally/core';
import { planToSheet } from './plan-to-sheet.ts';

const line = (item: string, minor: number, unknown = 0): PlanLine => ({
  id: item, item, description: item, kind: 'material', section: 's', unit: 'm2', net: 1, toBuy: 1, wastePercent: 0, rate: 1, rates: 1,
  amount: minor * 10_000, minor, elements: 1, cells: 1, unknown, problem: unknown > 0 ? 'No rate.' : null, open: 0, checked: 0, element: null, key: null,
}); // biome-ignore format: a line in short
const group = (label: string, minor: number, groups: PlanGroup[], lines: PlanLine[]): PlanGroup => ({
  id: label, label, amount: minor * 10_000, minor, unknown: 0, open: 0, cells: 1, checked: 0, groups, lines,
}); // biome-ignore format: a group in short

it('writes groups in outline with sums of what is below them', () => {
  const root = group('Total', 900, [
    group('A', 300, [group('A1', 100, [], [line('X', 100)]), group('A2', 200, [], [line('Y', 150), line('Z', 50)])], []),
    group('B', 600, [], [line('X', 600), line('N', 0, 1)]),
  ], []); // biome-ignore format: a plan
  const sheet = planToSheet(root, 'Plan', 2);
  expect(sheet.rows.map((r) => [r[0], r[8]])).toEqual([
    ['A', null],
    ['A1', null],
    ['X', 1],
    ['A2', null],
    ['Y', 1.5],
    ['Z', 0.5],
    ['B', null],
    ['X', 6],
    ['N', null],
    ['Total', null],
  ]);
  expect(sheet.levels).toEqual([0, 1, 2, 1, 2, 2, 0, 1, 1, 0]);
  // The first row of the sheet holds the headings.
  expect(sheet.formulas).toEqual([
    { row: 1, column: 8, formula: 'SUM(I4)', result: 1 },
    { row: 3, column: 8, formula: 'SUM(I6:I7)', result: 2 },
    { row: 0, column: 8, formula: 'SUM(I3,I5)', result: 3 },
    { row: 6, column: 8, formula: 'SUM(I9:I10)', result: 6 },
    { row: 9, column: 8, formula: 'SUM(I2,I8)', result: 9 },
  ]);
});
