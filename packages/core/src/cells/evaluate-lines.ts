import { isSameRows } from '../elements/columns.ts';
import type { DecidedPart } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { isRateByElement } from '../recipes/item-rate.ts';
import { listLineTraits } from '../recipes/line-traits.ts';
import { listRecipeLeaves, type RecipeLeaf, type RecipeStep } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import { type EvaluatedLine, LineState } from './cell-line.ts';
import { findRate, meanRate, type PieceCut } from './net-quantity.ts';
import { RowReader } from './row-reader.ts';
import { readInputs, startInputs } from './runs.ts';
import type { TableChange } from './table-change.ts';
import { walkRecipe } from './walk-recipe.ts';

/** The cells of a block as they were worked out, with what they were worked out from. */
export interface EvaluatedBlock {
  readonly recipe: RecipeStep;
  readonly table: ElementTable;
  readonly rows: Int32Array;
  /** What of its rows the cells are of, where they are of parts. */
  readonly of: RowParts | null;
  readonly lines: readonly EvaluatedLine[];
  /** How each line came from that of before; null for one that is the same, or has none before. */
  readonly origins: readonly (LineOrigin | null)[];
  /** Cells that were worked out; the others were taken over. */
  readonly fresh: number;
}

/** Parts of rows that a decision is about: each one's place among those of its row. */
export interface RowParts {
  readonly about: DecidedPart;
  readonly parts: Int32Array;
}

/** How a line came from the one of before: cells were taken over, except those worked out anew. */
export interface LineOrigin {
  readonly from: EvaluatedLine;
  /** Position in `from` by position, -1 for none; null if both have the same elements. */
  readonly oldAt: Int32Array | null;
  /** Cells worked out anew, by position; null for none. */
  readonly isFresh: Uint8Array | null;
}

/**
 * The cells of every line of a recipe on every row of a block. Failures are kept per line and row; the rest goes on. Lines that run
 * once for several elements only read what they need: `shareRuns` works them out.
 * @param rows ascending; of parts each row as often as it has some
 * @param before the same block as it was; what is the same about its lines, elements and their fields is taken over
 * @param change how the table differs from that of `before`; null if its elements are others
 * @param of what of the rows the cells are of; null for the elements themselves
 */
export function evaluateLines(
  recipe: RecipeStep,
  table: ElementTable,
  rows: Int32Array,
  before: EvaluatedBlock | null = null,
  change: TableChange | null = null,
  of: RowParts | null = null,
): EvaluatedBlock {
  const leaves = listRecipeLeaves(recipe);
  const traits = listLineTraits(recipe);
  const usable = before && (before.table === table || change) && before.of?.about === of?.about ? before : null;
  const oldAt = usable && !isSamePlaces(usable, { rows, of }) ? placeRows(usable, { rows, of }) : null;
  const oldTraits = usable ? listLineTraits(usable.recipe) : [];
  const oldOf = new Map(usable ? listRecipeLeaves(usable.recipe).map((leaf, i) => [leafKey(leaf), i]) : []);
  const wanted = leaves.map((leaf, i): { from: EvaluatedLine | null; rows: Uint8Array | null; count: number } => {
    const old = oldOf.get(leafKey(leaf));
    if (!usable || old === undefined || oldTraits[old]!.signature !== traits[i]!.signature)
      return { from: null, rows: new Uint8Array(rows.length).fill(1), count: rows.length };
    const differs = usable.table === table ? null : change!.rowsOf(traits[i]!.reads);
    let marks: Uint8Array | null = null;
    let count = 0;
    if (oldAt || differs)
      for (let at = 0; at < rows.length; at++)
        if ((oldAt && oldAt[at]! < 0) || differs?.[rows[at]!]) {
          marks ??= new Uint8Array(rows.length);
          marks[at] = 1;
          count++;
        }
    return { from: usable.lines[old]!, rows: marks, count };
  });
  const lines = leaves.map((leaf, i): EvaluatedLine => {
    const { from, rows: marks } = wanted[i]!;
    if (from && !oldAt && !marks) return from;
    return from ? takeOver(from, leaf, rows.length, oldAt, marks) : startLine(leaf, rows.length);
  });
  const fresh = wanted.reduce((sum, w) => sum + w.count, 0);
  if (fresh > 0) fill(recipe, table, { rows, of }, lines, wanted, traits);
  const origins = wanted.map(({ from, rows: isFresh }, i) =>
    from && lines[i] !== from ? { from, oldAt, isFresh } : null,
  );
  return { recipe, table, rows, of, lines, origins, fresh };
}

const leafKey = ({ lines, path, code }: RecipeLeaf) => JSON.stringify([lines, path, code]);

type Places = Pick<EvaluatedBlock, 'rows' | 'of'>;

/** Whether cells are of the same rows, and of the same parts of them. */
export const isSamePlaces = (a: Places, b: Places): boolean =>
  isSameRows(a.rows, b.rows) && a.of?.about === b.of?.about && (a.of === b.of || isSameRows(a.of!.parts, b.of!.parts));

/** Positions of rows, or parts of rows, in another list of such, both ascending; -1 where it has them not. */
function placeRows(old: Places, { rows, of }: Places): Int32Array {
  const partAt = (parts: Int32Array | undefined, at: number) => parts?.[at] ?? 0;
  let o = 0;
  return rows.map((row, at) => {
    const part = partAt(of?.parts, at);
    while (old.rows[o]! < row || (old.rows[o] === row && partAt(old.of?.parts, o) < part)) o++;
    return old.rows[o] === row && partAt(old.of?.parts, o) === part ? o : -1;
  });
}

