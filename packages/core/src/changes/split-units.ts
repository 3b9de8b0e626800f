import { withTotalRate } from '../pricing/item-totals.ts';
import { quantizeAmount } from '../pricing/money.ts';
import { type PricedLine, toCharged } from '../pricing/price-lines.ts';
import { isRateByElement, isRateByTotal } from '../recipes/item-rate.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import { isSameRecipe, type LeafPair, rateSignature, readAmount, readBaseRate, readNet } from './leaf-pairs.ts';
import type { MixedUnits, Side, UnitLines } from './mixed-units.ts';
import type { CellPlace, MoveCell } from './move-cell.ts';
import type { OtherBook } from './other-book.ts';
import type { PlacedBlock } from './pair-units.ts';
import { shareMove } from './share-move.ts';

/** Inputs of a cell. `total` is what the project takes of its item, where the rate goes by it; `members` are the other elements of its run. */
export const CELL_INPUTS = ['figures', 'recipe', 'waste', 'rate', 'factor', 'total', 'members'] as const;
export type CellInput = (typeof CELL_INPUTS)[number];

/** A cell whose inputs differ between two states, with how its move is shared among them. */
export interface SplitCell extends Omit<MoveCell, 'causes'> {
  readonly shares: Readonly<Partial<Record<CellInput, number>>>;
}

/** What both books say of items, and what of the plan goes into rates by total. */
export interface SplitTerms {
  readonly minorDigits: number;
  readonly books: readonly [OtherBook, OtherBook];
  readonly isPercent: (code: string) => boolean;
}

/** A line of both states, or of one, with what it is priced with on either side. */
export interface SplitLine {
  readonly pair: LeafPair;
  readonly lines: readonly [PricedLine | null, PricedLine | null];
  readonly waste: readonly [number, number];
  readonly factor: readonly [number, number];
  /** Rate before factors, the same for all; null where it is not known, or each element has its own. */
  readonly rate: readonly [number | null, number | null];
  readonly isByElement: readonly [boolean, boolean];
  readonly hasOtherRate: boolean;
}

/** Lines of a group as they are on both sides. */
export function listSplitLines(units: MixedUnits, { books }: SplitTerms): SplitLine[] {
  const { old, now } = units.group;
  return units.pairs.map((pair): SplitLine => {
    const lines = [old?.block.lines[pair.old] ?? null, now?.block.lines[pair.now] ?? null] as const;
    const items = lines.map((l) => l?.item ?? null);
    const one = items[0] ?? items[1];
    const on = (side: Side) => {
      const line = lines[side];
      const item = items[side];
      if (line && item) return { waste: line.wastePercent, factor: line.factor, rate: item.rate.value };
      // A line that a side lacks, or cannot work out, is priced there as its item is.
      const [other, own] = [one && books[side].find(one), lines[side === 0 ? 1 : 0]];
      const fallback = { waste: own?.wastePercent ?? 0, factor: own?.factor ?? 1, rate: one?.rate.value ?? null };
      return other ? { waste: other.wastePercent, factor: other.factor, rate: other.rate } : fallback;
    };
    const [a, b] = [on(0), on(1)];
    const isByElement = items.map((item) => {
      const read = item ?? one;
      return read ? isRateByElement(read.rate) : false;
    }) as unknown as readonly [boolean, boolean];
    return {
      pair,
      lines,
      waste: [a.waste, b.waste],
      factor: [a.factor, b.factor],
      rate: [a.rate, b.rate],
      isByElement,
      hasOtherRate: items[0] && items[1] ? rateSignature(items[0]) !== rateSignature(items[1]) : a.rate !== b.rate,
    };
  });
}

/** The inputs that may differ between the two sides of a line. */
export function listInputs(units: MixedUnits, line: SplitLine): CellInput[] {
  const { old, now } = units.group;
  const { pair, lines, waste, factor } = line;
  const isOtherRecipe = !lines[0] || !lines[1] || !isSameRecipe(old!, now!, pair);
  const totals = lines.map((l) => l?.item?.rate.total);
  return [
    ...(units.hasOtherFigures ? (['figures'] as const) : []),
    ...(isOtherRecipe ? (['recipe'] as const) : []),
    ...(waste[0] !== waste[1] ? (['waste'] as const) : []),
    ...(line.hasOtherRate ? (['rate'] as const) : []),
    ...(factor[0] !== factor[1] ? (['factor'] as const) : []),
    ...(totals[0] !== undefined && totals[1] !== undefined && totals[0] !== totals[1] ? (['total'] as const) : []),
  ];
}

