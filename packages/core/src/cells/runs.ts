import type { SharedRun } from '../book/assembly.ts';
import { type CompiledFormula, runFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, SlotValue } from '../formulas/formula-types.ts';
import type { RecipeItem, SharedLine } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import { type EvaluatedLine, LineState, type RunInputs, type RunResult } from './cell-line.ts';
import { type ExplainedStep, explainStep } from './explain-step.ts';
import { cutNet, isProblem, type NetFigures } from './net-quantity.ts';
import type { FormulaTrace, Frame, RowReader } from './row-reader.ts';

export function startInputs({ summed }: SharedLine, count: number): RunInputs {
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
  inputs: RunInputs,
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
  result: RunResult | null;
}

const keyOf = ({ shared }: RecipeItem, group: string) => `${shared!.id}|${group}`;

const membersOf = new WeakMap<EvaluatedLine, ReadonlyMap<string, Group>>();

/** What the elements of one line give to its runs, summed in the order of the block; kept with the line. */
function sumMembers(line: EvaluatedLine): ReadonlyMap<string, Group> {
  const known = membersOf.get(line);
  if (known) return known;
  const groups = new Map<string, Group>();
  const { item, inputs } = line;
  const { summed } = item!.shared!;
  inputs!.groups.forEach((name, at) => {
    if (name === null) return;
    let group = groups.get(name);
    if (!group) {
      group = {
        step: item!,
        sums: summed.map(() => 0),
        fixed: inputs!.fixed.get(name)!,
        weight: 0,
        count: 0,
        result: null,
      };
      groups.set(name, group);
    }
    for (const i of summed.keys()) group.sums[i]! += inputs!.figures[i]![at]!;
    group.weight += inputs!.weights[at]!;
    group.count++;
  });
  membersOf.set(line, groups);
  return groups;
}

/** Works the lines of a plan that run once for several elements out, over the elements of all its blocks, and shares out what they give by the driver. */
export function shareRuns(blocks: readonly (readonly EvaluatedLine[])[]): readonly (readonly EvaluatedLine[])[] {
  const groups = new Map<string, Group>();
  for (const lines of blocks)
    for (const line of lines) {
      if (!line.item?.shared || !line.inputs) continue;
      for (const [name, own] of sumMembers(line)) {
        const key = keyOf(line.item, name);
        const group = groups.get(key);
        if (!group) {
          groups.set(key, { ...own, sums: own.sums.slice() });
          continue;
        }
        own.sums.forEach((sum, i) => {
          group.sums[i]! += sum;
        });
        group.weight += own.weight;
        group.count += own.count;
      }
    }
  if (groups.size === 0) return blocks;
  for (const group of groups.values()) group.result = runOnce(group);
  return blocks.map((lines) => lines.map((line) => (line.inputs ? shareOut(line, groups) : line)));
}

/** Works a shared line out from the sums of its group, the lines it uses first: they give 0 where their condition does not hold. */
function runOnce({ step, sums, fixed }: Group): RunResult {
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

const sharedOut = new WeakMap<EvaluatedLine, { readonly line: EvaluatedLine; readonly of: string }>();

/** The line with the share of each element. The one of before is given back if nothing is different. */
function shareOut(line: EvaluatedLine, groups: ReadonlyMap<string, Group>): EvaluatedLine {
  const runsOf = [...sumMembers(line).keys()].map((name) => groups.get(keyOf(line.item!, name))!);
  const of = JSON.stringify(runsOf.map(({ sums, weight, count }) => [sums, weight, count]));
  const before = sharedOut.get(line);
  if (before?.of === of) return before.line;
  const count = line.net.length;
  const net = line.net.slice();
  const state = line.state.slice();
  const problems = new Map<number, Problem>(line.problems);
  const lists = line.cut ? [...line.cut.lists] : [];
  const cut = line.cut && { pieces: line.cut.pieces.map((p) => p.slice()), splices: line.cut.splices.slice(), lists };
  const told = new Set<string>();
  const runs = new Array<RunResult | null>(count).fill(null);
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
      // The pieces of a run are told once, with the first of its elements.
      if (cut && !told.has(name)) lists[at] = outcome.cuts;
      told.add(name);
    }
  });
  const after: EvaluatedLine = { ...line, net, state, problems, cut, sharing: { runs, shares } };
  sharedOut.set(line, { line: after, of });
  return after;
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
