import { type ColumnFormat, decodeColumns, encodeColumns } from '../elements/column-file.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { PricedByThemselves } from '../lists/price-listed.ts';
import type { StoredPlan } from '../plan/plan-file.ts';
import { failure, type Result } from '../result/result.ts';
import type { Condition } from '../scopes/condition.ts';

const FORMAT: ColumnFormat = { letters: 'TBL', version: 1, oldest: 1 };

/** Elements of a source as the project saw them when the plan was frozen. */
export interface FrozenSource {
  readonly sourceId: string;
  readonly name: string;
  /** The revision that it is of, where it came from one that has a picture. */
  readonly revisionId?: string;
  readonly table: ElementTable;
  /** What its elements were priced with by themselves. */
  readonly own?: PricedByThemselves;
}

/**
 * A frozen plan: all that it was made of, and what came of it. It stands alone: items, rules and whole revisions may be gone since.
 * @template Basis what turns elements into money
 */
export interface Baseline<Basis> {
  readonly basis: Basis;
  readonly sources: readonly FrozenSource[];
  /** What allowances by the unit are counted by. */
  readonly functionalUnits?: readonly { readonly name: string; readonly scope: Condition }[];
  /** What was priced then, with the version of the calculation. */
  readonly plan: StoredPlan;
  /** The template that it was priced by, where it was made of one. */
  readonly template?: unknown;
}

/** A baseline packed into bytes: equal ones give equal bytes within one engine and runtime. */
export const encodeBaseline = <Basis>(baseline: Baseline<Basis>): Uint8Array => encodeColumns(FORMAT, baseline);

/** Errors: `baseline-unreadable` if the bytes are no baseline, or one of a newer version. */
export function decodeBaseline<Basis>(bytes: Uint8Array): Result<Baseline<Basis>> {
  try {
    const read = decodeColumns<Baseline<Basis>>(FORMAT, bytes);
    if (read.ok) return read;
  } catch {
    // Cut off or changed: said below.
  }
  return failure('baseline-unreadable', 'This is no frozen plan, or one of a newer version.', {
    remedy: 'Take a file that was written by freezing a plan, whole.',
  });
}
