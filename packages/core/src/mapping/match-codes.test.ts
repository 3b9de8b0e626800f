import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { matchCodes } from './match-codes.ts';

const table = buildElementTable([
  sampleElement({ globalId: 'a', codes: ['B2010.10'] }),
  sampleElement({ globalId: 'b', codes: ['B2010.10', 'm-lock'] }),
  sampleElement({ globalId: 'c', codes: ['A-BLOCKX'], properties: { Cost: { Item: 'M-LOCK' } } }),
  sampleElement({ globalId: 'd', codes: ['9999'], properties: { Cost: { Item: ' ' } } }),
]);
const item = (code: string, more = {}) => ({ code, description: code, kind: 'material' as const, unit: 'each', rate: '1.00', ...more }); // biome-ignore format: one item
const assembly = (code: string, more = {}) => ({ code, description: code, unit: 'm2', lines: [], ...more });
const book = {
  items: [item('M-LOCK'), item('CLAD', { classes: { 'UNIFORMAT II': 'B20' } })],
  assemblies: [assembly('A-BLOCK'), assembly('A-CLAD', { classes: { 'UNIFORMAT II': 'B2010' } })],
};
const found = (property?: string) =>
  matchCodes(table, book, property).map((m) => [m.code, m.rows, m.targets.map((t) => `${t.code} by ${t.by}`), m.nearest.map((t) => t.code)]); // biome-ignore format: one line

describe('codes of a model', () => {
  it('mean what has the code in the book, in any case, or is of the deepest class above it; what is not known has its nearest', () =>
    expect(found()).toEqual([
      ['B2010.10', [0, 1], ['A-CLAD by class'], []],
      ['9999', [3], [], []],
      ['A-BLOCKX', [2], [], ['A-BLOCK']],
      ['m-lock', [1], ['M-LOCK by code'], []],
    ]));
  it('may stand in a property of their own; an empty one is none', () =>
    expect([found('Cost.Item'), found('item')]).toEqual([
      [['M-LOCK', [2], ['M-LOCK by code'], []]],
      [['M-LOCK', [2], ['M-LOCK by code'], []]],
    ]));
  it('are none where nothing carries them', () => expect(found('Cost.Nothing')).toEqual([]));
});
