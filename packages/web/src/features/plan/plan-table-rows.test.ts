import type { PlanGroup, PlanLine } from '@tally/core';
import { listHours, sumOtherUnits } from './hours-table.tsx';
import { moveLevel } from './plan-levels.tsx';
import { checkedOf, floorAreaOf, listPlanRows, markedOf, minorOfRow } from './plan-table-rows.ts';
import { FIRST_LOOK, readLevels, readLook, writeLevels, writeLook } from './plan-view.ts';

const line = (item: string, more: Partial<PlanLine> = {}): PlanLine => ({
  id: `#s|${item}`, item, description: item, kind: 'material', section: 's', unit: 'm2', net: 1, toBuy: 1, wastePercent: 0, rate: 1, rates: 1,
  amount: 0, minor: 100, elements: 1, cells: 2, unknown: 0, problem: null, checked: 0, open: 0, element: null, key: null, ...more,
}); // biome-ignore format: a line in short
const group = (label: string, more: Partial<PlanGroup> = {}): PlanGroup => ({
  id: `/${label}`, label, amount: 0, minor: 100, unknown: 0, open: 0, cells: 2, checked: 0, groups: [], lines: [], ...more,
}); // biome-ignore format: a group in short
const ROOT = group('', { groups: [group('Ground', { groups: [group('Walls', { id: '/Ground/Walls', lines: [line('A')] })] }), group('Upper', { lines: [line('B')] })] }); // biome-ignore format: a tree
const rows = (closed: string[] = []) => listPlanRows(ROOT, ['storey', 'section'], new Set(closed));

describe('rows of the plan', () => {
  it('stand with the groups around them; closed groups keep theirs to themselves', () => {
    expect(rows().map((r) => [r.id, r.level, r.path.map((p) => `${p.by}=${p.is}`).join('&')])).toEqual([
      ['/Ground', 0, 'storey=Ground'],
      ['/Ground/Walls', 1, 'storey=Ground&section=Walls'],
      ['#s|A', 2, 'storey=Ground&section=Walls'],
      ['/Upper', 0, 'storey=Upper'],
      ['#s|B', 1, 'storey=Upper'],
    ]);
    expect(rows(['/Ground']).map((r) => r.id)).toEqual(['/Ground', '/Upper', '#s|B']);
  });
  it('have no amount where nothing of them is known', () => {
    const of = (more: Partial<PlanLine>) =>
      minorOfRow({ kind: 'line', id: '', line: line('A', more), level: 0, path: [] });
    expect([of({}), of({ unknown: 2 }), of({ unknown: 1 }), of({ open: 2 })]).toEqual([100, null, 100, null]);
  });
  it('are marked by their group, their item there, or their element; what is open or left over cannot be', () => {
    const of = (more: Partial<PlanLine>) => markedOf({ kind: 'line', id: more.id ?? '', line: line('A', more), level: 1, path: [{ by: 'storey', is: 'Ground' }] }); // biome-ignore format: short
    expect(of({})).toEqual({ path: [{ by: 'storey', is: 'Ground' }], section: 's', item: 'A' });
    expect(of({ key: 7, item: '' })).toEqual({ element: 7 });
    expect([of({ open: 1 }), of({ id: '/Ground#surplus|A|' })]).toEqual([null, null]);
    expect(markedOf(rows()[1]!)).toEqual({
      path: [
        { by: 'storey', is: 'Ground' },
        { by: 'section', is: 'Walls' },
      ],
    });
    expect(markedOf({ kind: 'group', id: '', group: group('Open', { cells: 0 }), level: 0, path: [] })).toBeNull();
  });
  it('are checked in whole only if nothing of them is open', () => {
    const of = (more: Partial<PlanGroup>) =>
      checkedOf({ kind: 'group', id: '', group: group('G', more), level: 0, path: [] });
    expect([of({}), of({ checked: 1 }), of({ checked: 2 }), of({ checked: 2, open: 1 })]).toEqual(['none', 'some', 'all', 'some']); // biome-ignore format: short
  });
  it('cost per m2 by their storey, else by the building', () => {
    const building = { floorAreaM2: 200, storeys: [{ name: 'Ground', areaM2: 120 }] };
    expect(floorAreaOf([{ by: 'section', is: 'Walls' }], building)).toBe(200);
    expect(floorAreaOf([{ by: 'storey', is: 'Ground' }], building)).toBe(120);
    expect(floorAreaOf([{ by: 'storey', is: 'Roof' }], building)).toBeNull();
  });
});

describe('how one looks at the plan', () => {
  it('stands in the address and comes back, commas in names too', () => {
    const view = { by: ['storey', 'attribute:Grade, fine'], rows: 'cell' as const, scope: { field: 'class' as const, op: 'is' as const, value: 'IfcWall' }, sources: ['a', 'b'] }; // biome-ignore format: short
    expect(readLook(writeLook(view))).toEqual(view);
    expect(readLook({ ...FIRST_LOOK, by: 'none' })).toEqual({ by: [] });
    expect(readLevels(writeLevels([]))).toEqual([]);
  });
  it('without what cannot be read, and no level twice', () => {
    expect(readLook({ by: 'storey,colour,storey', rows: 'wall', only: '{', sources: '' })).toEqual({ by: ['storey'] });
  });
  it('a level moves, and stays at an end', () => {
    expect(moveLevel(['a', 'b', 'c'], 2, 0)).toEqual(['c', 'a', 'b']);
    expect(moveLevel(['a', 'b', 'c'], 0, -1)).toEqual(['a', 'b', 'c']);
    expect(moveLevel(['a', 'b', 'c'], 1, 9)).toEqual(['a', 'c', 'b']);
  });
});

it('hours are listed by trade and storey; what is in other units is told with its money', () => {
  const storey = (label: string, toBuy: number, unit = 'h') => group(label, { lines: [line('L', { unit, toBuy })] });
  const plan = group('', {
    groups: [
      group('labour', { groups: [group('L-CAR Carpenter', { minor: 900, groups: [storey('Ground', 4), storey('Upper', 2.5)] })] }),
      group('plant', { groups: [group('P-HIRE', { minor: 350, groups: [storey('Ground', 3, 'week')] })] }),
      group('material', { groups: [group('M', { groups: [storey('Ground', 9)] })] }),
    ],
  }); // biome-ignore format: a plan in short
  expect(listHours(plan).map((r) => [r.kind, r.label, [...r.hours], r.total, r.minor])).toEqual([
    ['labour', 'L-CAR Carpenter', [['Ground', 4], ['Upper', 2.5]], 6.5, 900],
  ]); // biome-ignore format: one row
  expect(sumOtherUnits(plan)).toEqual({ count: 1, minor: 350 });
});
