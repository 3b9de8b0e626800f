import type { PartRun } from '../book/assembly.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { CompiledFormula } from '../formulas/compile-formula.ts';
import type { SlotValue } from '../formulas/formula-types.ts';
import type { Problem, Result } from '../result/result.ts';
import { isRateByElement, rateToUnit } from './item-rate.ts';
import { addNet, findRate, isProblem, meanRate, type NetFigures, sumNet } from './net-quantity.ts';
import type { RecipeAssembly, RecipeItem, RecipeStep } from './recipe.ts';
import { type FormulaTrace, type Frame, RowReader } from './row-reader.ts';
import { readInputs, type SharedInputs, type Sharing, startInputs } from './shared-lines.ts';

/** Outcome of one recipe line on one element. */
export enum LineState {
  known = 0,
  /** The line's condition does not hold: it is no part of the element's price. */
  skipped = 1,
  problem = 2,
}

/** One line of a recipe over all elements of a block. */
export interface EvaluatedLine {
  /** Null where the line itself is broken. */
  readonly item: RecipeItem | null;
  readonly code: string;
  readonly path: readonly string[];
  /** Net quantity in the item's unit, by position in the block. NaN unless known. */
  readonly net: Float64Array;
  readonly state: Uint8Array;
  /** Rates of the elements per unit of the item, where each has its own; null where one holds for all. */
  readonly rates: Float64Array | null;
  /** Pieces by sold length and splices, by position; null if the item is not sold in lengths. */
  readonly cut: { readonly pieces: readonly Float64Array[]; readonly splices: Float64Array } | null;
  /** Reasons, by position in the block. */
  readonly problems: ReadonlyMap<number, Problem>;
  /** What a line reads that runs once for a room or the project; null for one of single elements. */
  readonly inputs: SharedInputs | null;
  /** How such a line was shared out. */
  readonly sharing?: Sharing;
}

/** The leaf lines of a recipe, in reading order. */
export function listRecipeLeaves(
  step: RecipeStep,
): { item: RecipeItem | null; code: string; path: readonly string[]; problem: Problem | null }[] {
  if (step.kind === 'item') return [{ item: step, code: step.item.code, path: step.path, problem: null }];
  if (step.kind === 'broken') return [{ item: null, code: step.code, path: step.path, problem: step.problem }];
  return step.steps.flatMap(listRecipeLeaves);
}

/**
 * Calculates every line of a recipe on every row of a block. Failures are kept per line and row; the rest goes on. Lines that run
 * once for several elements only read what they need: `settleSharedLines` works them out.
 */
export function evaluateRecipe(step: RecipeStep, table: ElementTable, rows: Int32Array): EvaluatedLine[] {
  const leaves = listRecipeLeaves(step);
  const lines = leaves.map(({ item, code, path }) => ({
    item,
    code,
    path,
    net: new Float64Array(rows.length).fill(Number.NaN),
    state: new Uint8Array(rows.length),
    rates: item && isRateByElement(item.rate) ? new Float64Array(rows.length).fill(Number.NaN) : null,
    cut:
      item && item.lengths.length > 0
        ? { pieces: item.lengths.map(() => new Float64Array(rows.length)), splices: new Float64Array(rows.length) }
        : null,
    problems: new Map<number, Problem>(),
    inputs: item?.shared ? startInputs(item.shared, rows.length) : null,
  }));
  const reader = new RowReader(table);
  for (let at = 0; at < rows.length; at++) {
    reader.go(rows[at]!);
    let leaf = 0;
    const settle = (count: number, state: LineState, problem?: Problem) => {
      for (let i = 0; i < count; i++, leaf++) {
        lines[leaf]!.state[at] = state;
        if (problem) lines[leaf]!.problems.set(at, problem);
      }
    };
    walkStep(step, null, reader, {
      settle,
      share: (item, frame) => {
        const line = lines[leaf]!;
        const problem = readInputs(item.shared!, line.inputs!, at, frame, reader);
        if (problem) return settle(1, LineState.problem, problem);
        const rate = line.rates ? findRate(item, frame, reader) : null;
        if (typeof rate === 'object' && rate !== null) {
          line.inputs!.groups[at] = null;
          return settle(1, LineState.problem, rate);
        }
        if (rate !== null) line.rates![at] = rate;
        leaf++;
      },
      known: (net) => {
        const line = lines[leaf]!;
        const rate = meanRate(net);
        if (line.rates && rate !== null) line.rates[at] = rate;
        line.net[at] = net.net;
        net.counts.forEach((count, i) => {
          line.cut!.pieces[i]![at] = count;
        });
        if (line.cut) line.cut.splices[at] = net.splices;
        leaf++;
      },
    });
  }
  return lines;
}

