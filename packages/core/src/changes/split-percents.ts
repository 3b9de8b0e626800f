import type { PercentOf } from '../lists/price-listed.ts';
import { type BaseTest, testBase } from '../plan/percent-base.ts';
import { listCellRows, listSurplusRows } from '../plan/plan-rows.ts';
import { orderPercents, sumBaseOfPlan } from '../plan/share-percents.ts';
import { AMOUNT_SCALE } from '../pricing/money.ts';
import type { Purchase } from '../pricing/purchases.ts';
import { codeKey } from '../units/code-key.ts';
import { readAmount, readNet } from './leaf-pairs.ts';
import type { MixedUnits, Side } from './mixed-units.ts';
import { addCauses, type CauseAmounts, MOVE_CAUSES, noCauses } from './move-causes.ts';
import type { CellPlace, MoveCell } from './move-cell.ts';
import type { MoveState } from './move-state.ts';
import { roundShares, shareMove } from './share-move.ts';
import type { SurplusMove } from './split-surplus.ts';
import { type CellInput, listInputs, listSplitLines, placeCell, priceMixed, readState, type SplitLine, type SplitTerms } from './split-units.ts'; // biome-ignore format: one module

/** What of a plan moved that per cents are of. */
export interface MovedCosts {
  readonly cells: readonly MoveCell[];
  readonly surplus: readonly SurplusMove[];
}

type Input = CellInput | 'definition' | 'base';

/**
 * Splits the moves of lines that are a per cent of other costs: what their own figures, factors and definition moved is theirs, what their base
 * moved goes to what moved that. Per cents that others go on top of come first. Elements that came or went are not looked at.
 */
export function splitPercents(
  all: readonly MixedUnits[],
  before: MoveState,
  after: MoveState,
  terms: SplitTerms,
  moved: MovedCosts,
): MoveCell[] {
  const found: { readonly units: MixedUnits; readonly line: SplitLine; readonly code: string }[] = all.flatMap((units) =>
    listSplitLines(units, terms).flatMap((line) => {
      const code = (line.lines[0] ?? line.lines[1])!.code;
      return terms.isPercent(code) ? [{ units, line, code }] : [];
    }),
  );
  if (found.length === 0) return [];
  const order = [...orderPercents(before.percents).order, ...orderPercents(after.percents).order];
  const done: MoveCell[] = [];
  for (const code of new Set(order)) {
    const own = found.filter((f) => f.code === code);
    if (own.length === 0) continue;
    const base = new PercentBaseMove(code, [before, after], moved, done);
    done.push(...own.flatMap(({ units, line }) => splitLine(units, line, base, terms)));
  }
  return done;
} // biome-ignore format: one head

function splitLine(units: MixedUnits, line: SplitLine, base: PercentBaseMove, terms: SplitTerms): MoveCell[] {
  const [a, b] = line.lines;
  const { oldAt, nowAt } = units.group;
  const own: Input[] = listInputs(units, line).filter((i) => i !== 'rate' && i !== 'total');
  const inputs: Input[] = [...own, ...(base.hasOtherDefinition ? (['definition'] as const) : []), 'base'];
  const cellInputs = inputs as CellInput[];
  const cells: MoveCell[] = [];
  for (let unit = 0; unit < units.count; unit++) {
    const [from, to] = [readAmount(a, oldAt[unit]!), readAmount(b, nowAt[unit]!)];
    const value = (mask: number): number => {
      if (mask === 0) return from;
      if (mask === (1 << inputs.length) - 1) return to;
      const bit = (input: Input) => ((mask >> inputs.indexOf(input)) & 1) as Side;
      const state = readState(cellInputs, mask, a ? 0 : 1);
      const rate = base.rate(inputs.includes('definition') ? bit('definition') : bit('base'), bit('base'), terms.minorDigits); // biome-ignore format: one step
      const found = units.lines(state.figures, state.recipe);
      const place = state.recipe === 0 ? line.pair.old : line.pair.now;
      if (!found || place < 0) return 0;
      return priceMixed(readNet(found.lines[place]!, found.at[unit] ?? -1), rate, line, state, terms.minorDigits);
    };
    const parts = shareMove(inputs.length, value);
    const causes = noCauses();
    inputs.forEach((input, i) => {
      const part = parts[i]!;
      if (input === 'figures') causes.quantity += part;
      else if (input === 'recipe' || input === 'definition') causes.mapping += part;
      else if (input === 'base') addCauses(causes, base.share(part, readPercent(line, [oldAt[unit]!, nowAt[unit]!])));
      else causes.factors += part;
    });
    if (MOVE_CAUSES.every((c) => causes[c] === 0)) continue;
    cells.push({ key: units.keyOf(unit), ...placeCell(units, line, unit), from, to, causes });
  }
  return cells;
}

/** How much of its base a per cent is, averaged over both sides. */
function readPercent({ lines, factor }: SplitLine, at: readonly [number, number]): number {
  const sides = ([0, 1] as const).flatMap((side) => {
    const line = lines[side];
    const net = line ? readNet(line, at[side]) : null;
    return net === null ? [] : [(net * (1 + line!.wastePercent / 100) * factor[side]) / 100];
  });
  return sides.length === 0 ? 0 : sides.reduce((sum, s) => sum + s, 0) / sides.length;
}

