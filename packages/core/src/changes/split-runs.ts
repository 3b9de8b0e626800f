import { type EvaluatedLine, LineState } from '../cells/cell-line.ts';
import { shareRuns } from '../cells/runs.ts';
import type { PricedLine } from '../pricing/price-lines.ts';
import { isSameRecipe, readAmount, readBaseRate, readNet } from './leaf-pairs.ts';
import type { MixedUnits, Side } from './mixed-units.ts';
import { shareMove } from './share-move.ts';
import { type CellInput, findCommonRate, listInputs, listSplitLines, type MixedState, placeCell, priceMixed, readState, type SplitCell, type SplitLine, type SplitTerms } from './split-units.ts'; // biome-ignore format: one module

/** Units with the only side that their elements are on; null where these are on both. */
export interface RunUnits {
  readonly units: MixedUnits;
  readonly onlyOn: Side | null;
}

/** Which elements a run has, on which figures, by which recipes. */
type RunState = readonly [members: Side, figures: Side, recipe: Side];

const readLines = ({ units }: RunUnits): readonly PricedLine[] =>
  [units.group.old, units.group.now].flatMap((placed) => placed?.block.lines.filter((l) => l.inputs) ?? []);

/**
 * Splits the moves of cells of lines that run once for a room or the project, on elements of both states: what each has of a run depends on all
 * its members, so runs are worked out anew for the members, figures and recipes of either state.
 * Cells of elements that came or went are not listed; they move what others have, which is of `members`.
 */
export function splitRuns(all: readonly RunUnits[], terms: SplitTerms): SplitCell[] {
  const moved = findMovedRuns(all);
  if (moved.size === 0) return [];
  const runs = all
    .filter((g) => readLines(g).some((l) => moved.has(l.item!.shared!.id)))
    .map((g) => ({ ...g, first: Math.min(...Array.from({ length: g.units.count }, (_, unit) => g.units.keyOf(unit))) }))
    .sort((a, b) => a.first - b.first || sayGroup(a).localeCompare(sayGroup(b)));
  const states = new RunStates(runs);
  const acting: CellInput[] = [
    ...(runs.some((g) => g.onlyOn !== null) ? (['members'] as const) : []),
    ...(runs.some((g) => g.units.hasOtherFigures) ? (['figures'] as const) : []),
    ...(runs.some(hasOtherRecipe) ? (['recipe'] as const) : []),
  ];
  return runs.flatMap((run, at) =>
    run.onlyOn !== null
      ? []
      : listSplitLines(run.units, terms).flatMap((line) => {
          const one = line.lines.find((l) => l?.inputs);
          return one && moved.has(one.item!.shared!.id) ? splitLine(run.units, line, at, states, acting, terms) : [];
        }),
  );
}

/** What orders groups of the same first element alike in both directions. */
const sayGroup = ({ units: { group } }: RunUnits): string =>
  [group.old, group.now]
    .map((placed) => (placed ? `${placed.block.mapped.section}|${placed.block.mapped.about}` : ''))
    .sort()
    .join('/');

/** Runs of which a line is not the very line of before. */
function findMovedRuns(all: readonly RunUnits[]): ReadonlySet<string> {
  const sides = [0, 1].map((side) => {
    const lines = new Map<string, Set<PricedLine>>();
    for (const { units } of all)
      for (const line of (side === 0 ? units.group.old : units.group.now)?.block.lines ?? []) {
        if (!line.inputs) continue;
        const { id } = line.item!.shared!;
        lines.set(id, (lines.get(id) ?? new Set()).add(line));
      }
    return lines;
  }) as [Map<string, Set<PricedLine>>, Map<string, Set<PricedLine>>];
  const ids = new Set(sides.flatMap((s) => [...s.keys()]));
  return new Set(
    [...ids].filter((id) => {
      const [a, b] = sides.map((s) => s.get(id));
      return a?.size !== b?.size || [...a!].some((line) => !b!.has(line));
    }),
  );
}

function hasOtherRecipe({ units, onlyOn }: RunUnits): boolean {
  const { old, now } = units.group;
  if (onlyOn !== null) return false;
  if (!old || !now) return true;
  const inRun = (line: PricedLine | undefined) => line?.inputs !== null && line !== undefined;
  return units.pairs.some((pair) => {
    const [a, b] = [old.block.lines[pair.old], now.block.lines[pair.now]];
    if (!inRun(a) && !inRun(b)) return false;
    return !inRun(a) || !inRun(b) || !isSameRecipe(old, now, pair);
  });
}

