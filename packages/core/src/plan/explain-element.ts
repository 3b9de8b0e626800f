import type { CostItem } from '../book/cost-item.ts';
import type { RateStep } from '../book/price-factors.ts';
import { LineState } from '../cells/cell-line.ts';
import { type ExplainedStep, explainStep } from '../cells/explain-step.ts';
import type { FormulaTrace } from '../cells/row-reader.ts';
import { explainShare } from '../cells/runs.ts';
import { traceLeaf } from '../cells/trace-line.ts';
import { namePart } from '../elements/decided-parts.ts';
import { findQuantityOrigin } from '../elements/effective-quantities.ts';
import type { Basis, QuantityMethod, SourceKind } from '../elements/model-element.ts';
import type { Decider } from '../mapping/precedence.ts';
import { type Amount, amountToMinor, minorToMajor } from '../pricing/money.ts';
import { addWaste, type PricedBlock, type PricedLine, rateAt, toCharged } from '../pricing/price-lines.ts';
import type { ItemRate } from '../recipes/item-rate.ts';
import type { Problem } from '../result/result.ts';
import { describeCondition } from '../scopes/condition.ts';
import { dimensionToUnitName } from '../units/dimension.ts';
import { listOpenParts } from './open-parts.ts';
import { COMPLETENESS_STATES, type CompletenessState, type Plan, type PlanPart } from './plan.ts';

/** A quantity that went in, with where it comes from. */
export interface ExplainedQuantity {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly basis: Basis;
  readonly method: QuantityMethod;
}

/** One priced line of one element, opened to its origins. */
export interface ExplainedLine {
  readonly section: string | null;
  /** Why this rule or pin decided. */
  readonly reason: string;
  /** The rule that decided; null where none did. */
  readonly rule: string | null;
  readonly decider: Decider;
  /** Layer, face style or finish that the line is of; null for the element itself. */
  readonly part: string | null;
  readonly path: readonly string[];
  readonly item: CostItem | null;
  readonly code: string;
  readonly quantities: readonly ExplainedQuantity[];
  readonly steps: readonly ExplainedStep[];
  readonly net: number | null;
  readonly wastePercent: number;
  readonly toBuy: number | null;
  readonly rate: number | null;
  /** Rate of the book and the steps from it to `rate`, if there are any: exchange, region, escalation. */
  readonly rateFactors: readonly RateStep[];
  /** How the rate was worked out, where it is no plain figure: once, or for each opening or layer that has another. */
  readonly rateSteps: readonly ExplainedStep[];
  readonly amount: Amount | null;
  readonly problem: Problem | null;
}

export interface ExplainedElement {
  readonly key: number;
  readonly state: CompletenessState;
  readonly amount: Amount;
  readonly leftOut: string | null;
  /** Layers, face styles and finishes that nothing is decided about, where others of it are. */
  readonly openParts: readonly string[];
  readonly lines: readonly ExplainedLine[];
}

/** Why an element is priced that no rule and no pin decided about. */
const OWN_REASONS: Readonly<Record<SourceKind, string>> = {
  model: 'By itself',
  list: 'By its code, or the price of its list',
  hand: 'By itself',
  form: 'By itself',
  allowance: 'An allowance of this project',
};

/** Part and row of an element of a plan; null if no counting revision has it. */
export function findPlanElement(plan: Plan, key: number): { part: PlanPart; row: number } | null {
  for (const part of plan.parts) {
    const row = part.table.keys.indexOf(key);
    if (row >= 0) return { part, row };
  }
  return null;
}

/** Opens an element's cost to its lines: rule, formula with figures, waste, rate. Null if the plan has no such element. */
export function explainElement(plan: Plan, key: number): ExplainedElement | null {
  const found = findPlanElement(plan, key);
  if (!found) return null;
  const { part, row } = found;
  const lines: ExplainedLine[] = [];
  for (const block of part.blocks)
    for (let at = block.mapped.rows.indexOf(row); block.mapped.rows[at] === row; at++)
      lines.push(...explainBlock(part, block, row, at, plan.minorDigits));
  const leaving = part.mapping.mapped.find(
    (m) => m.decision.leaveOut !== undefined && !m.about && m.rows.includes(row),
  );
  return {
    key,
    state: COMPLETENESS_STATES[part.completeness[row]!]!,
    amount: part.elementAmounts[row]!,
    leftOut:
      leaving?.decision.leaveOut ??
      (part.table.excluded?.[row] ? 'Left out in this project' : null) ??
      (part.mapping.covered[row] ? 'Priced with its whole, or by its parts' : null),
    openParts: listOpenParts(part.table, part.mapping, row),
    lines,
  };
}

