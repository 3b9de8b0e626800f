import { LineState } from '../cells/cell-line.ts';
import type { PercentOf } from '../lists/price-listed.ts';
import { AMOUNT_SCALE } from '../pricing/money.ts';
import { type PricedBlock, type PricedLine, priceLine } from '../pricing/price-lines.ts';
import { sumPurchases } from '../pricing/purchases.ts';
import type { Problem } from '../result/result.ts';
import { codeKey } from '../units/code-key.ts';
import type { GroupNames } from './group-labels.ts';
import { describeBase, testBase } from './percent-base.ts';
import { judgeCompleteness, type Plan, type PlanPart, sumElementAmounts } from './plan.ts';
import { visitPlanRows, visitSurplus } from './plan-rows.ts';

/** Per cents of a plan, by the code of their item. */
type Percents = ReadonlyMap<string, PercentOf>;

/**
 * Puts amounts on lines that are a per cent of other costs, when these are known. Each is of its base as it stands: costs of the groups it names (packs left over
 * belong to theirs), or all; of other per cents only those that it says it goes on top of, whole, which are worked out first. Parts without per cents are given back as they are.
 * Errors, kept on the lines: `percent-circle` naming the circle, `percent-unknown` for one on top of what is not there.
 * @example site costs 10,000 of 200,000; 5 % of all but per cents: 10,000; then 2 % of all on top of it: 2 % of 210,000 = 4,200
 */
export function sharePercents(
  parts: readonly PlanPart[],
  percents: Percents,
  names: GroupNames,
  minorDigits: number,
): readonly PlanPart[] {
  if (percents.size === 0) return parts;
  const isPercent = (line: PricedLine) => line.item !== null && percents.has(line.code);
  const others = parts.map((part) => ({
    ...part,
    blocks: part.blocks.map((b) => ({ ...b, lines: b.lines.filter((l) => !isPercent(l)) })),
  }));
  const bought = { parts: others, purchases: sumPurchases(others, minorDigits).map((p) => ({ ...p, minor: 0 })) };
  const { order, problems } = orderPercents(percents);
  const priced = new Map<PricedLine, PricedLine>();
  const made = new Map<
    string,
    { readonly code: string; readonly blocks: readonly PricedBlock[]; readonly part: PlanPart }
  >();
  for (const item of order) {
    const of = percents.get(item)!;
    const problem = problems.get(item) ?? null;
    const amount = problem ? 0 : sumBase(bought, of, names, [...made.values()]);
    for (const part of parts)
      for (const block of part.blocks)
        for (const line of block.lines) {
          if (line.code !== item || !line.item) continue;
          // What it is of has been paid in the project's currency, at its place and time.
          const value = problem ? null : amount / (100 * AMOUNT_SCALE * 10 ** minorDigits);
          const rate = {
            ...line.item.rate,
            value,
            problem,
            steps: [],
            exchange: null,
            base: { amount, of: describeBase(of) },
          };
          const done = priceLine({ ...line, item: { ...line.item, rate } }, minorDigits);
          priced.set(line, done);
          made.set(item, { code: of.code, part, blocks: [{ ...block, lines: [done] }] });
        }
  }
  return parts.map((part) => {
    if (!part.blocks.some((b) => b.lines.some((l) => priced.has(l)))) return part;
    const blocks = part.blocks.map((b) => ({ ...b, lines: b.lines.map((l) => priced.get(l) ?? l) }));
    const completeness = judgeCompleteness(part.table, part.mapping, blocks);
    return { ...part, blocks, completeness, elementAmounts: sumElementAmounts(part.table, blocks) };
  });
}

/** Costs that a per cent is of, in 1/10,000 of a minor unit. */
function sumBase(
  bought: Pick<Plan, 'parts' | 'purchases'>,
  of: PercentOf,
  names: GroupNames,
  made: readonly { readonly code: string; readonly blocks: readonly PricedBlock[]; readonly part: PlanPart }[],
): number {
  const base = testBase(of, names);
  const onTop = new Set((of.also ?? []).map(codeKey));
  // What it goes on top of counts whole, whatever groups it is in.
  let sum = made
    .filter((m) => onTop.has(codeKey(m.code)))
    .reduce((s, m) => m.blocks.reduce((b, { lines }) => lines.reduce((l, { total }) => l + total, b), s), 0);
  visitPlanRows({ parts: bought.parts }, base.division, (row) => {
    if (row.line.state[row.at] === LineState.known && base.hasCell(row)) sum += row.piece.amount;
  });
  visitSurplus(bought, base.division.isByKind, (row) => {
    if (base.hasSurplus(row)) sum += row.piece.amount;
  });
  return sum;
}

/** Costs of a priced plan that a per cent would be of, in 1/10,000 of a minor unit. */
export function sumBaseOfPlan(plan: Plan, of: PercentOf, percents: Percents, names: GroupNames): number {
  const made = plan.parts.flatMap((part) =>
    part.blocks.flatMap((block) =>
      block.lines.flatMap((line) => {
        const own = percents.get(line.code);
        return own ? [{ code: own.code, part, blocks: [{ ...block, lines: [line] }] }] : [];
      }),
    ),
  );
  const parts = plan.parts.map((part) => ({
    ...part,
    blocks: part.blocks.map((b) => ({ ...b, lines: b.lines.filter((l) => !percents.has(l.code)) })),
  }));
  return sumBase({ parts, purchases: plan.purchases.filter((p) => !percents.has(p.item.code)) }, of, names, made);
}

/** Items of per cents in the order they are worked out, and why some cannot be. */
export function orderPercents(percents: Percents): {
  readonly order: readonly string[];
  readonly problems: ReadonlyMap<string, Problem>;
} {
  const itemOf = new Map([...percents].map(([item, { code }]) => [codeKey(code), item]));
  const order: string[] = [];
  const problems = new Map<string, Problem>();
  const open: string[] = [];
  const visit = (item: string): void => {
    const { code, also = [] } = percents.get(item)!;
    const at = open.indexOf(item);
    if (at >= 0) {
      const circle = [...open.slice(at), item].map((i) => percents.get(i)!.code);
      const problem: Problem = {
        code: 'percent-circle',
        message: `Each of these per cents goes on top of the next: ${circle.join(', ')}.`,
        remedy: 'Take one of them off what another goes on top of.',
      };
      for (const i of open.slice(at)) problems.set(i, problem);
      return;
    }
    if (order.includes(item)) return;
    open.push(item);
    for (const other of also) {
      const found = itemOf.get(codeKey(other));
      if (found !== undefined) visit(found);
      else if (!problems.has(item))
        problems.set(item, {
          code: 'percent-unknown',
          message: `${code} goes on top of ${other}, and there is no such per cent.`,
          remedy: 'Choose what it goes on top of anew.',
        });
      const below = found === undefined ? undefined : problems.get(found);
      if (below && !problems.has(item)) problems.set(item, below);
    }
    open.pop();
    order.push(item);
  };
  for (const item of percents.keys()) visit(item);
  return { order, problems };
}
