import type { ElementTable } from '../elements/element-table.ts';
import { evaluateScope } from '../scopes/evaluate-scope.ts';
import { type Mapping, relateWholes } from './map-elements.ts';
import { type Decider, deciderOfRule, listDecidedSections, orderRules, rankOf, speaksIn } from './precedence.ts';
import type { Pin, PricedWith, PricingRule } from './pricing-rule.ts';

/** A decision that catches an element in a section. */
export interface CatchingDecision {
  readonly kind: Decider;
  /** Of a rule or pin. */
  readonly id: string;
  /** Name of the rule; of a pin what it says. */
  readonly name: string;
  readonly rank: number;
  readonly decision: PricedWith;
}

/** Why an element has no price in a section. */
export type WhyNot =
  | { readonly code: 'nothing-catches' }
  /** Said by the decision that won. */
  | { readonly code: 'left-out'; readonly reason: string }
  /** Left out of the project by hand, whatever rules say. */
  | { readonly code: 'excluded' }
  /** It is priced as its whole or by its parts: rows of those. */
  | { readonly code: 'covered'; readonly rows: readonly number[] };

/** What decides about an element in one section. */
export interface SectionDecision {
  readonly section: string;
  readonly winner: CatchingDecision | null;
  /** Others that catch it, in their order, and why they do not have it. */
  readonly others: readonly (CatchingDecision & { readonly lost: string })[];
  /** null where it is priced. */
  readonly whyNot: WhyNot | null;
}

/**
 * What decides about one element, section by section: who has it, who else catches it and lost, why it is not priced.
 * @param mapping what came of the same table, rules and pins
 */
export function explainDecisions(
  table: ElementTable,
  row: number,
  rules: readonly PricingRule[],
  pins: readonly Pin[],
  mapping: Mapping,
): SectionDecision[] {
  const key = table.keys[row]!;
  const ordered = orderRules(rules);
  return listDecidedSections(rules, pins).map((section): SectionDecision => {
    const catching: CatchingDecision[] = [
      ...pins
        .filter((p) => p.section === section && p.element === key)
        .map((p): CatchingDecision => ({ kind: 'pin', id: p.id, name: 'By hand', rank: rankOf('pin'), decision: p })),
      ...ordered
        .filter((r) => speaksIn(r, section) && evaluateScope(r.scope, table)[row] === 1)
        .map((r): CatchingDecision => {
          const kind = deciderOfRule(r);
          return { kind, id: r.id, name: r.name, rank: rankOf(kind), decision: r };
        }),
    ];
    const [first, ...rest] = catching;
    const others = (list: readonly CatchingDecision[], by: CatchingDecision | undefined) =>
      list.map((c) => ({ ...c, lost: by ? tellLoss(c, by) : 'It is left out of the project.' }));
    if (table.excluded?.[row]) return { section, winner: null, others: others(catching, undefined), whyNot: { code: 'excluded' } }; // biome-ignore format: one line
    if (!first) return { section, winner: null, others: [], whyNot: { code: 'nothing-catches' } };
    const { leaveOut } = first.decision;
    if (leaveOut !== undefined)
      return { section, winner: first, others: others(rest, first), whyNot: { code: 'left-out', reason: leaveOut } };
    const covering = listCovering(table, row, section, mapping);
    if (covering.length > 0 && !isPricedBy(first, row, mapping))
      return {
        section,
        winner: null,
        others: catching.map((c) => ({ ...c, lost: 'It is priced with its whole, or by its parts.' })),
        whyNot: { code: 'covered', rows: covering },
      };
    return { section, winner: first, others: others(rest, first), whyNot: null };
  });
}

function tellLoss(loser: CatchingDecision, winner: CatchingDecision): string {
  if (loser.rank === winner.rank) return `${winner.name} comes before it.`;
  return winner.kind === 'pin' ? 'It is decided for this element by hand.' : 'It is decided for the type.';
}

/** Rows of its whole or its parts that are priced in a section. */
function listCovering(table: ElementTable, row: number, section: string, { mapped }: Mapping): number[] {
  const related = relateWholes(table);
  if (!related.isAny[row]) return [];
  const near = new Set(related.of(row));
  return mapped
    .filter((m) => m.section === section && m.decision.leaveOut === undefined)
    .flatMap((m) => [...m.rows].filter((other) => near.has(other)));
}

const isPricedBy = ({ kind, id, decision }: CatchingDecision, row: number, { mapped }: Mapping): boolean =>
  mapped.some((m) => (kind === 'pin' ? m.decider === 'pin' && m.section === (decision as Pin).section : m.id === id) && m.rows.includes(row)); // biome-ignore format: one test
