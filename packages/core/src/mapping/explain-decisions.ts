import { readText } from '../elements/columns.ts';
import { DECIDED_PARTS, listDecidedParts, namePart } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { evaluateScope, evaluateScopeOverParts } from '../scopes/evaluate-scope.ts';
import { foldText } from '../units/fold-text.ts';
import { maskInherited } from './list-candidates.ts';
import type { Mapping } from './map-elements.ts';
import { type Decider, deciderOfRule, listDecidedSections, orderRules, rankOf, speaksIn } from './precedence.ts';
import type { Pin, PricedWith, PricingRule } from './pricing-rule.ts';
import { relateWholes } from './relate-wholes.ts';

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
  /** null where it is priced, itself or in parts. */
  readonly whyNot: WhyNot | null;
  /** Its layers, face styles and finishes that something of this section catches. */
  readonly parts: readonly PartDecision[];
}

/** What decides about a part of an element in one section. */
export interface PartDecision {
  readonly part: string;
  readonly winner: CatchingDecision | null;
  readonly others: SectionDecision['others'];
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
      ...pins.filter((p) => p.section === section && p.element === key && !p.about).map(tellPin),
      ...ordered
        .filter((r) => !r.about && speaksIn(r, section) && evaluateScope(r.scope, table)[row] === 1)
        .map((r) => tellRule(r, deciderOfRule(r))),
      ...ordered
        .filter((r) => !r.about && r.also && speaksIn(r, section) && maskInherited(r, table)[row] === 1)
        .map((r) => tellRule(r, 'inherited')),
    ];
    const decided = decideWhole(table, row, section, catching, mapping);
    const parts = explainParts(table, row, section, ordered, pins, decided.winner);
    const isInParts = decided.whyNot?.code === 'nothing-catches' && parts.some((p) => p.winner !== null);
    return { ...decided, whyNot: isInParts ? null : decided.whyNot, parts };
  });
}

const tellPin = (pin: Pin): CatchingDecision => ({
  kind: 'pin',
  id: pin.id,
  name: 'By hand',
  rank: rankOf('pin'),
  decision: pin,
});

const tellRule = (rule: PricingRule, kind: Decider): CatchingDecision => ({
  kind,
  id: rule.id,
  name: rule.name,
  rank: rankOf(kind),
  decision: rule,
});

/** What decides about the parts of an element, those that anything catches. */
function explainParts(
  table: ElementTable,
  row: number,
  section: string,
  ordered: readonly PricingRule[],
  pins: readonly Pin[],
  whole: CatchingDecision | null,
): PartDecision[] {
  return DECIDED_PARTS.flatMap((about) => {
    const { offset, name } = listDecidedParts(table, about);
    const own = pins.filter((p) => p.about === about && p.section === section && p.element === table.keys[row]);
    const rules = ordered.filter((r) => r.about === about && speaksIn(r, section));
    if (own.length + rules.length === 0) return [];
    const parts: PartDecision[] = [];
    for (let at = offset[row]!; at < offset[row + 1]!; at++) {
      const label = foldText(readText(name, at) ?? '');
      const catching = [
        ...own.filter((p) => foldText(p.of ?? '') === label).map(tellPin),
        ...rules
          .filter((r) => evaluateScopeOverParts(r.scope, table, about)[at] === 1)
          .map((r) => tellRule(r, deciderOfRule(r))),
      ];
      const [first, ...rest] = catching;
      if (!first) continue;
      const part = namePart(table, about, row, at - offset[row]!);
      parts.push(
        whole
          ? { part, winner: null, others: catching.map((c) => ({ ...c, lost: `The element itself is decided by ${whole.name}.` })) } // biome-ignore format: one record
          : { part, winner: first, others: rest.map((c) => ({ ...c, lost: tellLoss(c, first) })) },
      );
    }
    return parts;
  });
}

/** What decides about the element itself. */
function decideWhole(
  table: ElementTable,
  row: number,
  section: string,
  catching: readonly CatchingDecision[],
  mapping: Mapping,
): Omit<SectionDecision, 'parts'> {
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
}

function tellLoss(loser: CatchingDecision, winner: CatchingDecision): string {
  if (loser.rank === winner.rank) return `${winner.name} comes before it.`;
  if (winner.kind === 'order') return `${winner.name} catches the element itself.`;
  return winner.kind === 'pin' ? 'It is decided for this element by hand.' : 'It is decided for the type.';
}

/** Rows of its whole or its parts that are priced in a section. */
function listCovering(table: ElementTable, row: number, section: string, { mapped }: Mapping): number[] {
  const related = relateWholes(table);
  if (!related.isAny[row]) return [];
  const near = new Set(related.of(row));
  return mapped
    .filter((m) => m.section === section && m.decision.leaveOut === undefined)
    .flatMap((m) => [...new Set(m.rows)].filter((other) => near.has(other)));
}

const isPricedBy = ({ kind, id, decision }: CatchingDecision, row: number, { mapped }: Mapping): boolean =>
  mapped.some((m) => !m.about && (kind === 'pin' ? m.decider === 'pin' && m.section === (decision as Pin).section : m.rule?.id === id) && m.rows.includes(row)); // biome-ignore format: one test
