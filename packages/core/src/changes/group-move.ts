import { type GroupField, type GroupNames, readGroupLabel, readNames, readSurplusLabel, sayNoGroup } from '../plan/group-labels.ts'; // biome-ignore format: one module
import { groupPlan, type PlanGroup } from '../plan/group-plan.ts';
import { listCellRows, listSurplusRows, type PlanDivision } from '../plan/plan-rows.ts';
import { AMOUNT_SCALE, type Amount } from '../pricing/money.ts';
import type { Purchase } from '../pricing/purchases.ts';
import type { Move } from './explain-move.ts';
import { type CauseAmounts, MOVE_CAUSES, type MoveCause, noCauses, sumCauses } from './move-causes.ts';
import type { CellPlace } from './move-cell.ts';
import type { MoveState } from './move-state.ts';
import { roundShares } from './share-move.ts';
import { shareCauses, showMove } from './show-move.ts';

/** A group of two plans: what it cost, costs, and what moved it. Shown figures are in whole minor units; their columns and rows add up. */
export interface GroupMove {
  readonly label: string;
  readonly from: Amount;
  readonly to: Amount;
  readonly causes: CauseAmounts;
  readonly shown: {
    readonly from: number;
    readonly to: number;
    readonly move: number;
    readonly causes: Readonly<Record<MoveCause, number>>;
  };
}

/**
 * The move between two plans by the groups of a field. What moves a cell moves its group; what came into a group or went out of it as it was, by another
 * storey say, is extent of both. The groups in the order of the plan of now, those that it lacks last.
 */
export function groupMove(before: MoveState, after: MoveState, move: Move, by: GroupField): GroupMove[] {
  const [old, now] = [before, after].map(({ plan, names }) => groupPlan(plan, [by], names)) as [PlanGroup, PlanGroup];
  const groups = new Map<string, { from: PlanGroup | null; to: PlanGroup | null; causes: Record<MoveCause, number> }>();
  for (const to of now.groups) groups.set(to.label, { from: null, to, causes: noCauses() });
  for (const from of old.groups) {
    const own = groups.get(from.label);
    if (own) own.from = from;
    else groups.set(from.label, { from, to: null, causes: noCauses() });
  }
  for (const [label, causes] of sumByLabel(before, after, move, by)) {
    const own = groups.get(label);
    if (own) for (const cause of MOVE_CAUSES) own.causes[cause] += causes[cause];
  }
  const list = [...groups].map(([label, { from, to, causes }]) => {
    const [a, b] = [from?.amount ?? 0, to?.amount ?? 0];
    // What belongs here now and did not, or the other way, came or went.
    causes.extent += b - a - sumCauses(causes);
    return { label, from: a, to: b, causes, minors: [from?.minor ?? 0, to?.minor ?? 0] as const };
  });
  const shown = shareOut(list, showMove(move).causes);
  return list.map(({ minors: [from, to], ...group }, i) => ({
    ...group,
    shown: { from, to, move: to - from, causes: shown[i]! },
  }));
}

/** What causes moved by label, in whole amounts: of a cell in several groups, or in others than before, each has its share. */
function sumByLabel(
  before: MoveState,
  after: MoveState,
  move: Move,
  by: GroupField,
): ReadonlyMap<string, Record<MoveCause, number>> {
  const sums = new Map<string, Record<MoveCause, number>>();
  const readers = [before, after].map(({ names }) => new ShareReader(by, names)) as [ShareReader, ShareReader];
  const book = (shares: readonly ReadonlyMap<string, number>[], causes: CauseAmounts) => {
    const labels = [...new Set(shares.flatMap((s) => [...s.keys()]))];
    const weights = labels.map((l) => shares.reduce((sum, s) => sum + (s.get(l) ?? 0), 0) / shares.length);
    for (const cause of MOVE_CAUSES) {
      if (causes[cause] === 0) continue;
      const parts = roundShares(weights.map((w) => w * causes[cause]), causes[cause], weights.map((w) => w !== 0)); // biome-ignore format: one call
      labels.forEach((label, i) => {
        const own = sums.get(label) ?? noCauses();
        sums.set(label, own);
        own[cause] += parts[i]!;
      });
    }
  };
  for (const { old, now, causes } of move.cells)
    book([old, now].flatMap((place, side) => (place ? [readers[side]!.ofCell(place)] : [])), causes); // biome-ignore format: one call
  for (const { old, now, causes } of move.surplus)
    book([old, now].flatMap((p, side) => (p ? [readers[side]!.ofSurplus(p)] : [])), causes); // biome-ignore format: one call
  return sums;
}