/** How much of each input a state takes: the old (0) or the new (1) of each. */
export type MixedState = Readonly<Record<CellInput, Side>>;

/**
 * State of a mask over some inputs. Inputs that do not differ are taken from where another is taken already, so that no more is worked
 * out than needed.
 * @param rest side that is taken where nothing says otherwise
 */
export function readState(inputs: readonly CellInput[], mask: number, rest: Side): MixedState {
  const bit = (input: CellInput, otherwise: Side): Side => {
    const at = inputs.indexOf(input);
    return at < 0 ? otherwise : (((mask >> at) & 1) as Side);
  };
  const figures = bit('figures', bit('recipe', rest));
  const recipe = bit('recipe', figures);
  const rate = bit('rate', recipe);
  return {
    figures,
    recipe,
    waste: bit('waste', rest),
    rate,
    factor: bit('factor', rest),
    total: bit('total', rate),
    members: bit('members', rest),
  };
}

/** Prices a net quantity in a mixed state, as the plan would; 0 where something is not known. */
export function priceMixed(
  net: number | null,
  baseRate: number | null,
  line: SplitLine,
  state: MixedState,
  minorDigits: number,
): number {
  if (net === null || baseRate === null) return 0;
  const of = (side: Side): RecipeItem | null => line.lines[side]?.item ?? line.lines[side === 0 ? 1 : 0]?.item ?? null;
  const [measured, priced] = [of(state.recipe), of(state.rate)];
  if (!measured || !priced) return 0;
  const item = priced.started === measured.started ? measured : { ...measured, started: priced.started };
  const charged = toCharged(net, { item, wastePercent: line.waste[state.waste] });
  return quantizeAmount(charged, baseRate * line.factor[state.factor], minorDigits) ?? 0;
}

/** Rate before factors that holds for all elements in a mixed state; `undefined` where each has its own. */
export function findCommonRate(line: SplitLine, state: MixedState): number | null | undefined {
  const item = line.lines[state.rate]?.item;
  if (line.isByElement[state.rate]) return undefined;
  if (!item || !isRateByTotal(item.rate)) return line.rate[state.rate];
  const total = line.lines[state.total]?.item?.rate.total ?? item.rate.total;
  if (total === undefined || total === item.rate.total) return item.rate.value;
  return withTotalRate(item, new Map([[item.item.code, total]]))?.rate.value ?? null;
}

/**
 * Splits the moves of the cells of a group that run once for each element. Cells of which nothing differs are not listed.
 * Lines that are a per cent of others, and those that run for several elements, are split elsewhere.
 */
export function splitUnits(units: MixedUnits, terms: SplitTerms): SplitCell[] {
  const cells: SplitCell[] = [];
  const { oldAt, nowAt } = units.group;
  const isAligned = oldAt.every((at, unit) => at === nowAt[unit]);
  for (const line of listSplitLines(units, terms)) {
    const [a, b] = line.lines;
    // The very line of before: nothing about it is another.
    if (a === b && isAligned) continue;
    const one = (a ?? b)!;
    if (terms.isPercent(one.code) || a?.inputs || b?.inputs) continue;
    splitLine(units, line, terms, cells);
  }
  return cells;
}

