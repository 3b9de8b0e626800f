import type { ElementKind, PricingRule } from '@tally/core';
import { nameKind } from './decide-kind.ts';
import type { KindDecision } from './kind-states.ts';

/** Decisions for other kinds that are offered, at most. */
export const MOST_LIKES = 4;

/** Decisions for other kinds of the class, to be used again: what is called what, at most a few. */
export function listLikes(
  kind: ElementKind,
  kinds: readonly ElementKind[],
  rules: readonly PricingRule[],
  decided: ReadonlyMap<string, readonly KindDecision[]>,
): { readonly like: string; readonly by: PricingRule }[] {
  const found = new Map<string, { readonly like: string; readonly by: PricingRule }>();
  for (const other of kinds) {
    if (found.size >= MOST_LIKES) break;
    if (other.id === kind.id || other.ifcClass !== kind.ifcClass) continue;
    for (const { rule, leaveOut } of decided.get(other.id) ?? []) {
      const by = rule && rules.find((r) => r.id === rule.id);
      if (by && leaveOut === null && !found.has(by.id)) found.set(by.id, { like: nameKind(other), by });
    }
  }
  return [...found.values()].slice(0, MOST_LIKES);
}