interface Visitor {
  settle(count: number, state: LineState, problem?: Problem): void;
  known(net: NetFigures, step: RecipeItem): void;
  /** A line that runs once for several elements. */
  share(step: RecipeItem, frame: Frame | null): void;
}

const leafCounts = new WeakMap<RecipeStep, number>();
function countLeaves(step: RecipeStep): number {
  let n = leafCounts.get(step);
  if (n === undefined) {
    n = listRecipeLeaves(step).length;
    leafCounts.set(step, n);
  }
  return n;
}

function walkStep(step: RecipeStep, frame: Frame | null, reader: RowReader, visitor: Visitor): void {
  if (step.kind === 'broken') return visitor.settle(1, LineState.problem, step.problem);
  if (step.kind === 'item') {
    if (step.shared) return visitor.share(step, frame);
    const net = sumNet(step, frame, reader, true);
    if (net === null) return visitor.settle(1, LineState.skipped);
    return isProblem(net) ? visitor.settle(1, LineState.problem, net) : visitor.known(net, step);
  }
  if (step.per) return walkParts(step, step.per, frame, reader, visitor);
  walkAssembly(step, frame, reader, visitor);
}

/** An assembly that runs over parts: each of its lines adds up what it gives on them. */
function walkParts(step: RecipeAssembly, per: PartRun, frame: Frame | null, reader: RowReader, visitor: Visitor): void {
  const sums: { net: NetFigures | Problem | null; item: RecipeItem | null }[] = Array.from(
    { length: countLeaves(step) },
    () => ({ net: null, item: null }),
  );
  for (const _ of reader.parts(per)) {
    let leaf = 0;
    const add = (net: NetFigures | Problem | null, item: RecipeItem | null) => {
      const sum = sums[leaf++]!;
      sum.net = addNet(sum.net, net);
      sum.item ??= item;
    };
    walkAssembly(step, frame, reader, {
      settle: (count, _state, problem) => {
        for (let i = 0; i < count; i++) add(problem ?? null, null);
      },
      known: add,
      share: () => add(null, null),
    });
  }
  for (const { net, item } of sums) {
    if (net === null) visitor.settle(1, LineState.skipped);
    else if (isProblem(net)) visitor.settle(1, LineState.problem, net);
    else visitor.known(net, item!);
  }
}

function walkAssembly(step: RecipeAssembly, frame: Frame | null, reader: RowReader, visitor: Visitor): void {
  if (step.when) {
    const when = reader.run(step.when, frame);
    if (!when.ok) return visitor.settle(countLeaves(step), LineState.problem, when.problem);
    if (!when.value) return visitor.settle(countLeaves(step), LineState.skipped);
  }
  const driver = reader.run(step.driver, frame);
  if (!driver.ok) return visitor.settle(countLeaves(step), LineState.problem, driver.problem);
  const inner = {
    driver: driver.value as number,
    parameters: new Map<string, SlotValue>(),
    lines: new Map<string, number | Problem>(),
  };
  for (const { name, formula, isHanded } of step.parameters) {
    const value = reader.run(formula, isHanded ? frame : inner);
    if (!value.ok) return visitor.settle(countLeaves(step), LineState.problem, value.problem);
    inner.parameters.set(name, value.value as SlotValue);
  }
  for (const { name, step: line } of step.named) inner.lines.set(name, findResult(line, inner, reader));
  for (const child of step.steps) walkStep(child, inner, reader, visitor);
}