const NO_PIECES: readonly PieceCut[] = [];

function startLine({ item, code, path, lines }: RecipeLeaf, count: number): EvaluatedLine {
  return {
    item,
    code,
    path,
    lines,
    net: new Float64Array(count).fill(Number.NaN),
    state: new Uint8Array(count),
    rates: item && isRateByElement(item.rate) ? new Float64Array(count).fill(Number.NaN) : null,
    cut:
      item && item.lengths.length > 0
        ? { pieces: item.lengths.map(() => new Float64Array(count)), splices: new Float64Array(count), lists: new Array(count).fill(NO_PIECES) } // biome-ignore format: one record
        : null,
    problems: new Map(),
    inputs: item?.shared ? startInputs(item.shared, count) : null,
  };
}

/** A line with the cells of another that are the same; those that are worked out anew are left as they start. */
function takeOver(
  from: EvaluatedLine,
  leaf: RecipeLeaf,
  count: number,
  oldAt: Int32Array | null,
  isFresh: Uint8Array | null,
): EvaluatedLine {
  const line = startLine(leaf, count);
  const problems = line.problems as Map<number, Problem>;
  for (let at = 0; at < count; at++) {
    const old = oldAt ? oldAt[at]! : at;
    if (isFresh?.[at]) continue;
    line.net[at] = from.net[old]!;
    line.state[at] = from.state[old]!;
    if (line.rates) line.rates[at] = from.rates![old]!;
    line.cut?.pieces.forEach((p, i) => {
      p[at] = from.cut!.pieces[i]![old]!;
    });
    if (line.cut) {
      line.cut.splices[at] = from.cut!.splices[old]!;
      (line.cut.lists as (readonly PieceCut[])[])[at] = from.cut!.lists[old]!;
    }
    if (line.state[at] === LineState.problem) problems.set(at, from.problems.get(old)!);
    if (!line.inputs) continue;
    const { inputs } = from;
    line.inputs.figures.forEach((f, i) => {
      f[at] = inputs!.figures[i]![old]!;
    });
    line.inputs.weights[at] = inputs!.weights[old]!;
    const group = inputs!.groups[old]!;
    line.inputs.groups[at] = group;
    if (group !== null) line.inputs.fixed.set(group, inputs!.fixed.get(group)!);
  }
  return line;
}

/** Works the wanted cells out. */
function fill(
  recipe: RecipeStep,
  table: ElementTable,
  { rows, of }: Places,
  lines: readonly EvaluatedLine[],
  wanted: readonly { readonly rows: Uint8Array | null }[],
  traits: readonly { readonly usesResults: boolean }[],
): void {
  const reader = new RowReader(table);
  let at = 0;
  let leaf = 0;
  const isWantedAt = (i: number) => wanted[i]!.rows?.[at] === 1;
  const among = (count: number, test: (i: number) => boolean) => {
    for (let i = leaf; i < leaf + count; i++) if (test(i)) return true;
    return false;
  };
  /** Sets the next leaves that are wanted, and goes on. */
  const settleEach = (count: number, set: (line: EvaluatedLine) => void) => {
    for (let i = 0; i < count; i++, leaf++) if (isWantedAt(leaf)) set(lines[leaf]!);
  };
  const fail = (count: number, problem: Problem) =>
    settleEach(count, (line) => {
      line.state[at] = LineState.problem;
      (line.problems as Map<number, Problem>).set(at, problem);
    });
  const visitor: Parameters<typeof walkRecipe>[3] = {
    isWanted: (count) => among(count, isWantedAt),
    pass: (count) => {
      leaf += count;
    },
    needsResults: (count) => among(count, (i) => traits[i]!.usesResults && isWantedAt(i)),
    skip: (count) =>
      settleEach(count, (line) => {
        line.state[at] = LineState.skipped;
      }),
    fail,
    know: (net) =>
      settleEach(1, (line) => {
        const rate = meanRate(net);
        if (line.rates && rate !== null) line.rates[at] = rate;
        line.net[at] = net.net;
        net.counts.forEach((count, i) => {
          line.cut!.pieces[i]![at] = count;
        });
        if (line.cut) {
          line.cut.splices[at] = net.splices;
          (line.cut.lists as (readonly PieceCut[])[])[at] = net.cuts;
        }
      }),
    share: (item, frame) => {
      const line = lines[leaf]!;
      const problem = readInputs(item.shared!, line.inputs!, at, frame, reader);
      if (problem) return fail(1, problem);
      const rate = line.rates ? findRate(item, frame, reader) : null;
      if (typeof rate === 'object' && rate !== null) {
        line.inputs!.groups[at] = null;
        return fail(1, rate);
      }
      if (rate !== null) line.rates![at] = rate;
      leaf++;
    },
  };
  const anyWanted = joinMarks(
    wanted.map((w) => w.rows),
    rows.length,
  );
  for (at = 0; at < rows.length; at++) {
    if (!anyWanted[at]) continue;
    reader.go(rows[at]!, of?.about, of?.parts[at]);
    leaf = 0;
    walkRecipe(recipe, null, reader, visitor);
  }
}

function joinMarks(marks: readonly (Uint8Array | null)[], count: number): Uint8Array {
  const joined = new Uint8Array(count);
  for (const rows of marks) if (rows) for (let at = 0; at < count; at++) joined[at]! |= rows[at]!;
  return joined;
}
