import type { BaselineBody, ChangeDto, ComparisonDto, ExplainedLine, MoveDto, SourceDto } from '@tally/core';
import { listRecord } from './change-log.tsx';
import { pairLines } from './compared-element.tsx';
import { chooseFloor, listSteps } from './move-waterfall.tsx';
import { chooseFirst, listStates } from './name-states.ts';
import { joinOptions } from './options-beside.tsx';

const causes = { extent: 0, quantity: 0, mapping: 0, price: 0, factors: 0, rounding: 0 };
const baseline = (name: string, at: string, more: Partial<BaselineBody> = {}): BaselineBody => ({
  name, file: 'f'.repeat(64), seq: 4, currency: 'EUR', total: 100, engine: '3', at, ...more,
}); // biome-ignore format: one record
const change = (seq: number, move: number): ChangeDto => ({
  id: seq, projectId: 'p', seq, author: 'Ann', cause: `Change ${seq}`, undoes: null, isUndone: false, at: '2026-03-02T08:00:00.000Z', entryCount: 1, isRevision: false, option: null, move: { before: 0, after: move, move, causes: { ...causes, price: move } },
}); // biome-ignore format: one record

describe('what is compared until somebody chooses', () => {
  const old = baseline('Cost plan 1', '2026-01-01', { isContract: true });
  const late = baseline('Cost plan 2', '2026-02-01');
  it('is the contract with now, else the last frozen plan, else the last change that moved money', () => {
    expect(chooseFirst('p', { a: old, b: late }, [])).toEqual({ from: 'baseline:a', to: 'live' });
    expect(chooseFirst('p', { b: late, c: baseline('Cost plan 0', '2025-12-01') }, [])).toEqual({ from: 'baseline:b', to: 'live' }); // biome-ignore format: one test
    expect(chooseFirst('p', {}, [change(9, 0), change(8, 50)])).toEqual({ from: 'seq:7', to: 'seq:8' });
    expect(chooseFirst('p', {}, [])).toBeNull();
  });
  it('is in an option that option with the plan', () => {
    expect(chooseFirst('p~o', { a: old }, [])).toEqual({ from: 'base', to: 'live' });
    const states = listStates('p~o', { o: { name: 'Own' }, q: { name: 'Other' }, r: { name: 'Old', isAway: true } }, {}, [], []); // biome-ignore format: one list
    expect(states.map((s) => s.word)).toEqual(['This option', 'The plan, without the option', 'Other']);
  });
  it('offers the revisions of sources that have several', () => {
    const revision = (number: number, state: string) => ({ id: `r${number}`, number, state });
    const sources = [
      { id: 's', name: 'boathouse', kind: 'model', revisions: [revision(2, 'counting'), revision(1, 'ready')] },
      { id: 't', name: 'yard', kind: 'list', revisions: [revision(1, 'counting')] },
    ] as unknown as SourceDto[];
    expect(listStates('p', {}, {}, sources, []).map((s) => s.word)).toEqual(['Now', 'boathouse 2, counts', 'boathouse 1']); // biome-ignore format: one list
  });
});

describe('the steps of a move', () => {
  const move: MoveDto = { before: 1000, after: 1150, move: 150, causes: { ...causes, extent: 200, price: -50 } };
  it('lead from the total of before to the one of after, without causes that did not act', () => {
    const steps = listSteps(move, 2);
    expect(steps.map((s) => [s.name, s.span])).toEqual([['Before', [0, 1000]], ['Extent', [1000, 1200]], ['Price', [1200, 1150]], ['After', [0, 1150]]]); // biome-ignore format: four steps
    expect(steps.map((s) => s.label)).toEqual(['10.00', '+2.00', '−0.50', '11.50']);
  });
  it('are seen beside totals that are far larger, which are cut off below', () => {
    const floor = chooseFloor(listSteps(move, 2));
    expect([floor > 500, floor < 1000]).toEqual([true, true]);
    expect(chooseFloor(listSteps({ ...move, before: 0, after: 150, causes: { ...causes, extent: 150 } }, 2))).toBe(0);
  });
});

describe('options side by side', () => {
  const of = (groups: readonly (readonly [string, number, number])[]) =>
    ({ groups: groups.map(([label, from, to]) => ({ label, from, to, move: to - from, causes })) }) as unknown as ComparisonDto; // biome-ignore format: one record
  it('have a row for each group of any of them; what one has not costs nothing there, what is not known yet is not told', () => {
    const rows = joinOptions([of([['Walls', 100, 120], ['Roof', 50, 50]]), of([['Walls', 100, 90], ['Quay', 0, 7]]), undefined]); // biome-ignore format: two options
    expect(rows).toEqual([
      { label: 'Walls', base: 100, options: [120, 90, null] },
      { label: 'Roof', base: 50, options: [50, 0, null] },
      { label: 'Quay', base: 0, options: [0, 7, null] },
    ]);
  });
});

describe('an element on both sides', () => {
  const line = (code: string, amount: number, more: Partial<ExplainedLine> = {}) =>
    ({ section: 's', part: null, path: ['W'], code, amount, ...more }) as ExplainedLine;
  it('has its lines in pairs, those that moved most first', () => {
    const pairs = pairLines({
      before: { lines: [line('A', 10), line('B', 10), line('A', 5)] } as never,
      after: { lines: [line('A', 12), line('C', 30), line('A', 5)] } as never,
    });
    expect(pairs.map((p) => [p.before?.amount ?? null, p.after?.amount ?? null])).toEqual([[null, 30], [10, null], [10, 12], [5, 5]]); // biome-ignore format: four pairs
  });
});

it('the record of changes says when, by whom, what, and by which causes the total moved', () => {
  const { columns, rows } = listRecord([{ ...change(3, -250), isUndone: true }, { ...change(2, 0), move: null }], 2, 'EUR'); // biome-ignore format: one record
  expect(columns.slice(0, 6)).toEqual(['When', 'By', 'Change', 'Before EUR', 'After EUR', 'Move EUR']);
  expect(rows[0]).toEqual([
    '2026-03-02 08:00',
    'Ann',
    'Change 3 (taken back since)',
    0,
    -2.5,
    -2.5,
    0,
    0,
    0,
    -2.5,
    0,
    0,
  ]);
  expect(rows[1]!.slice(3)).toEqual(new Array(9).fill(null));
});
