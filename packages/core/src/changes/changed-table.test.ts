import { type ChangedRow, groupChanged } from './changed-table.ts';

const row = (key: number, what: ChangedRow['what'], ifcClass: string, storey: string | null, amount: number) => ({
  key,
  what,
  ifcClass,
  storey,
  amount,
});
/** Amounts in 1/10,000 of a cent: 100.335, -40, 0.335 and 7.33 in cents. */
const ROWS = [
  row(11, 'came', 'IfcWall', 'Ground floor', 1_003_350),
  row(12, 'went', 'IfcWall', 'Ground floor', -400_000),
  row(13, 'changed', 'IfcDoor', null, 3_350),
  row(14, 'came', 'IfcDoor', 'Ground floor', 73_300),
];
const cents = (v: unknown) => Number(v) / 10_000;

describe('changed elements', () => {
  it('stand with the largest move first, and add up as they are printed', () => {
    const t = groupChanged(ROWS, []);
    expect(t.lines.map((l) => [ROWS[l.keys[0]!]!.key, cents(l.cells[0])])).toEqual([
      [11, 101],
      [12, -40],
      [14, 7],
      [13, 0],
    ]);
    // 100.335 - 40 + 0.335 + 7.33 = 68; rounded down they are 67, the one left goes to the largest rest, the earlier first.
    expect(cents(t.totals[0])).toBe(68);
  });
  it('by what happened, by class, by storey: groups add up to the same', () => {
    const groups = (by: Parameters<typeof groupChanged>[1]) =>
      groupChanged(ROWS, by)
        .lines.filter((l) => l.kind === 'group')
        .map((l) => [l.label, l.count, cents(l.cells[0])]);
    expect(groups(['what'])).toEqual([
      ['came', 2, 108],
      ['went', 1, -40],
      ['changed', 1, 0],
    ]);
    expect(groups(['class'])).toEqual([
      ['Door', 2, 8],
      ['Wall', 2, 60],
    ]);
    expect(groups(['storey'])).toEqual([
      ['Ground floor', 3, 68],
      ['No storey', 1, 0],
    ]);
  });
});
