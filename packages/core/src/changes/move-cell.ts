import type { PlanPart } from '../plan/plan.ts';
import type { Amount } from '../pricing/money.ts';
import type { PricedBlock, PricedLine } from '../pricing/price-lines.ts';
import type { CauseAmounts } from './move-causes.ts';

/** Where a cell is in a plan. */
export interface CellPlace {
  readonly part: PlanPart;
  readonly block: PricedBlock;
  readonly line: PricedLine;
  /** Position in the block. */
  readonly at: number;
}

/** A cell that is another in two plans, where it is in each (null: nowhere), its amounts, and what moved it. */
export interface MoveCell {
  readonly key: number;
  readonly old: CellPlace | null;
  readonly now: CellPlace | null;
  readonly from: Amount;
  readonly to: Amount;
  readonly causes: CauseAmounts;
}
