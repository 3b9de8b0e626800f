import type { LineRun } from '../book/assembly.ts';
import { readText } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import { type ElementTable, findRow } from '../elements/element-table.ts';
import type { FaceLook, FinishSurface, PropertyValue } from '../elements/model-element.ts';
import { type CompiledFormula, runFormula } from '../formulas/compile-formula.ts';
import { findJunctionsOf } from '../quantities/junctions-among.ts';
import { findLimit, shareWithin } from '../quantities/limited-quantity.ts';
import { sumFinishes } from '../quantities/room-finishes.ts';
import { readSideView } from '../quantities/side-view.ts';
import { sumFaces } from '../quantities/sum-faces.ts';
import type { JunctionKind } from '../quantities/wall-junctions.ts';
import type { Problem, Result } from '../result/result.ts';
import { findPropertyColumns } from '../scopes/evaluate-scope.ts';
import { isRateByElement, rateToUnit } from './item-rate.ts';
import { listPartColumns, partRange } from './part-names.ts';
import type { RecipeAssembly, RecipeItem, RecipeStep } from './recipe.ts';
import { type LengthsTaken, takeFromLengths } from './sold-lengths.ts';

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
}

/** The figures a formula met, for showing how an amount came about. */
export interface FormulaTrace {
  readonly formula: CompiledFormula;
  readonly values: readonly number[];
  readonly result: number;
}

interface Frame {
  readonly driver: number;
  readonly parameters: ReadonlyMap<string, number>;
  /** Results of named lines in SI, or why there is none. */
  readonly lines: ReadonlyMap<string, number | Problem>;
}

/** The opening or layer that is looked at. */
interface PartAt {
  readonly run: LineRun;
  readonly at: number;
}

const limitUnknown = (name: string): Problem => ({
  code: 'limit-unknown',
  message: `There is no limit "${name}" in this project.`,
  remedy: 'Add it in the settings, or take another name.',
});

/** Reads quantities and properties of one table row by row. */
class RowReader {
  private row = 0;
  private readonly columns;
  private readonly properties = new Map<string, ReturnType<typeof findPropertyColumns>>();
  private part: PartAt | null = null;
  private readonly partColumns = new Map<LineRun, ReadonlyMap<string, Float64Array>>();
  readonly traces: FormulaTrace[] = [];
  isTracing = false;

  constructor(private readonly table: ElementTable) {
    this.columns = listEffectiveQuantities(table);
  }

  go(row: number): void {
    this.row = row;
  }

  readonly property = (name: string): PropertyValue | undefined => {
    let columns = this.properties.get(name);
    if (!columns) {
      columns = findPropertyColumns(this.table, name);
      this.properties.set(name, columns);
    }
    for (const { rows, values } of columns) {
      const at = findRow(rows, this.row);
      if (at >= 0) return values[at];
    }
    return undefined;
  };

  private readonly about = {
    side: () => readSideView(this.table, this.row),
    within: (name: string, quantity: string): number | Problem => {
      const limit = findLimit(this.table, name);
      return limit ? shareWithin(this.table, this.row, limit, quantity) : limitUnknown(name);
    },
    finish: (finish: string, surface: FinishSurface | null) => sumFinishes(this.table, this.row, finish, surface),
    junctions: (kind: JunctionKind, classOrType: string) =>
      findJunctionsOf(this.table, classOrType).byRow.get(this.row)?.[kind] ?? 0,
    faces: (style: string, look: FaceLook | null) => sumFaces(this.table, this.row, style, look),
    layerMaterial: () => (this.part?.run === 'layer' ? readText(this.table.layers.material, this.part.at) : null),
  };

  /** Openings or layers of the row, one after the other. */
  *parts(run: LineRun): Generator<PartAt> {
    const [from, to] = partRange(this.table, run, this.row);
    for (let at = from; at < to; at++) {
      this.part = { run, at };
      yield this.part;
    }
    this.part = null;
  }

  private readPart(name: string): number {
    if (!this.part) return Number.NaN;
    const { run, at } = this.part;
    const columns = this.partColumns.get(run) ?? listPartColumns(this.table, run);
    this.partColumns.set(run, columns);
    return columns.get(name.toLowerCase())?.[at] ?? Number.NaN;
  }

