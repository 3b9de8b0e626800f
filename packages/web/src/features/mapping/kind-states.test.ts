import { buildElementTable, type ElementKind } from '@tally/core';
import type { LoadedModel } from '../../store/loaded-models.ts';
import type { SourceMapping } from '../../store/table-reader.ts';
import { sampleElement } from '../../testing/sample-table.ts';
import { countSections, indexDecisions, listCoded, nextOpenKind, readKinds } from './kind-states.ts';

const window_ = (id: string, codes: string[]) =>
  sampleElement(id, id, 'IfcWindow', 'Ground floor', { typeName: 'W', codes });
const table = buildElementTable(
  [window_('a', ['B2020']), window_('b', ['B2020', 'X1']), window_('c', [])],
  Int32Array.of(1, 2, 3),
);
const models = [{ table, plain: table, offset: 0, revision: { id: 'r' } }] as unknown as LoadedModel[];
const book = {
  items: [{ code: 'X1', description: 'X', kind: 'material' as const, unit: 'each', rate: '1.00' }],
  assemblies: [{ code: 'A-WIN', description: 'Window', unit: 'm2', lines: [], classes: { 'UNIFORMAT II': 'B20' } }],
};

describe('what is known of a kind', () => {
  it('is its state in the plan, by the elements of all sources', () => {
    const states = [{ revisionId: 'r', keys: [1, 2, 3], states: [2, 0, 1], amounts: [500, 0, 20] }];
    expect(readKinds([table], states, 'type')).toMatchObject([
      { amount: 520, counts: { priced: 1, unpriced: 1, partly: 1, leftOut: 0 }, keys: [1, 2, 3] },
    ]);
  });
  it('are the codes that all of its elements carry and the book knows', () => {
    expect(listCoded(new Set([1, 2]), models, book).map((c) => [c.code, c.target.code])).toEqual([['B2020', 'A-WIN']]);
    expect(listCoded(new Set([2]), models, book).map((c) => c.target.code)).toEqual(['A-WIN', 'X1']);
    expect(listCoded(new Set([1, 2, 3]), models, book)).toEqual([]);
  });
  it('is what decides about its elements, about most of them first', () => {
    const decided = (id: string, section: string | null, rows: number[], decision = {}) => ({ id, decider: 'order', rule: { id }, decision, section, rows: Int32Array.from(rows) }); // biome-ignore format: one decision
    const mapping = {
      mapped: [
        decided('few', 's', [0]),
        decided('most', 't', [0, 1]),
        decided('out', null, [2], { leaveOut: 'Later' }),
      ],
    };
    const mappings = [{ id: 'r', mapping }, { id: 'other', mapping }] as unknown as SourceMapping[]; // biome-ignore format: one list
    const kinds = [{ id: 'windows', keys: [1, 2] }, { id: 'hatch', keys: [3] }, { id: 'none', keys: [9] }]; // biome-ignore format: one list
    const found = indexDecisions(kinds, models, mappings);
    expect(found.get('windows')!.map((d) => [d.rule?.id, d.section, d.elements])).toEqual([
      ['most', 't', 2],
      ['few', 's', 1],
    ]);
    expect(found.get('hatch')).toMatchObject([{ leaveOut: 'Later', elements: 1 }]);
    expect(found.has('none')).toBe(false);
  });
});

describe('what sections decide about of a kind', () => {
  const decided = (section: string | null, rows: number[], decision = {}, about?: string) => ({ id: `${section}${rows}`, decider: 'order', rule: null, decision, section, rows: Int32Array.from(rows), about }); // biome-ignore format: one decision
  const count = (...mapped: ReturnType<typeof decided>[]) => {
    const mappings = [{ id: 'r', mapping: { mapped } }] as unknown as SourceMapping[];
    const counted = countSections(
      [
        { id: 'windows', keys: [1, 2] },
        { id: 'hatch', keys: [3] },
      ],
      models,
      mappings,
    );
    return Object.fromEntries([...counted].map(([id, own]) => [id, Object.fromEntries(own)]));
  };
  it('counts an element once, however many of its layers are decided about, and by how many rules', () => {
    expect(
      count(decided('s', [0, 0, 1, 1], {}, 'layer'), decided('s', [0, 1], {}, 'layer'), decided('t', [2])),
    ).toEqual({
      windows: { s: { priced: 2, out: 0 } },
      hatch: { t: { priced: 1, out: 0 } },
    });
  });
  it('left out is what nothing of it prices', () => {
    expect(count(decided('s', [0, 1], { leaveOut: 'Later' }), decided('s', [1], {}, 'layer')).windows).toEqual({
      s: { priced: 1, out: 1 },
    });
  });
  it('what is decided about in no section is in none', () => {
    expect(count(decided(null, [0, 1, 2], { leaveOut: 'Later' }))).toEqual({ windows: {}, hatch: {} });
  });
});

describe('the next open kind', () => {
  const kind = (id: string, unpriced: number) => ({ id, counts: { unpriced, partly: 0, priced: 1, leftOut: 0 } }) as unknown as ElementKind; // biome-ignore format: one kind
  const kinds = [kind('a', 1), kind('b', 0), kind('c', 2)];
  it.each([
    ['a', 'c'],
    ['b', 'c'],
    ['c', 'a'],
    [null, 'a'],
  ])('after %s is %s', (after, next) => expect(nextOpenKind(kinds, after)?.id).toBe(next));
  it('is none where nothing else is open', () => {
    expect(nextOpenKind([kind('a', 1), kind('b', 0)], 'a')).toBeNull();
    expect(nextOpenKind([], null)).toBeNull();
  });
});
