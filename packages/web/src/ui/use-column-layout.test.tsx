/** @jest-environment jsdom */
import { act, renderHook } from '@testing-library/react';
import { placeNew, useColumnLayout } from './use-column-layout.ts';

const column = (key: string) => ({ key, heading: key.toUpperCase(), width: 80, cell: () => '' });
const THREE = ['code', 'rate', 'amount'].map(column);
const keysOf = (layout: { readonly columns: readonly { readonly key: string }[] }) => layout.columns.map((c) => c.key);

describe('the columns of a table', () => {
  beforeEach(() => localStorage.clear());
  it('are put away, moved and drawn to a width, and are so after the table comes again', () => {
    const first = renderHook(() => useColumnLayout('t1', THREE));
    expect(keysOf(first.result.current)).toEqual(['code', 'rate', 'amount']);
    act(() => first.result.current.show('rate', false));
    act(() => first.result.current.move('amount', -1));
    act(() => first.result.current.move('amount', -1));
    act(() => first.result.current.setWidth('code', 140));
    first.unmount();
    const { result } = renderHook(() => useColumnLayout('t1', THREE));
    expect(keysOf(result.current)).toEqual(['amount', 'code']);
    expect(result.current.widths).toEqual({ code: 140 });
    expect(result.current.choices.map((c) => [c.key, c.isShown])).toEqual([['amount', true], ['code', true], ['rate', false]]); // biome-ignore format: one list
  });
  it('are as they were made again in one step', () => {
    const { result } = renderHook(() => useColumnLayout('t2', THREE));
    act(() => result.current.show('code', false));
    act(() => result.current.setWidth('rate', 60));
    act(() => result.current.setWidth('rate', null));
    expect(result.current.widths).toEqual({});
    act(() => result.current.reset());
    expect([keysOf(result.current), result.current.isAsMade]).toEqual([['code', 'rate', 'amount'], true]);
  });
  it('are called otherwise, until one gives them their own headings again', () => {
    const { result } = renderHook(() => useColumnLayout('t4', THREE));
    act(() => result.current.rename('rate', ' Unit price '));
    expect(result.current.columns.map((c) => c.heading)).toEqual(['CODE', 'Unit price', 'AMOUNT']);
    expect([result.current.choices[1], result.current.isAsMade]).toMatchObject([{ heading: 'RATE', name: 'Unit price' }, false]); // biome-ignore format: one line
    act(() => result.current.rename('rate', ''));
    expect([result.current.columns[1]!.heading, result.current.isAsMade]).toEqual(['RATE', true]);
  });
  it('of figures are shown with as many decimals as one likes', () => {
    const figures = {
      ...column('rate'),
      hasDigits: true,
      cell: (_: unknown, digits?: number) => (12.3456).toFixed(digits ?? 2),
    };
    const { result } = renderHook(() => useColumnLayout('t5', [THREE[0]!, figures]));
    const shown = () => result.current.columns[1]!.cell(null);
    expect([shown(), result.current.choices.map((c) => c.digits)]).toEqual(['12.35', [undefined, null]]);
    act(() => result.current.round('rate', 4));
    expect([shown(), result.current.choices[1]!.digits, result.current.isAsMade]).toEqual(['12.3456', 4, false]);
    act(() => result.current.round('rate', null));
    expect([shown(), result.current.isAsMade]).toEqual(['12.35', true]);
  });
  it('cannot be moved beyond the ends, and one is always seen', () => {
    const { result } = renderHook(() => useColumnLayout('t3', THREE));
    act(() => result.current.move('code', -1));
    for (const { key } of THREE) act(() => result.current.show(key, false));
    expect(keysOf(result.current)).toEqual(['code']);
  });
  it.each([
    [
      ['b', 'a'],
      ['a', 'b', 'c'],
      ['b', 'c', 'a'],
    ],
    [
      ['c', 'a'],
      ['x', 'a', 'c'],
      ['x', 'c', 'a'],
    ],
    [[], ['a', 'b'], ['a', 'b']],
    [['gone', 'a'], ['a'], ['a']],
  ])('kept as %j take a new one of %j in behind its neighbour: %j', (order, keys, placed) =>
    expect(placeNew(order, keys)).toEqual(placed),
  );
});
