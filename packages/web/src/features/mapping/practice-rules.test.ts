import { buildElementTable, listElementKinds, PracticeIndex, type PracticeRow } from '@tally/core';
import { sampleElement } from '../../testing/sample-table.ts';
import { mapByPractice, suggestForKind } from './practice-rules.ts';

const row = (more: Partial<PracticeRow>): PracticeRow => ({
  ifcClass: 'IfcWall',
  type: 'Outer 300',
  material: '',
  kind: 'item',
  code: 'W',
  description: 'Wall',
  unit: 'm2',
  section: 'WALLS',
  driver: 'NetSideArea',
  elements: 3,
  ...more,
});
const index = new PracticeIndex([
  { projectId: 'p', name: 'Yard', at: '2026-01-01', rows: [row({}), row({ code: 'V', elements: 1 }), row({ code: 'PAINT', section: 'Painting' }), row({ code: 'GONE', section: 'Roofs', elements: 9 }), row({ type: 'Inner', code: 'I', elements: 50 })] },
]); // biome-ignore format: one project
const book = { items: ['W', 'V', 'PAINT', 'I'].map((code) => ({ code })), assemblies: [] };
const table = buildElementTable(
  ['a', 'b', 'c'].map((id) => sampleElement(id, id, 'IfcWall', null, { typeName: id === 'c' ? 'Odd' : 'Outer 300' })),
  Int32Array.of(1, 2, 3),
);
const kinds = listElementKinds([table], () => undefined);
const state = {
  rules: [{ id: 'first', name: 'f', scope: { any: [] }, section: 'w', item: 'W', driver: 'Count' }],
  sections: [{ id: 'w', name: 'Walls' }, { id: 'p', name: 'Painting' }],
  orders: { rules: ['first'], sections: null },
}; // biome-ignore format: one state

describe('what earlier projects did', () => {
  it('is offered as far as the book has it, the same type first', () =>
    expect(suggestForKind(kinds[0]!, [], index, book).map((s) => [s.code, s.by])).toEqual([
      ['PAINT', 'type'],
      ['W', 'type'],
      ['V', 'type'],
      ['I', 'class'],
    ]));
  it('is taken for all open kinds of a type that was priced, in each section once, after all rules', () => {
    const { kinds: count, change } = mapByPractice(state, kinds, index, book);
    expect(count).toBe(1);
    const rules = change!.diff.added!.map((a) => a.body as { section: string; item: string; name: string });
    expect(rules.map((r) => [r.name, r.section, r.item])).toEqual([
      ['Wall, Outer 300', 'p', 'PAINT'],
      ['Wall, Outer 300', 'w', 'W'],
    ]);
    expect((change!.diff.updated![0]!.to as string[])[0]).toBe('first');
    expect(change!.cause).toBe('1 kind mapped as in earlier projects');
  });
  it('leaves alone what is priced, and what has no section of that name', () => {
    const priced = listElementKinds([table], () => ({ state: 'priced', amount: 1 }));
    expect(mapByPractice(state, priced, index, book).change).toBeNull();
    expect(mapByPractice({ ...state, sections: [] }, kinds, index, book).change).toBeNull();
  });
});
