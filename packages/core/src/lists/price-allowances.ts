import type { CostItem } from '../book/cost-item.ts';
import type { OwnDecision } from '../mapping/pricing-rule.ts';
import { ByCode } from '../units/code-key.ts';
import { ALLOWANCE_DRIVERS, type Allowance } from './allowance.ts';
import type { PercentOf, PricedByThemselves } from './price-listed.ts';

/** Work section of allowances that name none. */
export const ALLOWANCE_SECTION = { id: 'allowances', name: 'Allowances' } as const;

/** What allowances are priced with: at their own rates, else by the item of the book that has their code. */
export function priceAllowances(
  allowances: ReadonlyMap<number, Allowance>,
  book: readonly CostItem[],
): PricedByThemselves {
  const known = new ByCode(book);
  const taken = new Set<string>();
  const decisions: OwnDecision[] = [];
  const items: CostItem[] = [];
  const percents = new Map<string, PercentOf>();
  for (const [element, { code, name, measure, rate: ownRate, kind = 'fee', section, of }] of [...allowances].sort(
    ([a], [b]) => b - a,
  )) {
    const { quantity: driver, unit } = ALLOWANCE_DRIVERS[measure];
    let item = code;
    // What one per cent is worth is known with the plan.
    const rate = measure === 'percent' ? '0' : ownRate;
    if (rate !== undefined) {
      // Of two under one code each has its own rate.
      if (known.get(code) || taken.has(code))
        item = `${code} (allowance${taken.has(`${code} (allowance)`) ? ` ${-element}` : ''})`;
      taken.add(item);
      items.push({ code: item, description: name, kind, unit, rate, source: 'Allowance of this project' });
      if (measure === 'percent') percents.set(item, { code, ...of });
    }
    decisions.push({ element, section: section ?? ALLOWANCE_SECTION.id, item, driver });
  }
  return { decisions, items, percents };
}