  run(formula: CompiledFormula, frame: Frame | null): Result<number | string | boolean> {
    let cause: Problem | null = null;
    const values = formula.slots.map((slot) => {
      if (slot.value !== undefined) return slot.value;
      if (slot.source === 'driver') return frame?.driver ?? Number.NaN;
      if (slot.source === 'parameter') return frame?.parameters.get(slot.name.toLowerCase()) ?? Number.NaN;
      if (slot.source === 'part') return this.readPart(slot.name);
      if (slot.source === 'line') {
        const result = frame?.lines.get(slot.name) ?? Number.NaN;
        if (typeof result === 'number') return result;
        cause ??= result;
        return Number.NaN;
      }
      return this.columns.get(slot.name.toLowerCase())?.values[this.row] ?? Number.NaN;
    });
    if (cause) return { ok: false, problem: cause };
    const result = runFormula(formula, values, this.property, this.about);
    if (this.isTracing && result.ok) this.traces.push({ formula, values, result: Number(result.value) });
    return result;
  }
}

/** The leaf lines of a recipe, in reading order. */
export function listRecipeLeaves(
  step: RecipeStep,
): { item: RecipeItem | null; code: string; path: readonly string[]; problem: Problem | null }[] {
  if (step.kind === 'item') return [{ item: step, code: step.item.code, path: step.path, problem: null }];
  if (step.kind === 'broken') return [{ item: null, code: step.code, path: step.path, problem: step.problem }];
  return step.steps.flatMap(listRecipeLeaves);
}

/** Calculates every line of a recipe on every row of a block. Failures are kept per line and row; the rest goes on. */
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
      known: (net, item) => {
        const line = lines[leaf]!;
        const rate = line.rates ? findRate(item, reader) : null;
        if (rate && typeof rate !== 'number') return settle(1, LineState.problem, rate);
        if (rate !== null) line.rates![at] = rate as number;
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
    const net = sumNet(step, frame, reader);
    if (net === null) return visitor.settle(1, LineState.skipped);
    return isProblem(net) ? visitor.settle(1, LineState.problem, net) : visitor.known(net, step);
  }
  if (step.when) {
    const when = reader.run(step.when, frame);
    if (!when.ok) return visitor.settle(countLeaves(step), LineState.problem, when.problem);
    if (!when.value) return visitor.settle(countLeaves(step), LineState.skipped);
  }
  walkAssembly(step, frame, reader, visitor);
}

/** Net quantity of a line on a row in the unit of its item, and what it takes of the sold lengths. */
interface NetFigures extends LengthsTaken {
  readonly net: number;
}

const isProblem = (outcome: NetFigures | Problem): outcome is Problem => 'code' in outcome;

/** Net quantity of an item on the row, over its openings or layers; null if its condition does not hold, or a problem. */
function sumNet(step: RecipeItem, frame: Frame | null, reader: RowReader): NetFigures | Problem | null {
  if (!step.per) return findNet(step, frame, reader);
  let sum: NetFigures | Problem | null = null;
  for (const _ of reader.parts(step.per)) {
    const own = findNet(step, frame, reader);
    if (own === null || (sum !== null && isProblem(sum))) continue;
    sum =
      sum === null || isProblem(own)
        ? own
        : {
            net: sum.net + own.net,
            counts: sum.counts.map((n, i) => n + own.counts[i]!),
            splices: sum.splices + own.splices,
          };
  }
  return sum;
}

function findNet(step: RecipeItem, frame: Frame | null, reader: RowReader): NetFigures | Problem | null {
  const when = step.when && reader.run(step.when, frame);
  if (when && !when.ok) return when.problem;
  if (when && !when.value) return null;
  const quantity = reader.run(step.quantity, frame);
  if (!quantity.ok) return quantity.problem;
  const net = (quantity.value as number) / step.unit.factor;
  if (net >= 0) return cutNet(step, net, frame, reader);
  return {
    code: 'quantity-negative',
    message: `"${step.quantity.text}" gives ${net} ${step.item.unit}, less than nothing.`,
    remedy: 'Check the formula.',
  };
}