/** How the base of a per cent moved, and why. */
class PercentBaseMove {
  private readonly of: readonly [PercentOf | undefined, PercentOf | undefined];
  private readonly amounts = new Map<string, number>();
  private weights: CauseAmounts | null = null;

  constructor(
    code: string,
    private readonly states: readonly [MoveState, MoveState],
    private readonly moved: MovedCosts,
    /** Moves of per cents that were split before. */
    private readonly percents: readonly MoveCell[],
  ) {
    this.of = [states[0].percents.get(code), states[1].percents.get(code)];
  }

  get hasOtherDefinition(): boolean {
    const [a, b] = this.of.map((of) => JSON.stringify([of?.groups ?? [], of?.also ?? []]));
    return a !== b;
  }

  /** Rate per cent where it is of what one side says, of the costs of a side. */
  rate(definition: Side, costs: Side, minorDigits: number): number {
    return this.sum(definition, costs) / (100 * AMOUNT_SCALE * 10 ** minorDigits);
  }

  private sum(definition: Side, costs: Side): number {
    const id = `${definition}${costs}`;
    let amount = this.amounts.get(id);
    if (amount === undefined) {
      const { plan, percents, names } = this.states[costs];
      const of = this.of[definition];
      amount = of ? sumBaseOfPlan(plan, of, percents, names) : 0;
      this.amounts.set(id, amount);
    }
    return amount;
  }

  /** What causes moved of what the base moved. @param percent how much of the base it is */
  share(amount: number, percent: number): CauseAmounts {
    this.weights ??= this.weigh();
    const weights = MOVE_CAUSES.map((c) => this.weights![c]);
    const whole = weights.reduce((sum, w) => sum + w, 0);
    const size = weights.reduce((sum, w) => sum + Math.abs(w), 0);
    if (size === 0) return { ...noCauses(), extent: amount };
    // Where causes take each other out, what each did is as much of it as the per cent is.
    const each = Math.abs(whole) > size * 1e-6 ? amount / whole : percent / this.sides;
    const parts = roundShares(weights.map((w) => w * each), amount, weights.map((w) => w !== 0)); // biome-ignore format: one call
    return Object.fromEntries(MOVE_CAUSES.map((c, i) => [c, parts[i]! + 0])) as Record<
      (typeof MOVE_CAUSES)[number],
      number
    >;
  }

  private get sides(): number {
    return this.hasOtherDefinition ? 2 : 1;
  }

  /** What moved the base, by both definitions where they differ. */
  private weigh(): CauseAmounts {
    const sum = noCauses();
    for (const side of this.hasOtherDefinition ? ([0, 1] as const) : ([1] as const)) {
      const of = this.of[side] ?? this.of[side === 0 ? 1 : 0];
      if (of) addCauses(sum, this.weighBy(of, this.sum(side, 1) - this.sum(side, 0)));
    }
    return sum;
  }

  private weighBy(of: PercentOf, move: number): CauseAmounts {
    const tests = this.states.map((s) => testBase(of, s.names)) as [BaseTest, BaseTest];
    const sum = noCauses();
    const add = (causes: CauseAmounts, share: number) => {
      for (const cause of MOVE_CAUSES) sum[cause] += causes[cause] * share;
    };
    for (const cell of this.moved.cells) {
      const shares = [cell.old, cell.now].map((place, side) => (place ? readCellShare(place, tests[side]!) : null));
      add(cell.causes, meanOf(shares));
    }
    for (const { old, now, causes } of this.moved.surplus) {
      const shares = [old, now].map((p, side) => (p ? readSurplusShare(p, tests[side]!) : null));
      add(causes, meanOf(shares));
    }
    const onTop = new Set((of.also ?? []).map(codeKey));
    const codes = new Map([...this.states[0].percents, ...this.states[1].percents]);
    for (const cell of this.percents) {
      const code = codes.get((cell.now ?? cell.old)!.line.code)?.code;
      if (code !== undefined && onTop.has(codeKey(code))) add(cell.causes, 1);
    }
    // What belongs to the base now and did not, or the other way, came or went.
    const left = move - MOVE_CAUSES.reduce((all, c) => all + sum[c], 0);
    if (Math.abs(left) >= 1) sum.extent += left;
    return sum;
  }
}

const meanOf = (shares: readonly (number | null)[]): number => {
  const known = shares.filter((s) => s !== null);
  return known.length === 0 ? 0 : known.reduce((sum, s) => sum + s, 0) / known.length;
};

/** How much of a cell is in a base. */
function readCellShare(place: CellPlace, { division, hasCell }: BaseTest): number {
  const rows = listCellRows(place, division);
  const all = rows.reduce((sum, r) => sum + r.piece.amount, 0);
  const own = rows.filter(hasCell);
  if (all === 0) return own.length / rows.length;
  return own.reduce((sum, r) => sum + r.piece.amount, 0) / all;
}

/** How much of what is left over of an item is in a base. */
function readSurplusShare(purchase: Purchase, { division, hasSurplus }: BaseTest): number {
  const own = listSurplusRows(purchase, division.isByKind).filter(hasSurplus);
  return own.reduce((sum, row) => sum + row.piece.share, 0);
}
