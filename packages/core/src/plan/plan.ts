import { LineState } from '../cells/cell-line.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { Mapping } from '../mapping/map-elements.ts';
import { type Amount, amountToMinor, apportion } from '../pricing/money.ts';
import { type PricedBlock, type PricedLine, rateAt } from '../pricing/price-lines.ts';
import { type Purchase, sumPurchases } from '../pricing/purchases.ts';
import { markOpenParts } from './open-parts.ts';

/** State of one element in a plan. */
export const COMPLETENESS_STATES = ['unpriced', 'partly', 'priced', 'leftOut'] as const;
export type CompletenessState = (typeof COMPLETENESS_STATES)[number];

/** Counts of elements by state, as counting begins. */
export const countNothing = (): Record<CompletenessState, number> => ({
  unpriced: 0,
  partly: 0,
  priced: 0,
  leftOut: 0,
});

/** The plan of one source: its elements, who decided what, and the priced blocks. */
export interface PlanPart {
  readonly sourceId: string;
  readonly table: ElementTable;
  readonly mapping: Mapping;
  readonly blocks: readonly PricedBlock[];
  /** Index into COMPLETENESS_STATES by row. */
  readonly completeness: Uint8Array;
  /** Sum of the known amounts by row. */
  readonly elementAmounts: Float64Array;
}

/** A priced cost plan. */
export interface Plan {
  readonly currency: string;
  readonly minorDigits: number;
  readonly parts: readonly PlanPart[];
  readonly total: Amount;
  /** What has to be bought, by item. */
  readonly purchases: readonly (Purchase & {
    /** The shown amount in minor units; those of all purchases add up to the shown total. */
    readonly minor: number;
  })[];
  /** Element x line combinations whose amount is unknown. */
  readonly unknownLines: number;
  readonly counts: Readonly<Record<CompletenessState, number>>;
}

/** What a block says of its elements, by position: 1 if something of it is known, 2 if something is not, 3 for both. */
const statesOf = new WeakMap<readonly PricedLine[], Uint8Array>();
function judgeBlock({ lines, mapped }: PricedBlock): Uint8Array {
  let states = statesOf.get(lines);
  if (states) return states;
  states = new Uint8Array(mapped.rows.length);
  for (const line of lines)
    for (let at = 0; at < states.length; at++) {
      if (line.state[at] === LineState.skipped) continue;
      states[at]! |= line.state[at] === LineState.problem || rateAt(line, at) === null ? 2 : 1;
    }
  statesOf.set(lines, states);
  return states;
}

/**
 * State of each element: left out if a rule says so and nothing prices it, priced if every line is known, partly if some
 * are, or if some of its layers, faces or finishes are decided about and others are not; unpriced if none is.
 */
export function judgeCompleteness(table: ElementTable, mapping: Mapping, blocks: readonly PricedBlock[]): Uint8Array {
  const said = new Uint8Array(table.count);
  for (const block of blocks) {
    const states = judgeBlock(block);
    for (let at = 0; at < states.length; at++) said[block.mapped.rows[at]!]! |= states[at]!;
  }
  // What is priced with its whole, or by its parts, is not missing.
  const leftOut = mapping.covered.slice();
  table.excluded?.forEach((out, row) => {
    if (out) leftOut[row] = 1;
  });
  for (const m of mapping.mapped)
    if (m.decision.leaveOut !== undefined && !m.about) for (const row of m.rows) leftOut[row] = 1;
  const open = markOpenParts(table, mapping);
  const [partly, unpriced, priced, out] = [1, 0, 2, 3];
  return said.map((s, row) =>
    s === 3 || (s === 1 && open?.[row])
      ? partly
      : s === 2
        ? unpriced
        : s === 1
          ? priced
          : leftOut[row]
            ? out
            : unpriced,
  );
}

/** Joins the parts of a plan and adds up. */
export function joinPlan(currency: string, minorDigits: number, parts: readonly PlanPart[]): Plan {
  const counts = countNothing();
  const bought = sumPurchases(parts, minorDigits);
  let total = sumSurplus(bought);
  let unknownLines = 0;
  for (const part of parts) {
    for (const state of part.completeness) counts[COMPLETENESS_STATES[state]!]++;
    for (const block of part.blocks) {
      for (const line of block.lines) {
        total += line.total;
        unknownLines += line.unknown;
      }
    }
  }
  const minors = apportion(
    amountToMinor(total),
    bought.map((p) => p.lines + p.surplusAmount),
  );
  const purchases = bought.map((p, i) => ({ ...p, minor: minors[i]! }));
  return { currency, minorDigits, parts, total, purchases, unknownLines, counts };
}

/** What whole packs cost beyond what the elements need. */
export function sumSurplus(purchases: readonly Pick<Purchase, 'surplusAmount'>[]): Amount {
  return purchases.reduce((sum, p) => sum + p.surplusAmount, 0);
}

const amountsOf = new WeakMap<readonly PricedLine[], Float64Array>();
/** Sum of the known amounts of each element of a block, by position. */
function sumBlock({ lines, mapped }: PricedBlock): Float64Array {
  let sums = amountsOf.get(lines);
  if (sums) return sums;
  sums = new Float64Array(mapped.rows.length);
  for (const { amounts } of lines) for (let at = 0; at < amounts.length; at++) sums[at]! += amounts[at]!;
  amountsOf.set(lines, sums);
  return sums;
}

/** Sum of the known amounts of each element. */
export function sumElementAmounts(table: ElementTable, blocks: readonly PricedBlock[]): Float64Array {
  const sums = new Float64Array(table.count);
  for (const block of blocks) {
    const own = sumBlock(block);
    for (let at = 0; at < own.length; at++) sums[block.mapped.rows[at]!]! += own[at]!;
  }
  return sums;
}