/** Reads how much of a cell is in which group. */
class ShareReader {
  private readonly labels;
  private readonly division: PlanDivision;

  constructor(
    private readonly by: GroupField,
    names: GroupNames,
  ) {
    this.labels = readNames(names);
    this.division = { isByKind: by === 'kind', isByRoom: by === 'room' };
  }

  ofCell(place: CellPlace): ReadonlyMap<string, number> {
    const rows = listCellRows(place, this.division);
    const all = rows.reduce((sum, r) => sum + r.piece.amount, 0);
    return this.add(rows, (row) => [
      readGroupLabel(this.by, row, this.labels),
      all === 0 ? 1 / rows.length : row.piece.amount / all,
    ]);
  }

  ofSurplus(purchase: Purchase): ReadonlyMap<string, number> {
    return this.add(listSurplusRows(purchase, this.division.isByKind), (row) => [
      readSurplusLabel(this.by, row, this.labels),
      row.piece.share,
    ]);
  }

  private add<T>(list: readonly T[], read: (one: T) => readonly [string | null, number]): ReadonlyMap<string, number> {
    const shares = new Map<string, number>();
    for (const one of list) {
      const [label, share] = read(one);
      const name = label ?? sayNoGroup(this.by);
      shares.set(name, (shares.get(name) ?? 0) + share);
    }
    return shares;
  }
}

/** Causes of groups in whole minor units: those of a group add up to its shown move, those of a cause to what the whole shows. */
function shareOut(
  groups: readonly { readonly causes: CauseAmounts; readonly minors: readonly [number, number] }[],
  whole: Readonly<Record<MoveCause, number>>,
): Record<MoveCause, number>[] {
  const rows = groups.map(({ causes, minors }) => {
    const shown = shareCauses(minors[1] - minors[0], causes);
    // A group that nothing moved may show another cent than before, since what is shown adds up from the total down.
    if (sumCauses(shown) !== minors[1] - minors[0]) shown.rounding += minors[1] - minors[0] - sumCauses(shown);
    return shown;
  });
  for (;;) {
    const off = MOVE_CAUSES.map((c) => rows.reduce((sum, row) => sum + row[c], 0) - whole[c]);
    const [over, under] = [off.findIndex((o) => o > 0), off.findIndex((o) => o < 0)];
    if (over < 0 || under < 0) return rows;
    for (const { row, from, to } of findWay(groups, rows, MOVE_CAUSES[over]!, MOVE_CAUSES[under]!)) {
      rows[row]![from]--;
      rows[row]![to]++;
    }
  }
}

interface Shift {
  readonly row: number;
  readonly from: MoveCause;
  readonly to: MoveCause;
}

/** How a unit is shifted from one cause to another, in groups where both acted, over causes between if need be; in any group if there is no such way. */
function findWay(
  groups: readonly { readonly causes: CauseAmounts }[],
  rows: readonly Readonly<Record<MoveCause, number>>[],
  over: MoveCause,
  under: MoveCause,
): readonly Shift[] {
  const ways = new Map<MoveCause, readonly Shift[]>([[over, []]]);
  for (const [from, way] of ways)
    for (const to of MOVE_CAUSES) {
      if (ways.has(to)) continue;
      const row = findBest(groups, rows, from, to);
      if (row >= 0) ways.set(to, [...way, { row, from, to }]);
    }
  if (ways.has(under)) return ways.get(under)!;
  // Nowhere did both act: the group that the one moved most says a cent less of it.
  const row = groups.reduce((best, { causes }, i) => (Math.abs(causes[over]) > Math.abs(groups[best]!.causes[over]) ? i : best), 0); // biome-ignore format: one search
  return [{ row, from: over, to: under }];
}

/** The group, of those where two causes acted, in which a unit goes from one to the other with the least harm; -1 if there is none. */
function findBest(
  groups: readonly { readonly causes: CauseAmounts }[],
  rows: readonly Readonly<Record<MoveCause, number>>[],
  from: MoveCause,
  to: MoveCause,
): number {
  const harm = (row: number) => {
    const off = (cause: MoveCause) => rows[row]![cause] - groups[row]!.causes[cause] / AMOUNT_SCALE;
    return off(to) - off(from);
  };
  return groups.reduce((best, { causes }, row) => {
    if (causes[from] === 0 || causes[to] === 0) return best;
    return best < 0 || harm(row) < harm(best) ? row : best;
  }, -1);
}
