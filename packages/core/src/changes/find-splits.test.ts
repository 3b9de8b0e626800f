import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { diffElements } from './diff-elements.ts';
import { findSplits } from './find-splits.ts';

/** Walls of 0.3 m, 3 m high, along x from one place to another. */
const walls = (...list: readonly (readonly [id: string, from: number, to: number])[]) =>
  buildElementTable(
    list.map(([globalId, from, to]) => ({
      ...sampleElement({ globalId, quantities: { GrossVolume: (to - from) * 0.9, Length: to - from } }),
      box: [from, 0, 0, to, 0.3, 3] as const,
    })),
    Int32Array.from(list, ([id]) => id.charCodeAt(0)),
  );
const find = (a: ReturnType<typeof walls>, b: ReturnType<typeof walls>) =>
  findSplits(a, b, diffElements(a, b)).map(({ is, whole, parts }) => [is, String.fromCharCode(whole), String.fromCharCode(...parts)]); // biome-ignore format: one list

describe('elements that were split or merged', () => {
  it('are found where volumes add up in one place', () => {
    expect(find(walls(['a', 0, 10]), walls(['b', 0, 4], ['c', 4, 10]))).toEqual([['split', 'a', 'bc']]);
    expect(find(walls(['b', 0, 4], ['c', 4, 10]), walls(['a', 0, 10]))).toEqual([['merged', 'a', 'bc']]);
  });
  it('are found where a part kept the id of the whole', () => {
    expect(find(walls(['a', 0, 10], ['z', 20, 30]), walls(['a', 0, 4], ['c', 4, 10], ['z', 20, 30]))).toEqual([['split', 'a', 'ac']]); // biome-ignore format: one test
  });
  it('are none where volumes do not add up, where they stand elsewhere, or where nothing is new', () => {
    expect(find(walls(['a', 0, 10]), walls(['b', 0, 4], ['c', 4, 9]))).toEqual([]);
    expect(find(walls(['a', 0, 10]), walls(['b', 40, 44], ['c', 44, 50]))).toEqual([]);
    expect(find(walls(['a', 0, 10], ['b', 2, 4]), walls(['a', 0, 8], ['b', 2, 4]))).toEqual([]);
  });
});
