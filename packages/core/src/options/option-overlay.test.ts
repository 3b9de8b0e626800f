import fc from 'fast-check';
import { applyDiff, compareEntries, diffEntries, type Entry, invertDiff, isSameBody } from '../changes/entry-diff.ts';
import { makeOption, mergeOption, rebaseOption, removeOption } from './option-changes.ts';
import { fromDifferences, overlayOption, toDifferences } from './option-overlay.ts';

const item = (id: string, rate: string): Entry => ({ kind: 'item', id, body: { code: id, rate } });
const BASE: Entry[] = [item('BRICK', '0.85'), item('MORTAR', '6.40'), { kind: 'rule', id: 'walls', body: { id: 'walls' } }]; // biome-ignore format: one list
const begun = (entries = BASE, id = 'o') => applyDiff(entries, makeOption(entries, id, { name: 'Timber' }, null));
const rates = (entries: readonly Entry[]) => entries.filter((e) => e.kind === 'item').map((e) => [e.id, (e.body as { rate: string }).rate]); // biome-ignore format: one list
const change = (id: string, from: string, to: string) => ({ added: [], removed: [], updated: [{ kind: 'item', id, from: item(id, from).body, to: item(id, to).body }] }); // biome-ignore format: one change

describe('an option', () => {
  it('has its own in place of what the base has, and leaves the base as it is', () => {
    const project = begun();
    const made = toDifferences(project, 'o', change('BRICK', '0.85', '0.95'));
    expect(made.added).toEqual([
      { kind: 'difference', id: 'o/item/BRICK', body: { option: 'o', kind: 'item', id: 'BRICK', from: item('BRICK', '0.85').body, to: item('BRICK', '0.95').body } },
    ]); // biome-ignore format: one entry
    const changed = applyDiff(project, made);
    expect(rates(changed)).toEqual([['BRICK', '0.85'], ['MORTAR', '6.40']]); // biome-ignore format: two rates
    const seen = overlayOption(changed, 'o');
    expect(rates(seen.entries)).toEqual([['BRICK', '0.95'], ['MORTAR', '6.40']]); // biome-ignore format: two rates
    expect(seen.conflicts).toEqual([]);
    // What it does not touch is not copied.
    expect(seen.entries).toContain(BASE[1]);
    // Back to what the base has: nothing is different.
    const back = toDifferences(changed, 'o', change('BRICK', '0.95', '0.85'));
    expect([back.added, back.updated, back.removed.length]).toEqual([[], [], 1]);
  });
  it('takes things away and brings new ones, and all of it is merged in one change that can be undone', () => {
    const project = begun();
    const diff = { added: [item('LATH', '1.10')], updated: [], removed: [BASE[1]!] };
    const changed = applyDiff(project, toDifferences(project, 'o', diff));
    expect(rates(overlayOption(changed, 'o').entries)).toEqual([['BRICK', '0.85'], ['LATH', '1.10']]); // biome-ignore format: two rates
    const merged = mergeOption(changed, 'o');
    if (!merged.ok) throw new Error(merged.problem.message);
    const after = applyDiff(changed, merged.value);
    expect(rates(after)).toEqual([['BRICK', '0.85'], ['LATH', '1.10']]); // biome-ignore format: two rates
    expect(after.some((e) => e.kind === 'option' || e.kind === 'difference')).toBe(false);
    const undone = applyDiff(after, invertDiff(merged.value));
    expect(undone.sort(compareEntries)).toEqual([...changed].sort(compareEntries));
  });
  it('names what the base changed since, and is not merged until it is said what counts', () => {
    let project = begun();
    project = applyDiff(project, toDifferences(project, 'o', change('BRICK', '0.85', '0.95')));
    project = applyDiff(project, toDifferences(project, 'o', change('MORTAR', '6.40', '7.00')));
    project = applyDiff(project, change('BRICK', '0.85', '0.88'));
    const { conflicts, entries } = overlayOption(project, 'o');
    expect(conflicts.map((c) => [c.difference.id, c.base])).toEqual([['BRICK', item('BRICK', '0.88').body]]);
    expect(rates(entries)[0]).toEqual(['BRICK', '0.95']);
    expect(mergeOption(project, 'o')).toMatchObject({ ok: false, problem: { code: 'option-conflict', message: expect.stringContaining('item BRICK') } }); // biome-ignore format: one test
    const own = applyDiff(project, rebaseOption(project, 'o', new Map([['item/BRICK', true]])));
    expect(overlayOption(own, 'o').conflicts).toEqual([]);
    expect(rates(overlayOption(own, 'o').entries)[0]).toEqual(['BRICK', '0.95']);
    const theirs = applyDiff(project, rebaseOption(project, 'o', new Map([['item/BRICK', false]])));
    expect(rates(overlayOption(theirs, 'o').entries)).toEqual([['BRICK', '0.88'], ['MORTAR', '7.00']]); // biome-ignore format: two rates
    expect(mergeOption(theirs, 'o').ok).toBe(true);
  });
  it('of an option begins with what that has, and goes its own way', () => {
    let project = begun();
    project = applyDiff(project, toDifferences(project, 'o', change('BRICK', '0.85', '0.95')));
    project = applyDiff(project, makeOption(project, 'p', { name: 'Timber, cheap' }, 'o'));
    project = applyDiff(project, toDifferences(project, 'p', change('BRICK', '0.95', '0.60')));
    expect(['o', 'p'].map((o) => rates(overlayOption(project, o).entries)[0])).toEqual([['BRICK', '0.95'], ['BRICK', '0.60']]); // biome-ignore format: two rates
    // Of two options that change one thing, the second is asked about when the first is merged.
    const merged = mergeOption(project, 'o');
    if (!merged.ok) throw new Error(merged.problem.message);
    expect(overlayOption(applyDiff(project, merged.value), 'p').conflicts).toHaveLength(1);
    const gone = removeOption(project, 'p');
    expect(gone.ok && applyDiff(project, gone.value).filter((e) => e.kind === 'difference').length).toBe(1);
    expect(mergeOption(project, 'none')).toMatchObject({ ok: false, problem: { code: 'option-unknown' } });
  });
  it('is, over 300 random changes in it and in its base, what doing them to copies gives', () => {
    const step = fc.record({ isBase: fc.boolean(), id: fc.constantFrom('BRICK', 'MORTAR', 'LATH', 'PAINT'), rate: fc.option(fc.integer({ min: 1, max: 9 })) }); // biome-ignore format: one step
    let project = begun();
    /** What the option says of an entry: its own, once it has changed it; the base's else. */
    const own = new Map<string, Entry | null>();
    for (const { isBase, id, rate } of fc.sample(step, { seed: 5, numRuns: 300 })) {
      const seen = isBase ? project : overlayOption(project, 'o').entries;
      const after = seen.filter((e) => e.kind !== 'item' || e.id !== id);
      if (rate !== null) after.push(item(id, String(rate)));
      const diff = diffEntries(seen, after);
      if (isBase) project = applyDiff(project, diff);
      else {
        const made = toDifferences(project, 'o', diff);
        const told = fromDifferences('o', made);
        project = applyDiff(project, made);
        if (diff.added.length + diff.updated.length + diff.removed.length > 0) own.set(id, rate === null ? null : item(id, String(rate)));
        // The change as the option sees it leads from what it saw to what it sees, unless it is back at its base.
        if (made.added.length > 0) expect(told.added.length + told.updated.length + told.removed.length).toBe(1);
      }
      for (const name of ['BRICK', 'MORTAR', 'LATH', 'PAINT']) {
        const is = overlayOption(project, 'o').entries.find((e) => e.kind === 'item' && e.id === name) ?? null;
        const base = project.find((e) => e.kind === 'item' && e.id === name) ?? null;
        const difference = project.some((e) => e.kind === 'difference' && e.id === `o/item/${name}`);
        // Without a difference it follows the base; with one it is what was said last in it.
        if (!difference) own.delete(name);
        expect(isSameBody(is, own.has(name) ? own.get(name) : base)).toBe(true);
      }
    }
  }); // biome-ignore format: one list
});