const UNCUT: LengthsTaken = { counts: [], splices: 0 };

/** What a net quantity takes of the lengths its item is sold in. */
function cutNet(step: RecipeItem, net: number, frame: Frame | null, reader: RowReader): NetFigures | Problem {
  const { lengths, piece, unit } = step;
  if (lengths.length === 0) return { net, ...UNCUT };
  if (!piece) return { net, ...takeFromLengths(net, lengths.at(-1)!, lengths) };
  const length = reader.run(piece, frame);
  if (!length.ok) return length.problem;
  const figure = (length.value as number) / unit.factor;
  if (figure > 0) return { net, ...takeFromLengths(net, figure, lengths) };
  return {
    code: 'piece-not-positive',
    message: `"${piece.text}" gives ${figure} ${step.item.unit} for the length of a piece.`,
    remedy: 'Check the formula.',
  };
}

/** Rate of the row per unit of the item. */
function findRate({ rate, unit, item }: RecipeItem, reader: RowReader): number | Problem {
  const found = reader.run(rate.formula!, null);
  if (!found.ok) return found.problem;
  const value = rateToUnit(found.value as number, unit);
  if (value >= 0) return value;
  return { code: 'rate-negative', message: `The rate of ${item.code} is less than nothing.`, remedy: 'Correct it.' };
}

function walkAssembly(step: RecipeAssembly, frame: Frame | null, reader: RowReader, visitor: Visitor): void {
  const driver = reader.run(step.driver, frame);
  if (!driver.ok) return visitor.settle(countLeaves(step), LineState.problem, driver.problem);
  const inner = {
    driver: driver.value as number,
    parameters: new Map<string, number>(),
    lines: new Map<string, number | Problem>(),
  };
  for (const { name, formula } of step.parameters) {
    const value = reader.run(formula, inner);
    if (!value.ok) return visitor.settle(countLeaves(step), LineState.problem, value.problem);
    inner.parameters.set(name.toLowerCase(), value.value as number);
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
  const when = step.when && reader.run(step.when, frame);
  if (when && !when.ok) return when.problem;
  if (when && !when.value) return 0;
  const driver = reader.run(step.driver, frame);
  return driver.ok ? (driver.value as number) : driver.problem;
}

/** The formulas behind one leaf on one row, outermost first, each with the figures it met. */
export function traceLeaf(step: RecipeStep, table: ElementTable, row: number, leaf: number): FormulaTrace[] {
  const reader = new RowReader(table);
  reader.isTracing = true;
  reader.go(row);
  let at = 0;
  let found: FormulaTrace[] = [];
  let from = 0;
  const mark = (item?: RecipeItem) => {
    if (at === leaf && item) {
      const drivers = collectDrivers(step, item);
      const own = reader.traces.slice(from).filter((t) => t.formula === item.quantity);
      found = [...reader.traces.filter((t) => drivers.includes(t.formula)), ...own.slice(0, MOST_SHOWN)];
    }
    at++;
    from = reader.traces.length;
  };
  walkStep(step, null, reader, {
    settle: (count) => {
      for (let i = 0; i < count; i++) mark();
    },
    known: (_net, item) => mark(item),
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

/** The formula of an item's rate with the figures it met on a row; null if it has a plain rate. */
export function traceRate({ rate, unit }: RecipeItem, table: ElementTable, row: number): FormulaTrace | null {
  if (!rate.formula) return null;
  const reader = new RowReader(table);
  reader.isTracing = true;
  reader.go(row);
  reader.run(rate.formula, null);
  const trace = reader.traces.at(-1);
  return trace ? { ...trace, result: rateToUnit(trace.result, unit) } : null;
}

function collectDrivers(step: RecipeStep, item: RecipeItem): CompiledFormula[] {
  if (step.kind !== 'assembly') return [];
  const child = step.steps.find(
    (s) => s === item || (s.kind === 'assembly' && listRecipeLeaves(s).some((l) => l.item === item)),
  );
  return child ? [step.driver, ...collectDrivers(child, item)] : [];
}
