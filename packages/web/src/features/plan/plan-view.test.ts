import { GROUP_FIELDS } from '@tally/core';
import fc from 'fast-check';
import { FIRST_LOOK, readLevels, readLook, readScope, writeLevels, writeLook } from './plan-view.ts';

const LOFT = { field: 'storey', op: 'is', value: 'Loft' } as const;

describe('how one looks at the plan, in an address', () => {
  it('comes back as it was written, attributes with commas in their names too', () => {
    const field = fc.oneof(
      fc.constantFrom(...GROUP_FIELDS),
      fc.constantFrom('Grade', 'Fire, hours', 'a,b,c').map((name) => `attribute:${name}` as const),
    );
    const views = fc.record({
      by: fc.uniqueArray(field, { maxLength: 4 }),
      rows: fc.constantFrom('element' as const, 'cell' as const, undefined),
      scope: fc.constantFrom(LOFT, undefined),
      sources: fc.constantFrom<string[] | undefined>(['s1', 's2'], undefined),
    });
    fc.assert(
      fc.property(views, ({ by, rows, scope, sources }) => {
        const view = { by, ...(rows ? { rows } : {}), ...(scope ? { scope } : {}), ...(sources ? { sources } : {}) };
        expect(readLook(writeLook(view))).toEqual(view);
      }),
    );
  });
  it('passes over fields that there are not, and takes each once', () => {
    expect(readLevels('section,nothing,storey,section')).toEqual(['section', 'storey']);
    expect(readLevels(writeLevels([]))).toEqual([]);
  });
  it('takes no limit that is none', () => {
    expect(readScope('')).toBeNull();
    expect(readScope('{"field":')).toBeNull();
    expect(readScope('{"any":"thing"}')).toBeNull();
    expect(readScope(JSON.stringify(LOFT))).toEqual(LOFT);
    expect(readLook({ ...FIRST_LOOK, rows: 'everything' }).rows).toBeUndefined();
  });
});
