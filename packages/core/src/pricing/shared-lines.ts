import { isSharedRun, type LineRun, type SharedRun } from '../book/assembly.ts';
import { type CompiledFormula, runFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import { DESCRIBING_QUANTITIES } from '../quantities/quantity-names.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { type EvaluatedLine, LineState } from './evaluate-recipe.ts';
import type { ExplainedStep } from './explain-step.ts';
import { explainStep } from './explain-step.ts';
import { cutNet, isProblem, type NetFigures } from './net-quantity.ts';
import type { RecipeItem } from './recipe.ts';
import type { Frame, RowReader } from './row-reader.ts';

/** How a line runs once for all elements of a room or of the project. */
export interface SharedLine {
  readonly run: SharedRun;
  /** Tells the line from others, wherever its assembly is used. */
  readonly id: string;
  /** Names that its condition and its quantity read. */
  readonly slots: readonly FormulaName[];
}

/** What a shared line reads of the elements of a block. It is worked out when the elements of all blocks are known. */
export interface SharedInputs {
  /** Figures by slot and position, SI. */
  readonly figures: readonly Float64Array[];
  /** Driver by position: what the result is shared out by. */
  readonly weights: Float64Array;
  /** What the line runs for, by position; null where the element takes no part. */
  readonly groups: (string | null)[];
}

/** One run of a shared line: the sums it had, and what it gave. */
interface SharedRunResult {
  readonly sums: readonly number[];
  readonly outcome: NetFigures | Problem | null;
}

/** Which run the share of each element is of, and how large it is. By position; a share of NaN is none. */
export interface Sharing {
  readonly runs: readonly (SharedRunResult | null)[];
  readonly shares: Float64Array;
}

/** Names of a line that runs once for several elements: what differs from one to the other without a sum cannot be used. */
export function nameShared(names: FormulaNames): FormulaNames {
  const refuse = (name: FormulaName): FormulaName => {
    const isSum = name.source !== 'quantity' || !DESCRIBING_QUANTITIES.has(name.name);
    if (isSum && (name.source !== 'parameter' || name.isConstant)) return name;
    return {
      ...name,
      problem: {
        code: 'formula-shared',
        message: 'it differs from element to element and has no sum, and the line runs once for all of them.',
        remedy: 'Take the driver, or a quantity that adds up.',
      },
    };
  };
  return names.with(names.list().map(refuse));
}

/** How a line runs that is shared; null for one that is not. Errors: `formula-shared`. */
export function prepareShared(
  run: LineRun | undefined,
  id: string,
  quantity: CompiledFormula,
  when: CompiledFormula | null,
): Result<SharedLine | null> {
  if (!isSharedRun(run)) return success(null);
  const reading = [quantity, ...(when ? [when] : [])].find((f) => f.readsElement);
  if (reading)
    return failure('formula-shared', `"${reading.text}" reads a single element; the line runs once for several.`, {
      remedy: 'Let the line run per element, or take quantities.',
    });
  const slots = new Map([...quantity.slots, ...(when?.slots ?? [])].map((s) => [s.name, s]));
  return success({ run, id, slots: [...slots.values()] });
}

export function startInputs({ slots }: SharedLine, count: number): SharedInputs {
  return {
    figures: slots.map(() => new Float64Array(count)),
    weights: new Float64Array(count),
    groups: new Array<string | null>(count).fill(null),
  };
}

/** Reads what an element gives to a shared line; a problem keeps it out. */
export function readInputs(
  { run, slots }: SharedLine,
  inputs: SharedInputs,
  at: number,
  frame: Frame | null,
  reader: RowReader,
): Problem | null {
  const room = run === 'room' ? reader.readRoom() : '';
  if (room === null)
    return {
      code: 'room-unknown',
      message: 'The element lies in no room, and the line runs once per room.',
      remedy: 'Let the rule catch rooms or what stands in them.',
    };
  const fixed: number[] = [];
  for (const [i, slot] of slots.entries()) {
    const figure = reader.readSlot(slot, frame);
    if (typeof figure !== 'number') return figure;
    if (Number.isNaN(figure))
      return {
        code: 'formula-quantity-missing',
        message: `The element has no ${slot.name}.`,
        remedy: 'Use a quantity it has, or look at why it could not be measured.',
      };
    inputs.figures[i]![at] = figure;
    if (!isSummed(slot)) fixed.push(figure);
  }
  inputs.weights[at] = Math.max(0, frame?.driver ?? 0);
  // The same line under other parameters is another run.
  inputs.groups[at] = [room, ...fixed].join('|');
  return null;
}

const isSummed = ({ source }: FormulaName) => source !== 'parameter' && source !== 'value';

interface Group {
  readonly step: RecipeItem;
  readonly sums: number[];
  weight: number;
  count: number;
  result: SharedRunResult | null;
}

const keyOf = ({ shared }: RecipeItem, group: string) => `${shared!.id}|${group}`;

/** Works the shared lines of a plan out, over the elements of all its blocks, and shares out what they give by the driver. */
export function settleSharedLines(
  blocks: readonly (readonly EvaluatedLine[])[],
): readonly (readonly EvaluatedLine[])[] {
  const groups = new Map<string, Group>();
  for (const lines of blocks)
    for (const { item, inputs } of lines) {
      if (!item?.shared || !inputs) continue;
      const { slots } = item.shared;
      inputs.groups.forEach((name, at) => {
        if (name === null) return;
        const key = keyOf(item, name);
        const group = groups.get(key) ?? { step: item, sums: slots.map(() => 0), weight: 0, count: 0, result: null };
        groups.set(key, group);
        for (const [i, slot] of slots.entries())
          group.sums[i] = isSummed(slot) ? group.sums[i]! + inputs.figures[i]![at]! : inputs.figures[i]![at]!;
        group.weight += inputs.weights[at]!;
        group.count++;
      });
    }
  if (groups.size === 0) return blocks;
  for (const group of groups.values()) group.result = { sums: group.sums, outcome: runOnce(group) };
  return blocks.map((lines) => lines.map((line) => (line.inputs ? shareOut(line, groups) : line)));
}

/** The sums that a formula of a shared line reads, in the order of its own names. */
const pickSums = ({ slots: wanted }: CompiledFormula, { slots }: SharedLine, sums: readonly number[]): number[] =>
  wanted.map((slot) => sums[slots.findIndex((s) => s.name === slot.name)]!);

function runOnce({ step, sums }: Group): NetFigures | Problem | null {
  const valuesOf = (formula: CompiledFormula) => pickSums(formula, step.shared!, sums);
  const when = step.when && runFormula(step.when, valuesOf(step.when));
  if (when && !when.ok) return when.problem;
  if (when && !when.value) return null;
  const quantity = runFormula(step.quantity, valuesOf(step.quantity));
  return quantity.ok ? cutNet(step, (quantity.value as number) / step.unit.factor) : quantity.problem;
}

const settled = new WeakMap<EvaluatedLine, EvaluatedLine>();

/** The line with the share of each element. The one of before is given back if nothing is different. */
function shareOut(line: EvaluatedLine, groups: ReadonlyMap<string, Group>): EvaluatedLine {
  const count = line.net.length;
  const net = line.net.slice();
  const state = line.state.slice();
  const problems = new Map(line.problems);
  const cut = line.cut && { pieces: line.cut.pieces.map((p) => p.slice()), splices: line.cut.splices.slice() };
  const runs = new Array<SharedRunResult | null>(count).fill(null);
  const shares = new Float64Array(count).fill(Number.NaN);
  line.inputs!.groups.forEach((name, at) => {
    if (name === null) return;
    const { result, weight, count: members } = groups.get(keyOf(line.item!, name))!;
    const { outcome } = result!;
    runs[at] = result;
    if (outcome === null) state[at] = LineState.skipped;
    else if (isProblem(outcome)) {
      state[at] = LineState.problem;
      problems.set(at, outcome);
    } else {
      const share = weight > 0 ? line.inputs!.weights[at]! / weight : 1 / members;
      shares[at] = share;
      net[at] = outcome.net * share;
      outcome.counts.forEach((n, i) => {
        cut!.pieces[i]![at] = n * share;
      });
      if (cut) cut.splices[at] = outcome.splices * share;
    }
  });
  const before = settled.get(line);
  if (before && isSameLine(before, net, state, problems)) return before;
  const after: EvaluatedLine = { ...line, net, state, problems, cut, sharing: { runs, shares } };
  settled.set(line, after);
  return after;
}

function isSameLine(
  before: EvaluatedLine,
  net: Float64Array,
  state: Uint8Array,
  problems: ReadonlyMap<number, Problem>,
): boolean {
  return (
    net.every((n, i) => Object.is(n, before.net[i])) &&
    state.every((s, i) => s === before.state[i]) &&
    [...problems].every(([at, { message }]) => before.problems.get(at)?.message === message)
  );
}

const FOR: Readonly<Record<SharedRun, string>> = { room: 'the room', project: 'the project' };

/** How an element came to its share of a shared line: the run with its sums, then the share. None for a line of its own. */
export function explainShare({ item, sharing, net }: EvaluatedLine, at: number): ExplainedStep[] {
  const run = sharing?.runs[at];
  if (!sharing || !item?.shared || !run?.outcome || isProblem(run.outcome)) return [];
  const { quantity, shared, unit } = item;
  const values = pickSums(quantity, shared, run.sums);
  const whole = explainStep({ formula: quantity, values, result: run.outcome.net * unit.factor });
  const percent = Number((sharing.shares[at]! * 100).toPrecision(4));
  return [
    { ...whole, lead: `Once for ${FOR[shared.run]}` },
    {
      ...whole,
      lead: 'Its share by the driver',
      formula: 'share',
      figures: `${percent} %`,
      result: net[at]! * unit.factor,
    },
  ];
}
