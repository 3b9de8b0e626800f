import type { EntryDiff, PricingRule, ProjectStateDto, WorkSection } from '@tally/core';

/** A change of rules with what it is called in the log. */
export interface RuleChange {
  readonly cause: string;
  readonly diff: Partial<EntryDiff>;
}

export const newRuleId = (): string => `rule-${crypto.randomUUID().slice(0, 8)}`;

/** The section of a project that has none yet. */
export const DEFAULT_SECTION: WorkSection = { id: 'general', name: 'General' };

/** The rules of a project, as changes of them are made on. */
export interface RuleState {
  readonly rules: readonly PricingRule[];
  readonly sections: readonly WorkSection[];
  /** The order as it is kept; null where none was made yet. */
  readonly orders: ProjectStateDto['orders'];
}

const idsOf = ({ rules }: RuleState): string[] => rules.map((r) => r.id);

function reorder({ orders }: RuleState, next: readonly string[]): Partial<EntryDiff> {
  const entry = { kind: 'order', id: 'rules' };
  return orders.rules === null
    ? { added: [{ ...entry, body: next }] }
    : { updated: [{ ...entry, from: orders.rules, to: next }] };
}

/** Puts a rule before all others, or behind one of them. */
export function addRule(state: RuleState, rule: PricingRule, after?: string): RuleChange {
  const order = idsOf(state);
  const at = after === undefined ? 0 : order.indexOf(after) + 1;
  const { added = [], updated } = reorder(state, [...order.slice(0, at), rule.id, ...order.slice(at)]);
  const section = { kind: 'section', id: DEFAULT_SECTION.id, body: DEFAULT_SECTION };
  return {
    cause: `Rule added: ${rule.name}`,
    diff: {
      added: [{ kind: 'rule', id: rule.id, body: rule }, ...(state.sections.length === 0 ? [section] : []), ...added],
      ...(updated ? { updated } : {}),
    },
  };
}

/** Puts several rules after all others, in one change. */
export function addRules(state: RuleState, rules: readonly PricingRule[], cause: string): RuleChange {
  const { added = [], updated } = reorder(state, [...idsOf(state), ...rules.map((r) => r.id)]);
  const section = { kind: 'section', id: DEFAULT_SECTION.id, body: DEFAULT_SECTION };
  return {
    cause,
    diff: {
      added: [
        ...rules.map((body) => ({ kind: 'rule', id: body.id, body })),
        ...(state.sections.length === 0 ? [section] : []),
        ...added,
      ],
      ...(updated ? { updated } : {}),
    },
  };
}

export const changeRule = (from: PricingRule, to: PricingRule, cause = `Rule changed: ${to.name}`): RuleChange => ({
  cause,
  diff: { updated: [{ kind: 'rule', id: from.id, from, to }] },
});

export const removeRule = (state: RuleState, rule: PricingRule): RuleChange => ({
  cause: `Rule removed: ${rule.name}`,
  diff: {
    removed: [{ kind: 'rule', id: rule.id, body: rule }],
    ...reorder(
      state,
      idsOf(state).filter((id) => id !== rule.id),
    ),
  },
});

/** Moves a rule by one place. */
export function moveRule(state: RuleState, rule: PricingRule, by: -1 | 1): RuleChange {
  const next = idsOf(state);
  const at = next.indexOf(rule.id);
  [next[at], next[at + by]] = [next[at + by]!, next[at]!];
  return { cause: `Rule moved ${by < 0 ? 'up' : 'down'}: ${rule.name}`, diff: reorder(state, next) };
}

/** Moves a rule to a place in the order. */
export function moveRuleTo(state: RuleState, rule: PricingRule, to: number): RuleChange {
  const next = idsOf(state).filter((id) => id !== rule.id);
  next.splice(to, 0, rule.id);
  return { cause: `Rule moved: ${rule.name}`, diff: reorder(state, next) };
}
