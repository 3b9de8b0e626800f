import type { PricingRule } from '../mapping/pricing-rule.ts';
import type { Plan } from '../plan/plan.ts';
import { checkDoubleCounts } from './check-double-counts.ts';
import { checkPrices } from './check-prices.ts';
import { checkRules } from './check-rules.ts';
import type { Finding } from './finding.ts';

/**
 * What the checks find in a plan: things counted twice, prices that cannot be meant, rules that decide nothing.
 * @param findings what is known of the models
 */
export const checkPlan = (
  plan: Plan,
  rules: readonly PricingRule[],
  { findings, overlapShare }: { readonly findings: readonly Finding[]; readonly overlapShare?: number | undefined },
): Finding[] => [...checkDoubleCounts(plan, findings, overlapShare), ...checkPrices(plan), ...checkRules(plan, rules)];
