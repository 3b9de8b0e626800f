import type { Pin, PricingRule } from './pricing-rule.ts';

/** Who decided: a pin, a rule for the type, the rule order, a rule for its whole or host, or the element itself (its code, its own price). */
export type Decider = 'pin' | 'type' | 'order' | 'inherited' | 'own';

/**
 * Which decision goes first where several catch an element in one section; the first has it.
 *
 * | rank | decision | among themselves |
 * | --- | --- | --- |
 * | 1 | a pin on the element | in the order in which they are kept |
 * | 2 | a rule made for a type | in rule order |
 * | 3 | a rule | in rule order |
 * | 4 | a rule for its whole or its host that is also for parts, or for what is hosted | in rule order |
 * | 5 | what an element is priced with by itself (the code of a list's line, an allowance) | only where nothing above decides in any section |
 *
 * A rule that is off takes no part. One that leaves out and names no section takes part in every section. What is priced with its whole,
 * or by its parts, in a section is covered there: the decision for it falls away. The same holds of an element and its layers, faces or finishes: where one
 * is priced as itself, none of them is, and the other way round. Each of them is decided about on its own: two rules about two layers both count.
 */
export const PRECEDENCE: readonly Decider[] = ['pin', 'type', 'order', 'inherited', 'own'];

/** Rank of a decider: the smaller goes first. */
export const rankOf = (decider: Decider): number => PRECEDENCE.indexOf(decider) + 1;

export const deciderOfRule = (rule: PricingRule): Decider => (rule.forType ? 'type' : 'order');

/** Rules that take part, the first first. */
export function orderRules(rules: readonly PricingRule[]): PricingRule[] {
  const active = rules.filter((r) => !r.isOff);
  return [...active.filter((r) => r.forType), ...active.filter((r) => !r.forType)];
}

/** Whether a rule takes part in a section. */
export const speaksIn = ({ section, leaveOut }: PricingRule, of: string): boolean =>
  section === of || (leaveOut !== undefined && !section);

/** Sections that decisions are about, in the order in which they are first named; without any, one that only leave-out rules speak in. */
export function listDecidedSections(rules: readonly PricingRule[], pins: readonly Pin[]): string[] {
  const sections = new Set<string>();
  for (const r of rules) if (r.section) sections.add(r.section);
  for (const p of pins) sections.add(p.section);
  return sections.size > 0 ? [...sections] : [''];
}
