import type { SlotValue } from '../formulas/formula-types.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import type { NetFigures, PieceCut } from './net-quantity.ts';
import type { FormulaTrace } from './row-reader.ts';

/** Outcome of one line on one element. */
export enum LineState {
  known = 0,
  /** The line's condition does not hold: it is no part of the element's price. */
  skipped = 1,
  problem = 2,
}

/** The cells of one line over the elements of a block. */
export interface EvaluatedLine {
  /** Null where the line itself is broken. */
  readonly item: RecipeItem | null;
  readonly code: string;
  readonly path: readonly string[];
  /** Ids of the lines it comes through, its own last. */
  readonly lines: readonly string[];
  /** Net quantity in the item's unit, by position in the block. NaN unless known. */
  readonly net: Float64Array;
  readonly state: Uint8Array;
  /** Rates of the elements per unit of the item, where each has its own; null where one holds for all. */
  readonly rates: Float64Array | null;
  /** Pieces by sold length, splices, and the pieces that are needed, by position; null if the item is not sold in lengths. */
  readonly cut: { readonly pieces: readonly Float64Array[]; readonly splices: Float64Array; readonly lists: readonly (readonly PieceCut[])[] } | null; // biome-ignore format: one record
  /** Reasons, by position in the block. */
  readonly problems: ReadonlyMap<number, Problem>;
  /** What a line reads that runs once for a room or the project; null for one of single elements. */
  readonly inputs: RunInputs | null;
  /** How such a line was shared out. */
  readonly sharing?: Sharing;
}

/** What a line that runs once for several elements reads of those of a block. It is worked out when the elements of all blocks are known. */
export interface RunInputs {
  /** Figures by summed name and position, SI. */
  readonly figures: readonly Float64Array[];
  /** Driver by position: what the result is shared out by. */
  readonly weights: Float64Array;
  /** What the line runs for, by position; null where the element takes no part. */
  readonly groups: (string | null)[];
  /** What is the same for all elements of a run, by what it runs for. */
  readonly fixed: Map<string, readonly SlotValue[]>;
}

/** One run of a line: the formulas with the sums they had, those of the lines it uses first, and what it gave. */
export interface RunResult {
  readonly traces: readonly FormulaTrace[];
  readonly outcome: NetFigures | Problem | null;
}

/** Which run the share of each element is of, and how large it is. By position; a share of NaN is none. */
export interface Sharing {
  readonly runs: readonly (RunResult | null)[];
  readonly shares: Float64Array;
}