/** Lines of runs in states that never were, each worked out when it is first asked for. */
class RunStates {
  private readonly known = new Map<string, readonly (readonly EvaluatedLine[] | null)[]>();

  constructor(private readonly runs: readonly RunUnits[]) {}

  /** Lines of a group, by their places in the recipe of the side; null where that has none. */
  find(group: number, [members, figures, recipe]: RunState): readonly EvaluatedLine[] | null {
    const id = `${members}${figures}${recipe}`;
    let made = this.known.get(id);
    if (!made) {
      made = this.work([members, figures, recipe]);
      this.known.set(id, made);
    }
    return made[group]!;
  }

  private work([members, figures, recipe]: RunState): readonly (readonly EvaluatedLine[] | null)[] {
    const given = this.runs.map(({ units, onlyOn }) => {
      if (onlyOn !== null && onlyOn !== members) return null;
      const found = units.lines(onlyOn ?? figures, onlyOn ?? recipe);
      if (!found) return null;
      const own = new Set(found.at);
      return found.lines.map((line) => (line.inputs ? takeMembers(line, own) : line));
    });
    const there = given.filter((lines) => lines !== null);
    const shared = shareRuns(there);
    return given.map((lines) => lines && shared[there.indexOf(lines)]!);
  }
}

/** A line as it is before runs are worked out, with some of its elements only. */
function takeMembers(line: EvaluatedLine, own: ReadonlySet<number>): EvaluatedLine {
  const inputs = line.inputs!;
  const groups = inputs.groups.map((name, at) => (own.has(at) ? name : null));
  const state = line.state.map((s, at) => (inputs.groups[at] === null ? s : LineState.known));
  return { ...line, state, inputs: { ...inputs, groups } };
}

function splitLine(
  units: MixedUnits,
  line: SplitLine,
  group: number,
  states: RunStates,
  acting: readonly CellInput[],
  terms: SplitTerms,
): SplitCell[] {
  const [a, b] = line.lines;
  const { oldAt, nowAt } = units.group;
  const own = listInputs(units, line).filter((i) => i !== 'figures' && i !== 'recipe');
  const inputs = [...acting, ...own];
  const rest: Side = a ? 0 : 1;
  const price = (mask: number, unit: number): number => {
    const state = readState(inputs, mask, rest);
    const place = state.recipe === 0 ? line.pair.old : line.pair.now;
    const found = place < 0 ? undefined : states.find(group, [state.members, state.figures, state.recipe])?.[place];
    const at = units.lines(state.figures, state.recipe)?.at[unit] ?? -1;
    const rate = findRate(line, state, [oldAt[unit]!, nowAt[unit]!]);
    return found ? priceMixed(readNet(found, at), rate, line, state, terms.minorDigits) : 0;
  };
  const cells: SplitCell[] = [];
  for (let unit = 0; unit < units.count; unit++) {
    const [from, to] = [readAmount(a, oldAt[unit]!), readAmount(b, nowAt[unit]!)];
    if (inputs.length < 2 && from === to) continue;
    const parts = inputs.length === 0 ? [to - from] : shareMove(inputs.length, (mask) => price(mask, unit));
    // Sums of floating figures in another order may differ by what nobody can see.
    const off = to - from - parts.reduce((sum, p) => sum + p, 0);
    const most = parts.reduce((m, p, i) => (Math.abs(p) > Math.abs(parts[m]!) ? i : m), 0);
    parts[most]! += off;
    if (parts.every((p) => p === 0)) continue;
    const shares = Object.fromEntries(parts.map((p, i) => [inputs[i] ?? 'figures', p + 0]));
    cells.push({ key: units.keyOf(unit), ...placeCell(units, line, unit), from, to, shares });
  }
  return cells;
}

/** Rate before factors in a state; that of an element is the one it has on that side. */
function findRate(line: SplitLine, state: MixedState, at: readonly [number, number]): number | null {
  const common = findCommonRate(line, state);
  if (common !== undefined) return common;
  const side: Side = line.lines[state.rate] ? state.rate : state.rate === 0 ? 1 : 0;
  const own = line.lines[side];
  return own?.item && at[side] >= 0 ? readBaseRate(own.item, own, at[side]) : null;
}
