import { isSharedRun, type LineRun, type SharedRun } from '../book/assembly.ts';
import { type CompiledFormula, runFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, FormulaNames, SlotValue } from '../formulas/formula-types.ts';
import { DESCRIBING_QUANTITIES } from '../quantities/quantity-names.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { type EvaluatedLine, LineState } from './evaluate-recipe.ts';
import type { ExplainedStep } from './explain-step.ts';
import { explainStep } from './explain-step.ts';
import { cutNet, isProblem, type NetFigures } from './net-quantity.ts';
import type { RecipeItem } from './recipe.ts';
import type { FormulaTrace, Frame, RowReader } from './row-reader.ts';

/** How a line runs once for all elements of a room or of the project. */
export interface SharedLine {
  readonly run: SharedRun;
  /** Tells the line from others, wherever its assembly is used. */
  readonly id: string;
  /** Names that its condition and its quantity read and that are summed over the elements. */
  readonly summed: readonly FormulaName[];
  /** Those that are the same for all elements of a run. */
  readonly fixed: readonly FormulaName[];
  /** Lines that run for the same and whose results it reads. */
  readonly uses: readonly SharedUse[];
}

/** A line that another reads by its name. */
export interface SharedUse {
  readonly name: string;
  readonly step: RecipeItem;
}

/** What a shared line reads of the elements of a block. It is worked out when the elements of all blocks are known. */
export interface SharedInputs {
  /** Figures by summed name and position, SI. */
  readonly figures: readonly Float64Array[];
  /** Driver by position: what the result is shared out by. */
  readonly weights: Float64Array;
  /** What the line runs for, by position; null where the element takes no part. */
  readonly groups: (string | null)[];
  /** What is the same for all elements of a run, by what it runs for. */
  readonly fixed: Map<string, readonly SlotValue[]>;
}

/** One run of a shared line: the formulas with the sums they had, those of the lines it uses first, and what it gave. */
interface SharedRunResult {
  readonly traces: readonly FormulaTrace[];
  readonly outcome: NetFigures | Problem | null;
}

/** Which run the share of each element is of, and how large it is. By position; a share of NaN is none. */
export interface Sharing {
  readonly runs: readonly (SharedRunResult | null)[];
  readonly shares: Float64Array;
}

/** Names of a line that runs once for several elements: what differs from one to the other without a sum cannot be used. */
export function nameShared(names: FormulaNames, run: SharedRun): FormulaNames {
  const refuse = (name: FormulaName): FormulaName => {
    if (name.sharedRun === run) return { ...name, problem: undefined };
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
  const read = [...slots.values()].filter((s) => s.value === undefined && s.sharedRun === undefined);
  const isFixed = ({ source }: FormulaName) => source === 'parameter';
  return success({ run, id, summed: read.filter((s) => !isFixed(s)), fixed: read.filter(isFixed), uses: [] });
}

/** A shared line with those it uses: it reads what they read. */
export function useShared(line: SharedLine, uses: readonly SharedUse[]): SharedLine {
  const lines = [line, ...uses.map((u) => u.step.shared!)];
  const join = (list: (of: SharedLine) => readonly FormulaName[]) => [
    ...new Map(lines.flatMap(list).map((s) => [s.name, s])).values(),
  ];
  const id = lines.map((l) => l.id).join('<');
  return { ...line, id, summed: join((l) => l.summed), fixed: join((l) => l.fixed), uses };
}

export function startInputs({ summed }: SharedLine, count: number): SharedInputs {
  return {
    figures: summed.map(() => new Float64Array(count)),
    weights: new Float64Array(count),
    groups: new Array<string | null>(count).fill(null),
    fixed: new Map(),
  };
}

/** Reads what an element gives to a shared line; a problem keeps it out. */
export function readInputs(
  { run, summed, fixed }: SharedLine,
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
  const missing = ({ name }: FormulaName): Problem => ({
    code: 'formula-quantity-missing',
    message: `The element has no ${name}.`,
    remedy: 'Use a quantity it has, or look at why it could not be measured.',
  });
  for (const [i, slot] of summed.entries()) {
    const figure = reader.readSlot(slot, frame);
    if (typeof figure === 'object') return figure;
    if (typeof figure === 'string' || Number.isNaN(figure)) return missing(slot);
    inputs.figures[i]![at] = figure;
  }
  const same: SlotValue[] = [];
  for (const slot of fixed) {
    const value = reader.readSlot(slot, frame);
    if (typeof value === 'object') return value;
    if (Number.isNaN(value)) return missing(slot);
    same.push(value);
  }
  inputs.weights[at] = Math.max(0, frame?.driver ?? 0);
  // The same line under other parameters is another run.
  const group = JSON.stringify([room, ...same]);
  inputs.groups[at] = group;
  inputs.fixed.set(group, same);
  return null;
}

interface Group {
  readonly step: RecipeItem;
  readonly sums: number[];
  readonly fixed: readonly SlotValue[];
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
      const { summed } = item.shared;
      inputs.groups.forEach((name, at) => {
        if (name === null) return;
        const key = keyOf(item, name);
        const fixed = inputs.fixed.get(name)!;
        const group = groups.get(key) ?? {
          step: item,
          sums: summed.map(() => 0),
          fixed,
          weight: 0,
          count: 0,
          result: null,
        };
        groups.set(key, group);
        for (const i of summed.keys()) group.sums[i]! += inputs.figures[i]![at]!;
        group.weight += inputs.weights[at]!;
        group.count++;
      });
    }
  if (groups.size === 0) return blocks;
  for (const group of groups.values()) group.result = runOnce(group);
  return blocks.map((lines) => lines.map((line) => (line.inputs ? shareOut(line, groups) : line)));
}

/** Works a shared line out from the sums of its group, the lines it uses first: they give 0 where their condition does not hold. */
function runOnce({ step, sums, fixed }: Group): SharedRunResult {
  const shared = step.shared!;
  const known = new Map<string, SlotValue>([
    ...shared.summed.map((s, i) => [s.name, sums[i]!] as const),
    ...shared.fixed.map((s, i) => [s.name, fixed[i]!] as const),
  ]);
  const traces: FormulaTrace[] = [];
  const runLine = (line: RecipeItem): NetFigures | Problem | null => {
    const results = new Map<string, number>();
    for (const { name, step: used } of line.shared!.uses) {
      const outcome = runLine(used);
      if (outcome !== null && isProblem(outcome)) return outcome;
      results.set(name, outcome === null ? 0 : outcome.net * used.unit.factor);
    }
    const run = (formula: CompiledFormula) => {
      const values = formula.slots.map((s) => s.value ?? results.get(s.name) ?? known.get(s.name)!);
      return { values, outcome: runFormula(formula, values) };
    };
    const when = line.when && run(line.when).outcome;
    if (when && !when.ok) return when.problem;
    if (when && !when.value) return null;
    const { values, outcome } = run(line.quantity);
    if (!outcome.ok) return outcome.problem;
    traces.push({ formula: line.quantity, values, result: outcome.value as number });
    return cutNet(line, (outcome.value as number) / line.unit.factor);
  };
  return { outcome: runLine(step), traces };
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
  const { shared, unit } = item;
  const steps = run.traces.map((trace) => ({ ...explainStep(trace), lead: `Once for ${FOR[shared.run]}` }));
  const percent = Number((sharing.shares[at]! * 100).toPrecision(4));
  return [
    ...steps,
    {
      ...steps.at(-1)!,
      lead: 'Its share by the driver',
      formula: 'share',
      figures: `${percent} %`,
      result: net[at]! * unit.factor,
    },
  ];
}
