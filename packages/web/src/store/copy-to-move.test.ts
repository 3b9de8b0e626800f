import { encodeElementTable } from '@tally/core';
import { sampleLayer } from '../testing/sample-layer.ts';
import { sampleWalls } from '../testing/sample-table.ts';
import { copyToMove } from './copy-to-move.ts';
import { TableReader } from './table-reader.ts';

const request = { projectId: 'p', revisions: ['r1'], layer: sampleLayer(), settings: {}, parts: undefined };

describe('a copy whose columns are moved', () => {
  it('says the same, and the columns of the original stay where they are', async () => {
    const answer = await new TableReader(async () => encodeElementTable(sampleWalls())).read(request);
    const before = structuredClone(answer);
    const { copy, buffers } = copyToMove(answer);
    const moved = structuredClone(copy, { transfer: buffers });
    expect(moved).toEqual(before);
    expect(answer).toEqual(before);
  });
  it('moves each buffer once, wherever its columns stand, also in lists and maps', () => {
    const shared = new ArrayBuffer(16);
    const own = Float64Array.of(1);
    const { copy, buffers } = copyToMove({ a: new Int32Array(shared, 0, 2), list: [{ b: new Int32Array(shared, 8, 2) }], map: new Map([[1, own]]), text: ['x'] }); // biome-ignore format: one input
    expect(buffers).toHaveLength(2);
    expect(buffers).toContain(copy.a.buffer);
    expect(buffers).toContain(copy.map.get(1)!.buffer);
    expect(buffers).not.toContain(shared);
  });
});
