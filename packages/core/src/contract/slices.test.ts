import fc from 'fast-check';
import { applyDiff, type Entry, type EntryDiff } from '../changes/entry-diff.ts';
import { composeProject } from './compose-project.ts';
import { ENTRY_SCHEMAS } from './entries.ts';
import { ENTRY_SLICES, type EntrySlice, type HeldSlice, listSlices, mergeSlice, type ProjectSourcesDto, type ProjectSummaryDto, sliceOfKind } from './slices.ts'; // biome-ignore format: one module

const item = (id: string, rate: string): Entry => ({ kind: 'item', id, body: { code: id, rate } });
const whole = (seq: number, entries: readonly Entry[]) =>
  mergeSlice(undefined, { seq, isWhole: true, entries, gone: [] });
const ids = ({ entries }: HeldSlice) => [...entries.keys()];

describe('slices of a project', () => {
  it('have a place for every kind of entry', () => {
    for (const kind of Object.keys(ENTRY_SCHEMAS)) expect(ENTRY_SLICES).toContain(sliceOfKind(kind));
    expect(listSlices([{ kind: 'pin' }, { kind: 'item' }, { kind: 'rule' }])).toEqual(['book', 'rules']);
    expect(listSlices([])).toEqual([]);
  });
  it('are brought up to date by what changed; the rest stays the same objects', () => {
    const before = whole(3, [item('A', '1'), item('B', '2'), item('C', '3')]);
    const after = mergeSlice(before, { seq: 5, isWhole: false, entries: [item('B', '9')], gone: ['item/C'] });
    expect([after.seq, ids(after)]).toEqual([5, ['item/A', 'item/B']]);
    expect(after.entries.get('item/B')!.body).toEqual({ code: 'B', rate: '9' });
    expect(after.entries.get('item/A')).toBe(before.entries.get('item/A'));
    expect(before.entries.size).toBe(3);
  });
  it('that did not change keep what they hold', () => {
    const before = whole(3, [item('A', '1')]);
    const after = mergeSlice(before, { seq: 8, isWhole: false, entries: [], gone: [] });
    expect(after).toEqual({ seq: 8, entries: before.entries });
    expect(after.entries).toBe(before.entries);
  });
  it('put what is new in its place by kind and id', () => {
    const before = whole(1, [item('A', '1'), item('M', '2')]);
    const after = mergeSlice(before, { seq: 2, isWhole: false, entries: [item('C', '5')], gone: [] });
    expect(ids(after)).toEqual(['item/A', 'item/C', 'item/M']);
  });
  it('step by step are what they are read whole, over random changes', () => {
    const step = fc.record({ id: fc.constantFrom('A', 'B', 'C', 'D', 'E'), rate: fc.nat(99), isGone: fc.boolean() });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        let entries: Entry[] = [item('A', '1')];
        let held = whole(0, entries);
        for (const [seq, { id, rate, isGone }] of steps.entries()) {
          const from = entries.find((e) => e.id === id);
          const to = item(id, String(rate));
          const diff: EntryDiff = {
            added: !from && !isGone ? [to] : [],
            updated: from && !isGone ? [{ kind: 'item', id, from: from.body, to: to.body }] : [],
            removed: from && isGone ? [from] : [],
          };
          entries = applyDiff(entries, diff);
          const now = entries.filter((e) => e.id === id);
          held = mergeSlice(held, { seq, isWhole: false, entries: now, gone: now.length > 0 ? [] : [`item/${id}`] });
        }
        const sorted = [...entries].sort((a, b) => (a.id < b.id ? -1 : 1));
        expect([...held.entries.values()].map((e) => [e.id, e.body])).toEqual(sorted.map((e) => [e.id, e.body]));
      }),
      { seed: 61 },
    );
  });
});

describe('a project put together', () => {
  const summary = {
    project: { id: 'p', name: 'Boathouse', currency: 'EUR', seq: 4, createdAt: '' },
    book: null,
  } as unknown as ProjectSummaryDto;
  const sources: ProjectSourcesDto = { sources: [], jobs: [] };
  const empty = whole(4, []);
  const slices: Record<EntrySlice, HeldSlice> = {
    book: whole(4, [item('A', '1')]),
    rules: whole(4, [
      { kind: 'order', id: 'rules', body: ['r2', 'r1'] },
      { kind: 'rule', id: 'r1', body: { id: 'r1', scope: { all: [] } } },
      { kind: 'rule', id: 'r2', body: { id: 'r2', scope: { all: [] } } },
    ]),
    layer: whole(4, [{ kind: 'attributes', id: '7', body: { Penetrations: 3 } }]),
    settings: empty,
    notes: whole(4, [{ kind: 'accepted', id: 'k', body: { reason: 'As drawn' } }]),
  };
  it('has of each part what stands in it, and the currency of the project where nothing is set', () => {
    const state = composeProject(summary, slices, sources);
    expect(state.basis.items).toEqual([{ code: 'A', rate: '1' }]);
    expect(state.basis.rules.map((r) => r.id)).toEqual(['r2', 'r1']);
    expect(state.layer.attributes).toEqual({ 7: { Penetrations: 3 } });
    expect(state.accepted).toEqual({ k: 'As drawn' });
    expect(state.basis.settings.currency).toBe('EUR');
  });
  it('keeps the identity of what did not change', () => {
    const before = composeProject(summary, slices, sources);
    const book = mergeSlice(slices.book, { seq: 5, isWhole: false, entries: [item('A', '2')], gone: [] });
    const after = composeProject(summary, { ...slices, book }, sources);
    expect(after.layer).toBe(before.layer);
    expect(after.basis.rules).toBe(before.basis.rules);
    expect(after.basis.items).not.toBe(before.basis.items);
  });
});
