import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { type Condition, describeCondition } from './condition.ts';
import { evaluateScope, evaluateScopeOverParts } from './evaluate-scope.ts';
import { forgetResolved, type NamedScope, resolveScope, resolveScopes, usesScope } from './named-scope.ts';

const is = (value: string): Condition => ({ field: 'name', op: 'is', value });
const scopes: NamedScope[] = [
  { id: 'ab', name: 'A or B', scope: { any: [is('a'), is('b')] } },
  { id: 'no-ab', name: 'Neither', scope: { not: { named: 'ab' } } },
  { id: 'round', name: 'Round', scope: { any: [is('c'), { named: 'round' }] } },
];
const layer = { material: 'Wool', thickness: 0.1, position: null, weight: null, area: 1, volume: null };
const table = buildElementTable(
  ['a', 'b', 'c'].map((name) => sampleElement({ globalId: name, name, layers: [layer] })),
);
const caught = (condition: Condition) => [...evaluateScope(resolveScope(condition, scopes), table)];

describe('named scopes', () => {
  it('catch what they stand for, wherever they are used', () => {
    expect(caught({ named: 'ab' })).toEqual([1, 1, 0]);
    expect(caught({ named: 'no-ab' })).toEqual([0, 0, 1]);
    expect(caught({ all: [{ named: 'ab' }, { not: is('a') }] })).toEqual([0, 1, 0]);
    const parts = resolveScope({ all: [{ named: 'ab' }, { field: 'layer', op: 'is', value: 'wool' }] }, scopes);
    expect([...evaluateScopeOverParts(parts, table, 'layer')]).toEqual([1, 1, 0]);
  });
  it('that are gone, or use themselves, add nothing', () => {
    expect(caught({ named: 'gone' })).toEqual([0, 0, 0]);
    expect(caught({ not: { named: 'gone' } })).toEqual([1, 1, 1]);
    expect(caught({ named: 'round' })).toEqual([0, 0, 1]);
  });
  it('are said by their name', () => {
    expect(describeCondition(resolveScope({ all: [{ named: 'ab' }, is('c')] }, scopes))).toBe('"A or B" and name is c');
    expect(describeCondition({ named: 'gone' })).toBe('a named scope that there is no more (gone)');
  });
  it('are known to be used, through others too', () => {
    const used = resolveScope({ all: [is('c'), { not: { named: 'no-ab' } }] }, scopes);
    expect(['ab', 'no-ab', 'round'].map((id) => usesScope(used, id))).toEqual([true, true, false]);
    expect(usesScope({ any: [{ named: 'ab' }] }, 'ab')).toBe(true);
  });
  it('leave alone what names none, and are kept without what they stand for', () => {
    const plain: Condition = { all: [is('a'), { not: is('b') }] };
    expect(resolveScope(plain, scopes)).toBe(plain);
    const rules = [{ id: 'r', scope: plain }, { id: 'q', scope: { any: [{ named: 'no-ab' }, is('c')] } as Condition }]; // biome-ignore format: one list
    const resolved = resolveScopes(rules, scopes);
    expect(resolved[0]).toBe(rules[0]);
    expect(resolved[1]).not.toEqual(rules[1]);
    expect(forgetResolved(resolved)).toEqual(rules);
    const nothing = { a: [1, { b: null }] };
    expect(forgetResolved(nothing)).toBe(nothing);
  });
});
