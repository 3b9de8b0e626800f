import { buildElementTable, type PricingRule } from '@tally/core';
import { sampleElement } from '../../testing/sample-table.ts';
import { driverOf, listBookCodes, listCodeRows, mapCodes } from './code-rules.ts';

const wall = (globalId: string, codes: string[], area: number | null) =>
  sampleElement(globalId, globalId, 'IfcWall', 'Ground floor', {
    codes,
    quantities: area === null ? [] : [{ name: 'NetSideArea', basis: 'measured', unit: 'm2', value: area, method: 'swept' }],
  }); // biome-ignore format: one element
const table = buildElementTable(
  [wall('a', ['W-1'], 10), wall('b', ['w-1 ', 'S-9'], 5), wall('c', ['X-7'], 3), wall('d', ['T-1'], null)],
  Int32Array.of(1, 2, 3, 4),
);
const book = {
  assemblies: [{ code: 'W-1', description: 'Wall', unit: 'm2', lines: [] }],
  items: [
    { code: 'X-70', description: 'Near', kind: 'material' as const, unit: 'm2', rate: '1' },
    { code: 'T-1', description: 'By volume', kind: 'material' as const, unit: 'm3', rate: '1' },
    { code: 'Z', description: 'Of a class', kind: 'material' as const, unit: 'each', rate: '1', classes: { F: 'S' } },
  ],
};
const state = { rules: [], sections: [{ id: 'walls', name: 'Walls' }], orders: { rules: null, sections: null } };
const rowsWith = (rules: PricingRule[] = []) => listCodeRows([table], book, null, rules);

describe('codes of the designers', () => {
  it('are listed once each, whatever their case and blanks, with what they mean or what is near', () =>
    expect(rowsWith().map((r) => [r.code, r.keys, r.targets.map((t) => t.code), r.nearest.map((t) => t.code)])).toEqual(
      [
        ['W-1', [1, 2], ['W-1'], []],
        ['S-9', [2], ['Z'], []],
        ['T-1', [4], ['T-1'], []],
        ['X-7', [3], [], ['X-70']],
      ],
    ));
  it('are mapped all at once: those that the book knows and that have a quantity of its unit', () => {
    const { rules, change } = mapCodes(state, rowsWith(), null, new Map(), 'walls');
    expect(rules.map(({ id: _, ...rule }) => rule)).toEqual([
      { name: 'Code W-1', scope: { field: 'code', op: 'is', value: 'W-1' }, section: 'walls', assembly: 'W-1', driver: 'NetSideArea' },
      { name: 'Code S-9', scope: { field: 'code', op: 'is', value: 'S-9' }, section: 'walls', item: 'Z', driver: 'Count' },
    ]); // biome-ignore format: a rule a line
    expect(change!.cause).toBe('2 codes of the designers mapped');
    expect(change!.diff.added!.at(-1)).toEqual({ kind: 'order', id: 'rules', body: rules.map((r) => r.id) });
    expect(driverOf(rowsWith()[2]!, 'm3')).toBeNull();
  });
  it('go where the book’s thing is used already, and are not mapped again', () => {
    const used: PricingRule = { id: 'r', name: 'r', scope: { all: [] }, section: 'shell', item: 'Z', driver: 'Count' };
    const done: PricingRule = {
      ...used,
      id: 'w',
      scope: { value: 'W-1', op: 'is', field: 'code' },
      item: undefined,
      assembly: 'W-1',
    };
    const rules = [used, done];
    const mapped = mapCodes({ ...state, rules, orders: { rules: ['r', 'w'], sections: null } }, rowsWith(rules), null, new Map(), 'walls'); // biome-ignore format: one call
    expect(mapped.rules.map((r) => [r.name, r.section])).toEqual([['Code S-9', 'shell']]);
    expect(mapped.change!.diff.updated).toEqual([
      { kind: 'order', id: 'rules', from: ['r', 'w'], to: ['r', 'w', mapped.rules[0]!.id] },
    ]);
    expect(mapCodes(state, [], null, new Map(), 'walls').change).toBeNull();
    expect(mapCodes(state, rowsWith(), null, new Map(), 'walls', () => false).change).toBeNull();
  });
  it('go out to the designers with all that the book has', () =>
    expect(listBookCodes(book)).toEqual([
      ['Code', 'Description', 'Unit', 'Kind', 'Element code'],
      ['W-1', 'Wall', 'm2', 'Assembly', ''],
      ['X-70', 'Near', 'm2', 'Cost item', ''],
      ['T-1', 'By volume', 'm3', 'Cost item', ''],
      ['Z', 'Of a class', 'each', 'Cost item', 'S'],
    ]));
});
