import fc from 'fast-check';
import { listJsonPieces } from './write-json.ts';

const join = (value: unknown) => [...listJsonPieces(value)].join('');

describe('JSON in pieces', () => {
  it('is what it is as a whole, for any value', () =>
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 4 }), (value) => expect(join(value)).toBe(JSON.stringify(value))),
      { seed: 71, numRuns: 500 },
    ));
  it('leaves out what has no value, as a whole does', () => {
    const value = { a: undefined, b: [1, undefined, 2], c: { d: undefined, e: Number.NaN } };
    expect(join(value)).toBe(JSON.stringify(value));
  });
  it('comes in pieces of some elements each', () => {
    const value = { elements: Array.from({ length: 1250 }, (_, i) => ({ i })), total: 3 };
    expect(join(value)).toBe(JSON.stringify(value));
    expect(Math.max(...[...listJsonPieces(value)].map((p) => p.length))).toBeLessThan(8000);
  });
});
