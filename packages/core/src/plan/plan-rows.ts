import { LineState } from '../cells/cell-line.ts';
import type { PricedBlock, PricedLine } from '../pricing/price-lines.ts';
import type { Purchase } from '../pricing/purchases.ts';
import type { Plan, PlanPart } from './plan.ts';
import { type KindPart, listKindParts, splitAmount } from './split-by-kind.ts';

/** A cell of a plan, or the part of it that is of one kind of cost. */
export interface PlanCellRow {
  readonly purchase: null;
  readonly part: PlanPart;
  readonly row: number;
  readonly block: PricedBlock;
  readonly line: PricedLine;
  readonly at: number;
  readonly piece: KindPart;
}

/** What of whole packs of an item is left over, or the part of it that is of one kind: it belongs to no element. */
export interface PlanSurplusRow {
  readonly purchase: Purchase;
  readonly piece: KindPart;
}

/** A row of a plan as tables read it. */
export type PlanRow = PlanCellRow | PlanSurplusRow;

/** Calls back for every line of every element that is part of the price (skipped lines are not). */
export function visitPlanCells(
  plan: Plan,
  visit: (part: PlanPart, row: number, block: PricedBlock, line: PricedLine, at: number) => void,
): void {
  for (const part of plan.parts) {
    for (const block of part.blocks) {
      for (const line of block.lines) {
        for (let at = 0; at < block.mapped.rows.length; at++) {
          if (line.state[at] !== LineState.skipped) visit(part, block.mapped.rows[at]!, block, line, at);
        }
      }
    }
  }
}

/** Calls back for the cells of a plan, each divided by kind if so; the row is one object used again. */
export function visitPlanRows(plan: Plan, isByKind: boolean, see: (row: PlanCellRow) => void): void {
  let seen: { -readonly [K in keyof PlanCellRow]: PlanCellRow[K] } | null = null;
  visitPlanCells(plan, (part, row, block, line, at) => {
    for (const piece of listKindParts(line, at, isByKind)) {
      if (seen) Object.assign(seen, { part, row, block, line, at, piece });
      else seen = { purchase: null, part, row, block, line, at, piece };
      see(seen);
    }
  });
}

/** Calls back for what of whole packs is left over, item by item. */
export function visitSurplus({ purchases }: Plan, isByKind: boolean, see: (row: PlanSurplusRow) => void): void {
  for (const purchase of purchases) {
    const { item, shares, surplusAmount } = purchase;
    if (surplusAmount === 0) continue;
    const whole: KindPart = { kind: item.kind, share: 1, amount: surplusAmount };
    for (const piece of isByKind ? splitAmount(surplusAmount, shares) : [whole]) see({ purchase, piece });
  }
}
