import type { PricingRule } from '../mapping/pricing-rule.ts';
import type { Finding } from './finding.ts';

/** A rule that catches so many times as many elements as at the last revision, or so many times fewer, is asked about. */
const SHIFT = 2;
/** Elements that it must differ by, at least. */
const ENOUGH = 5;

/** How many elements each rule catches in one revision of all models, by rule id, and how many there are. */
export interface CaughtCounts {
  readonly caught: ReadonlyMap<string, number>;
  readonly elements: number;
}

/**
 * Rules that catch a very different number of elements than at the last revision, for as much as the model itself grew or shrank: a name may have changed, or a rule
 * may catch what nobody meant. What catches nothing now is told by `rule-idle`.
 */
export function checkShiftedRules(rules: readonly PricingRule[], now: CaughtCounts, before: CaughtCounts): Finding[] {
  if (before.elements === 0) return [];
  const growth = now.elements / before.elements;
  return rules.flatMap((rule): Finding[] => {
    const [is, was] = [now.caught.get(rule.id) ?? 0, before.caught.get(rule.id) ?? 0];
    const awaited = was * growth;
    if (rule.isOff || is === 0 || was === 0 || Math.abs(is - awaited) < ENOUGH) return [];
    if (is < SHIFT * awaited && awaited < SHIFT * is) return [];
    return [
      {
        code: 'rule-shifted',
        severity: 'notice',
        message: `Rule "${rule.name}" catches ${is} elements; at the last revision it caught ${was}.`,
        globalIds: [],
        cause: rule.id,
      },
    ];
  });
}
