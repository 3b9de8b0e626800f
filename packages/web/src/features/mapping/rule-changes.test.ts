import { applyDiff, type Entry, type PricingRule } from '@tally/core';
import {
  addRule,
  addRules,
  changeRule,
  moveRule,
  moveRuleTo,
  type RuleChange,
  type RuleState,
  removeRule,
} from './rule-changes.ts';

const rule = (id: string): PricingRule => ({
  id,
  name: id.toUpperCase(),
  scope: { field: 'class', op: 'is', value: 'IfcWall' },
  section: 's',
  item: 'X',
  driver: 'Count',
});
const kept = (ids: readonly string[]): RuleState => ({
  rules: ids.map(rule),
  sections: [{ id: 's', name: 'S' }],
  orders: { rules: ids, sections: null },
});
const entriesOf = ({ rules, orders }: RuleState): Entry[] => [
  ...rules.map((body) => ({ kind: 'rule', id: body.id, body })),
  ...(orders.rules ? [{ kind: 'order', id: 'rules', body: orders.rules }] : []),
];
/** The order, and the rules there are, after a change. */
const after = (state: RuleState, { diff }: RuleChange) => {
  const entries = applyDiff(entriesOf(state), { added: [], updated: [], removed: [], ...diff });
  const order = entries.find((e) => e.kind === 'order')?.body as string[];
  return [order, entries.filter((e) => e.kind === 'rule').map((e) => e.id)];
};

describe('changes of rules', () => {
  const state = kept(['a', 'b', 'c']);
  it('put a new one first, or behind another', () => {
    expect(after(state, addRule(state, rule('n')))[0]).toEqual(['n', 'a', 'b', 'c']);
    expect(after(state, addRule(state, rule('n'), 'b'))[0]).toEqual(['a', 'b', 'n', 'c']);
  });
  it('move one by a place', () => {
    expect(after(state, moveRule(state, rule('b'), -1))[0]).toEqual(['b', 'a', 'c']);
    expect(after(state, moveRule(state, rule('b'), 1))[0]).toEqual(['a', 'c', 'b']);
  });
  it('move one to a place, as it is dropped there', () => {
    expect(after(state, moveRuleTo(state, rule('a'), 2))[0]).toEqual(['b', 'c', 'a']);
    expect(after(state, moveRuleTo(state, rule('c'), 0))[0]).toEqual(['c', 'a', 'b']);
  });
  it('put several after all others at once', () =>
    expect(after(state, addRules(state, [rule('m'), rule('n')], 'Two rules'))).toEqual([
      ['a', 'b', 'c', 'm', 'n'],
      ['a', 'b', 'c', 'm', 'n'],
    ]));
  it('take one away, from the order too', () => expect(after(state, removeRule(state, rule('b')))).toEqual([['a', 'c'], ['a', 'c']])); // biome-ignore format: one line
  it('change one under a name for the log', () => {
    const { cause, diff } = changeRule(rule('a'), { ...rule('a'), name: 'Walls' });
    expect([cause, diff.updated?.[0]?.to]).toEqual(['Rule changed: Walls', { ...rule('a'), name: 'Walls' }]);
  });
  it('make the first order and the first section of a project that has none', () => {
    const bare: RuleState = { rules: [], sections: [], orders: { rules: null, sections: null } };
    const { diff } = addRule(bare, rule('n'));
    expect(diff.added?.map((e) => [e.kind, e.id])).toEqual([
      ['rule', 'n'],
      ['section', 'general'],
      ['order', 'rules'],
    ]);
  });
});