/** Result of a named line in SI for the lines that use it: 0 where its condition does not hold, so that they go with it. */
function findResult(step: RecipeStep, frame: Frame, reader: RowReader): number | Problem {
  if (step.kind === 'broken') return step.problem;
  if (step.kind === 'item') {
    const net = sumNet(step, frame, reader);
    if (net === null) return 0;
    return isProblem(net) ? net : net.net * step.unit.factor;
  }
  if (!step.per) return findDriver(step, frame, reader);
  let sum = 0;
  for (const _ of reader.parts(step.per)) {
    const driver = findDriver(step, frame, reader);
    if (typeof driver !== 'number') return driver;
    sum += driver;
  }
  return sum;
}

function findDriver(step: RecipeAssembly, frame: Frame, reader: RowReader): number | Problem {
  const when = step.when && reader.run(step.when, frame);
  if (when && !when.ok) return when.problem;
  if (when && !when.value) return 0;
  const driver = reader.run(step.driver, frame);
  return driver.ok ? (driver.value as number) : driver.problem;
}

/** The formulas behind one line of a recipe on one row, each with the figures it met. */
export interface LeafTrace {
  /** Of its quantity, outermost first. */
  readonly quantity: readonly FormulaTrace[];
  /** Of its rate, per unit of its item: one, or one for each opening or layer where they differ. None for a plain rate. */
  readonly rate: readonly FormulaTrace[];
}

export function traceLeaf(step: RecipeStep, table: ElementTable, row: number, leaf: number): LeafTrace {
  const reader = new RowReader(table);
  reader.isTracing = true;
  reader.go(row);
  let at = 0;
  let found: LeafTrace = { quantity: [], rate: [] };
  let from = 0;
  const mark = (item?: RecipeItem) => {
    if (at === leaf && item) {
      const drivers = collectDrivers(step, item);
      const list = (formula: CompiledFormula | null) => {
        const since = reader.traces.slice(from).filter((t) => t.formula === formula);
        // The lines of an assembly that runs over parts are all traced before the first of them is told.
        const own = since.length > 0 ? since : reader.traces.filter((t) => t.formula === formula);
        return own.slice(0, MOST_SHOWN);
      };
      found = {
        quantity: [...reader.traces.filter((t) => drivers.includes(t.formula)), ...list(item.quantity)],
        rate: traceRate(item, list(item.rate.formula)),
      };
    }
    at++;
    from = reader.traces.length;
  };
  walkStep(step, null, reader, {
    settle: (count) => {
      for (let i = 0; i < count; i++) mark();
    },
    known: (_net, item) => mark(item),
    share: (item, frame) => {
      if (isRateByElement(item.rate)) findRate(item, frame, reader);
      mark(item);
    },
  });
  return found;
}

/** Most openings or layers whose figures are shown one by one. */
const MOST_SHOWN = 12;

/** What a formula of quantities gives for one element, in SI. Errors: those of the run. */
export function evaluateOnElement(
  formula: CompiledFormula,
  table: ElementTable,
  row: number,
): Result<number | string | boolean> {
  const reader = new RowReader(table);
  reader.go(row);
  return reader.run(formula, null);
}

/** The formula of an item's rate with the figures it met, each way once; none if it has a plain rate. */
function traceRate({ rate: { formula, value }, unit }: RecipeItem, met: readonly FormulaTrace[]): FormulaTrace[] {
  if (!formula) return [];
  // The same for all elements: nothing was read of this one. What the project takes is added by who knows it.
  if (met.length === 0 && value !== null)
    return [{ formula, values: formula.slots.map((s) => s.value ?? Number.NaN), result: value }];
  const different = new Map(met.map((t) => [t.values.join('|'), t]));
  return [...different.values()].map((t) => ({ ...t, result: rateToUnit(t.result, unit) }));
}

function collectDrivers(step: RecipeStep, item: RecipeItem): CompiledFormula[] {
  if (step.kind !== 'assembly') return [];
  const child = step.steps.find(
    (s) => s === item || (s.kind === 'assembly' && listRecipeLeaves(s).some((l) => l.item === item)),
  );
  return child ? [step.driver, ...collectDrivers(child, item)] : [];
}
