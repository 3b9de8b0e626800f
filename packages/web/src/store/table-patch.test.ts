import fc from 'fast-check';
import { applyPatch, findPatch, keepSame } from './table-patch.ts';

const column = fc.array(fc.integer({ min: 0, max: 3 }), { maxLength: 4 }).map((list) => Float64Array.from(list));
const tables = fc.record({
  count: fc.integer({ min: 0, max: 3 }),
  name: fc.record({ pool: fc.array(fc.constantFrom('wall', 'slab'), { maxLength: 3 }), index: column }),
  quantities: fc.array(fc.record({ name: fc.constantFrom('Length', 'Width'), values: column }), { maxLength: 3 }),
  excluded: fc.option(column, { nil: undefined }),
});

describe('a change of a table', () => {
  it('made on what was gives what is, over random pairs', () => {
    fc.assert(
      fc.property(tables, tables, (before, after) => {
        const kept = keepSame(before, after);
        expect(kept).toEqual(after);
        // What is sent is cloned on its way.
        expect(applyPatch(before, structuredClone(findPatch(before, kept)))).toEqual(kept);
      }),
      { seed: 7, numRuns: 400 },
    );
  });
  it('keeps the objects of all that holds the same, and of a table that is the same the table', () => {
    const before = { a: { pool: ['x'], index: Int32Array.of(0) }, b: Float64Array.of(1, Number.NaN) };
    const after = { a: { pool: ['x'], index: Int32Array.of(0) }, b: Float64Array.of(1, 2) };
    const kept = keepSame(before, after);
    expect(kept.a).toBe(before.a);
    expect(kept.b).toBe(after.b);
    const again = { a: { pool: ['x'], index: Int32Array.of(0) }, b: Float64Array.of(1, Number.NaN) };
    expect(keepSame(before, again)).toBe(before);
  });
  it('of one column sends that column only', () => {
    const long = Float64Array.from({ length: 50_000 }, (_, i) => i);
    const before = { quantities: [{ name: 'Length', values: long }], zones: { pool: ['A'], index: long } };
    const after = { ...before, quantities: [...before.quantities, { name: 'Given', values: Float64Array.of(1) }] };
    const patch = findPatch(before, keepSame(before, after));
    expect(JSON.stringify(patch).length).toBeLessThan(300);
  });
  it('takes away what is no longer there', () => {
    const before = { name: 'x', excluded: Uint8Array.of(1) };
    expect(applyPatch(before, findPatch(before, { name: 'x' }))).toEqual({ name: 'x' });
  });
});
