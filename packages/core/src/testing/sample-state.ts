import type { MoveState } from '../changes/move-state.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline, type SourceTable, toMoveState } from '../pipeline.ts';

/** A priced plan with what it was made of, for tests. */
export function sampleState(basis: PricingBasis, of: ElementTable | readonly SourceTable[]): MoveState {
  const sources = 'count' in of ? [{ sourceId: 's', table: of }] : of;
  return toMoveState(basis, sources, runPipeline(basis, sources));
}
