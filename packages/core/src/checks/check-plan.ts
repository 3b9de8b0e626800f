import type { PriceBand } from '../book/price-band.ts';
import type { ExpectedSections } from '../mapping/expected-sections.ts';
import type { PricingRule, WorkSection } from '../mapping/pricing-rule.ts';
import type { Plan } from '../plan/plan.ts';
import { checkDoubleCounts } from './check-double-counts.ts';
import { checkPrices } from './check-prices.ts';
import { checkRules } from './check-rules.ts';
import { checkSections } from './check-sections.ts';
import type { Finding } from './finding.ts';

/** What a plan is checked against beside itself. */
export interface PlanTerms {
  readonly rules: readonly PricingRule[];
  readonly sections: readonly WorkSection[];
  readonly expected?: readonly ExpectedSections[];
  readonly bands?: readonly PriceBand[];
}

/**
 * What the checks find in a plan: things counted twice, sections in which something is missing, prices that cannot be meant, rules that decide
 * nothing.
 * @param findings what is known of the models
 */
export const checkPlan = (
  plan: Plan,
  { rules, sections, expected, bands }: PlanTerms,
  { findings, overlapShare }: { readonly findings: readonly Finding[]; readonly overlapShare?: number | undefined },
): Finding[] => [
  ...checkDoubleCounts(plan, findings, overlapShare),
  ...checkSections(plan, sections, expected),
  ...checkPrices(plan, bands),
  ...checkRules(plan, rules, sections),
];