function splitLine(units: MixedUnits, line: SplitLine, { minorDigits }: SplitTerms, cells: SplitCell[]): void {
  const { group } = units;
  const [a, b] = line.lines;
  const all = listInputs(units, line);
  for (let unit = 0; unit < units.count; unit++) {
    const [from, to] = [readAmount(a, group.oldAt[unit]!), readAmount(b, group.nowAt[unit]!)];
    if (a && b && all.length > 0 && isSameCell(line, all, group.oldAt[unit]!, group.nowAt[unit]!)) continue;
    if (all.length === 0 && from === to) continue;
    const isThere = units.isThere(unit, 0) && units.isThere(unit, 1);
    // What of an element is priced is gone, or new: that is a figure of the element.
    const inputs: readonly CellInput[] = isThere ? all : ['figures'];
    const value = (mask: number): number => {
      if (mask === 0) return from;
      if (mask === (1 << inputs.length) - 1) return to;
      const state = readState(inputs, mask, a ? 0 : 1);
      return priceUnit(units, line, state, unit, minorDigits);
    };
    const shares = shareAmong(inputs, from, to, value);
    if (from === to && inputs.every((i) => shares[i] === 0)) continue;
    cells.push({ key: units.keyOf(unit), ...placeCell(units, line, unit), from, to, shares });
  }
}

/** What of a move each input has; one alone has all of it. */
function shareAmong(
  inputs: readonly CellInput[],
  from: number,
  to: number,
  value: (mask: number) => number,
): SplitCell['shares'] {
  if (inputs.length < 2) return { [inputs[0] ?? 'figures']: to - from };
  const parts = shareMove(inputs.length, value);
  const shares: Partial<Record<CellInput, number>> = {};
  for (let i = 0; i < inputs.length; i++) shares[inputs[i]!] = parts[i]!;
  return shares;
}

/** Where the cell of a unit is on both sides. */
export const placeCell = (
  { group }: Pick<MixedUnits, 'group'>,
  { lines }: Pick<SplitLine, 'lines'>,
  unit: number,
): { readonly old: CellPlace | null; readonly now: CellPlace | null } => ({
  old: placeOn(group.old, lines[0], group.oldAt[unit]!),
  now: placeOn(group.now, lines[1], group.nowAt[unit]!),
});

function placeOn(placed: PlacedBlock | null, line: PricedLine | null, at: number): CellPlace | null {
  return placed && line && at >= 0 ? { part: placed.part, block: placed.block, line, at } : null;
}

/** Whether nothing that differs between two sides differs in this cell. */
function isSameCell({ lines }: SplitLine, inputs: readonly CellInput[], oldAt: number, nowAt: number): boolean {
  if (inputs.length > 1 || (inputs[0] !== 'figures' && inputs[0] !== 'recipe')) return false;
  const [a, b] = lines as readonly [PricedLine, PricedLine];
  if (a.amounts[oldAt] !== b.amounts[nowAt] || !Object.is(a.net[oldAt], b.net[nowAt])) return false;
  return Object.is(a.rates?.[oldAt], b.rates?.[nowAt]);
}

function priceUnit(units: MixedUnits, line: SplitLine, state: MixedState, unit: number, minorDigits: number): number {
  const place = state.recipe === 0 ? line.pair.old : line.pair.now;
  const found = place < 0 ? null : units.lines(state.figures, state.recipe);
  const at = found?.at[unit] ?? -1;
  if (!found || at < 0) return 0;
  const common = findCommonRate(line, state);
  const rate = common === undefined ? readOwnRate(units, line, state, unit) : common;
  return priceMixed(readNet(found.lines[place]!, at), rate, line, state, minorDigits);
}

/** Rate of its own that an element has in a mixed state. */
function readOwnRate(units: MixedUnits, line: SplitLine, state: MixedState, unit: number): number | null {
  const place = state.recipe === 0 ? line.pair.old : line.pair.now;
  const isOwn = state.rate === state.recipe || !line.hasOtherRate || !line.lines[state.rate];
  const found: UnitLines | null = isOwn
    ? units.lines(state.figures, state.recipe)
    : units.lines(state.figures, state.recipe, otherRates(units, state.recipe));
  const at = found?.at[unit] ?? -1;
  if (!found || at < 0) return null;
  const read = found.lines[place]!;
  return read.item ? readBaseRate(read.item, read, at) : null;
}

/** The items of the other side by the places of their lines on one. */
function otherRates(units: MixedUnits, side: Side): (leaf: number) => RecipeItem | null {
  const { old, now } = units.group;
  const other = (side === 0 ? now : old)?.block.lines;
  const placeOf = new Map(units.pairs.map((p) => (side === 0 ? [p.old, p.now] : [p.now, p.old])));
  return (leaf) => other?.[placeOf.get(leaf) ?? -1]?.item ?? null;
}
