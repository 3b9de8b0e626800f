import { type CatchingDecision, explainDecisions, type WhyNot } from '../mapping/explain-decisions.ts';
import type { Decider } from '../mapping/precedence.ts';
import type { Pin, PricingRule } from '../mapping/pricing-rule.ts';
import { explainElement, findPlanElement } from './explain-element.ts';
import type { Plan } from './plan.ts';

/** A decision that catches an element, as it is told. */
export interface ToldDecision {
  readonly kind: Decider;
  readonly id: string;
  readonly name: string;
  readonly rank: number;
}

/** Why an element has no price in a section, or an incomplete one. */
export interface ToldReason {
  readonly code: WhyNot['code'] | 'not-known';
  readonly message: string;
}

/** What decides about an element in one work section, and about parts of it. */
export interface ToldSection {
  readonly section: string;
  readonly winner: ToldDecision | null;
  readonly others: readonly (ToldDecision & { readonly lost: string })[];
  readonly why: ToldReason | null;
  readonly parts: readonly {
    readonly part: string;
    readonly winner: ToldDecision | null;
    readonly others: readonly (ToldDecision & { readonly lost: string })[];
  }[];
}

/**
 * What decides about an element of a plan, section by section: who has it, who else catches it and why these lost, why it is not priced.
 * @param labelOf what an element is called, by its row
 * @returns null if the plan has no such element
 */
export function tellDecisions(
  plan: Plan,
  { rules, pins }: { readonly rules: readonly PricingRule[]; readonly pins: readonly Pin[] },
  key: number,
  labelOf: (row: number) => string,
): ToldSection[] | null {
  const found = findPlanElement(plan, key);
  if (!found) return null;
  const { part, row } = found;
  const lines = explainElement(plan, key)!.lines;
  const others = (list: readonly (CatchingDecision & { readonly lost: string })[]) => list.map((o) => ({ ...tell(o), lost: o.lost })); // biome-ignore format: one step
  return explainDecisions(part.table, row, rules, pins, part.mapping).map((decided) => {
    const problems = lines.filter((l) => l.section === decided.section && l.problem !== null);
    return {
      section: decided.section,
      winner: decided.winner && tell(decided.winner),
      others: others(decided.others),
      why: decided.whyNot
        ? { code: decided.whyNot.code, message: sayWhyNot(decided.whyNot, labelOf) }
        : problems.length > 0
          ? { code: 'not-known', message: problems.map((l) => `${l.code}: ${l.problem!.message}`).join(' ') }
          : null,
      parts: decided.parts.map((p) => ({ part: p.part, winner: p.winner && tell(p.winner), others: others(p.others) })),
    };
  });
}

const tell = ({ kind, id, name, rank }: CatchingDecision): ToldDecision => ({ kind, id, name, rank });

function sayWhyNot(why: WhyNot, labelOf: (row: number) => string): string {
  switch (why.code) {
    case 'nothing-catches':
      return 'No pin and no rule of this section catches it.';
    case 'left-out':
      return `Left out: ${why.reason}`;
    case 'excluded':
      return 'Left out of the project by hand.';
    case 'covered':
      return `Priced with its whole, or by its parts: ${why.rows.map(labelOf).join(', ')}.`;
  }
}