/** Lines of a block at one of its places. */
function explainBlock(
  part: PlanPart,
  block: PricedBlock,
  row: number,
  at: number,
  minorDigits: number,
): ExplainedLine[] {
  const { section, rule, decider, about, parts } = block.mapped;
  const { table } = part;
  const ordinal = parts?.[at] ?? 0;
  return block.lines.flatMap((line, leaf): ExplainedLine[] => {
    const state = line.state[at];
    if (state === LineState.skipped) return [];
    const isKnown = state === LineState.known;
    const trace = isKnown ? traceLeaf(block.recipe, table, row, leaf, about, ordinal) : null;
    const traces = trace?.quantity ?? [];
    return [
      {
        section,
        reason:
          decider === 'pin'
            ? 'Decided for this element by hand'
            : decider === 'own'
              ? OWN_REASONS[table.origin?.kind ?? 'model']
              : `${rule!.name}: ${describeCondition(rule!.scope)}${RULE_REASONS[decider] ?? ''}`,
        rule: rule?.id ?? null,
        decider,
        part: about && namePart(table, about, row, ordinal),
        path: line.path,
        item: line.item?.item ?? null,
        code: line.code,
        quantities: listQuantitiesUsed(traces, part, row),
        steps: [
          ...traces.map(explainStep),
          ...(isKnown ? [...explainShare(line, at), ...explainStarted(line, at)] : []),
        ],
        net: isKnown ? line.net[at]! : null,
        wastePercent: line.wastePercent,
        toBuy: isKnown ? toCharged(line.net[at]!, line) : null,
        rate: rateAt(line, at),
        rateFactors: line.item ? listFactors(line.item.rate) : [],
        rateSteps: explainRate(line, trace?.rate ?? [], minorDigits),
        amount: isKnown && rateAt(line, at) !== null ? line.amounts[at]! : null,
        problem: line.problems.get(at) ?? line.rateProblem,
      },
    ];
  });
}

/** What is said of a rule that did not just catch the element itself. */
const RULE_REASONS: Partial<Record<Decider, string>> = {
  type: ' (decided for the type)',
  inherited: ' (decided for its whole or host)',
};

/** How a rate came about; one by the total of the project is known with the plan only. */
function explainRate(
  { item, rate }: PricedLine,
  traces: readonly FormulaTrace[],
  minorDigits: number,
): ExplainedStep[] {
  const { base } = item?.rate ?? {};
  if (base)
    return [
      {
        lead: 'One per cent of',
        formula: base.of,
        figures: String(minorToMajor(amountToMinor(base.amount), minorDigits)),
        result: rate ?? Number.NaN,
        unit: 'number',
      },
    ];
  const { formula, value, total } = item?.rate ?? {};
  if (!formula || total === undefined) return traces.map(explainStep);
  return [explainStep({ formula, values: formula.slots.map((s) => s.value ?? total), result: value ?? Number.NaN })];
}

/** What is charged where a line is charged in started units. None for others. */
function explainStarted(line: PricedLine, at: number): ExplainedStep[] {
  const { item, wastePercent } = line;
  if (!item || item.started === null) return [];
  const step = `${Number(item.started.toPrecision(6))} ${item.unit.symbol}`;
  const gross = Number(addWaste(line.net[at]!, wastePercent).toPrecision(6));
  return [
    {
      lead: 'Charged in started units',
      formula: `each ${step} begun`,
      figures: `${gross} ${item.unit.symbol} in steps of ${step}`,
      result: toCharged(line.net[at]!, line) * item.unit.factor,
      unit: dimensionToUnitName(item.unit.dimension),
    },
  ];
}

function listFactors({ exchange, steps }: ItemRate): RateStep[] {
  if (!exchange) return [...steps];
  return [{ name: `${exchange.currency} of ${exchange.date}`, factor: Number(exchange.rate) }, ...steps];
}

function listQuantitiesUsed(traces: readonly FormulaTrace[], part: PlanPart, row: number): ExplainedQuantity[] {
  const out = new Map<string, ExplainedQuantity>();
  for (const trace of traces) {
    trace.formula.slots.forEach((slot, i) => {
      const origin = slot.source === 'quantity' ? findQuantityOrigin(part.table, row, slot.name) : null;
      if (origin)
        out.set(slot.name, {
          name: slot.name,
          value: Number(trace.values[i]!),
          unit: dimensionToUnitName(slot.dimension),
          ...origin,
        });
    });
  }
  return [...out.values()];
}
