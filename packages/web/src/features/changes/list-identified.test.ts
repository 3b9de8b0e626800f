import { assignElementKeys, buildElementTable, type ElementTable, type ModelElement } from '@tally/core';
import { findClashes, isTaken, listIdentified } from './list-identified.ts';

const wall = (globalId: string, name: string): ModelElement => ({ globalId, ifcClass: 'IfcWall', name, typeName: null, tag: null, storey: 'Ground', space: null, parent: null, host: null, zones: [], materials: [], codes: [], quantities: [], properties: {}, layers: [], openings: [], faces: [], finishes: null, box: null }) as unknown as ModelElement; // biome-ignore format: one element
const table = (...elements: ModelElement[]): ElementTable => buildElementTable(elements);
const modelOf = (plain: ElementTable) => ({ revision: { sourceId: 's' }, plain });
/** One wall that is surely the one of before, and one that may be. */
const plain: ElementTable = {
  ...table(wall('a', 'Gable'), wall('b', 'Partition')),
  keys: Int32Array.of(1, 9),
  identified: { rows: Int32Array.of(0, 1), own: Int32Array.of(8, 9), was: Int32Array.of(1, 2), score: Float64Array.of(0.9, 0.6), margin: Float64Array.of(0.4, 0), sure: Uint8Array.of(1, 0) },
}; // biome-ignore format: one table

describe('elements that came under other ids', () => {
  it('are listed, those that need somebody first, with what was said of them', () => {
    const pairs = listIdentified([modelOf(plain)], new Map());
    expect(pairs.map((p) => [p.label, p.was, p.isSure, p.said])).toEqual([['Wall Partition', 2, false, null], ['Wall Gable', 1, true, null]]); // biome-ignore format: two pairs
    expect(pairs.map(isTaken)).toEqual([false, true]);
    const said = listIdentified([modelOf(plain)], new Map<number, number | null>([[9, 2], [8, null]])); // biome-ignore format: two answers
    expect(said.map((p) => [p.label, p.said, isTaken(p)])).toEqual([['Wall Partition', 'same', true], ['Wall Gable', 'other', false]]); // biome-ignore format: two pairs
  });
  it('that are said to be one element are told', () => {
    // The partition is said, by hand, to be what the gable is already: a pair of its own beside the one that was looked up.
    const pairs = listIdentified([modelOf(plain)], new Map([[9, 1]]));
    expect(pairs.map((p) => [p.own, p.was, p.score, p.said])).toEqual([[9, 2, 0.6, 'other'], [8, 1, 0.9, null], [9, 1, null, 'same']]); // biome-ignore format: three pairs
    expect(findClashes(pairs)).toEqual(new Set([8, 9]));
    expect(findClashes(listIdentified([modelOf(plain)], new Map()))).toEqual(new Set());
  });
  it('that were paired by hand stay in the list, so that it can be taken back; of what is gone nothing is told', () => {
    const bare: ElementTable = { ...table(wall('a', 'Gable')), keys: Int32Array.of(7) };
    const pairs = listIdentified([modelOf(bare)], new Map([[7, 3], [70, 4]])); // biome-ignore format: two answers
    expect(pairs).toEqual([{ sourceId: 's', own: 7, was: 3, label: 'Wall Gable', storey: 'Ground', score: null, isSure: false, said: 'same' }]); // biome-ignore format: one pair
  });
  it('are none where every id is as it was', () => {
    const first = table(wall('a', 'Gable'));
    const { keys, identified } = assignElementKeys({ ...first, keys: Int32Array.of(1) }, first, 2);
    expect([[...keys], identified]).toEqual([[1], undefined]);
    expect(listIdentified([modelOf({ ...first, keys })], new Map())).toEqual([]);
  });
});
