import { placeLabels } from './cost-labels.tsx';
import { joinLast, readColourMode, toColours } from './model-colours.ts';

const entry = (label: string, keys: number[], colour = `#${label}`) => ({ label, keys, colour, note: '' });

it('a colour mode that is none is as drawn', () => {
  expect(['completeness', 'intensity:m3', 'group:storey', 'target', 'intensity:mile', 'group:colour', 'x'].map(readColourMode)).toEqual([
    'completeness', 'intensity:m3', 'group:storey', 'target', 'natural', 'natural', 'natural',
  ]); // biome-ignore format: short
});

it('what is in several groups has the colour of the first, which has the most money', () =>
  expect([...toColours('', [entry('a', [1, 2]), entry('b', [2, 3])]).colourOf!].map(([key, { colour }]) => [key, colour])).toEqual([[1, '#a'], [2, '#a'], [3, '#b']])); // biome-ignore format: short

it('groups beyond the colours there are stand together', () => {
  const all = ['a', 'b', 'c', 'd'].map((l, i) => entry(l, [i]));
  expect(joinLast(all, 2, '7.00').map((e) => [e.label, e.keys, e.note])).toEqual([['a', [0], ''], ['b', [1], ''], ['2 others', [2, 3], '7.00']]); // biome-ignore format: short
  expect(joinLast(all, 3, '')).toBe(all);
});

describe('labels', () => {
  const label = (key: number, seen: [number, number] | null) => ({
    key,
    text: '1,000.00',
    at: [0, 0, 0] as const,
    seen,
  });
  it('have room or are not shown: the first goes first, none over another or over the edge', () => {
    // Eight signs take 64 px of width, and 18 px of height.
    const placed = placeLabels([label(1, [100, 100]), label(2, [150, 105]), label(3, [100, 125]), label(4, [5, 50]), label(5, null), label(6, [200, 100])], 400, 300); // biome-ignore format: short
    expect(placed.map((p) => p.key)).toEqual([1, 3, 6]);
  });
});
