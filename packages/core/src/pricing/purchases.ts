import type { CostItem } from '../book/cost-item.ts';
import type { KindShares } from '../book/price-factors.ts';
import { LineState } from '../cells/cell-line.ts';
import { takeFromLengths } from '../cells/sold-lengths.ts';
import { listWholePieces } from '../cells/whole-pieces.ts';
import { cutBars } from '../cutting/cut-bars.ts';
import { listStock, readCutTerms } from '../cutting/cut-terms.ts';
import { readText, type TextColumn } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import { stepsUp } from '../units/at-limit.ts';
import { type Amount, quantizeAmount } from './money.ts';
import { addWaste, type PricedBlock, type PricedLine, rateAt, toCharged } from './price-lines.ts';

/** Elements with the blocks that price them. */
export interface PricedElements {
  readonly table: ElementTable;
  readonly blocks: readonly PricedBlock[];
}

/** What is bought of one item, over the project or for one storey. In the item's unit; money in amounts. */
export interface Purchase {
  readonly item: CostItem;
  /** Storey it is rounded for; null for the whole project. */
  readonly storey: string | null;
  readonly net: number;
  readonly waste: number;
  /** Net and waste, brought up to whole packs or sold lengths. */
  readonly toBuy: number;
  /** Packs, or pieces of all sold lengths; null if it is sold in any amount. */
  readonly packs: number | null;
  readonly lengths: readonly { readonly length: number; readonly pieces: number }[];
  /** What is left over: toBuy - net - waste. */
  readonly surplus: number;
  /** Joints of pieces longer than the longest sold length. */
  readonly splices: number;
  /** Of the lines of elements, and of the surplus. */
  readonly lines: Amount;
  readonly surplusAmount: Amount;
  /** Of what is cut by a list: how much no plan can do with less, in the item's unit, and why some pieces cannot be cut. */
  readonly cutting: { readonly lowerBound: number; readonly problem: string | null } | null;
  /** Shares of what is paid by kind of cost. */
  readonly shares: KindShares;
  /** Element x line combinations whose quantity or rate is unknown. */
  readonly unknown: number;
}

interface Sum {
  readonly item: CostItem;
  readonly storey: string | null;
  /** What prices of the book are multiplied by. */
  readonly factor: number;
  /** SI of one of the item's unit. */
  readonly unitFactor: number;
  readonly shares: KindShares;
  net: number;
  gross: number;
  /** Net and waste, in started units where it is charged so. */
  charged: number;
  /** Of it: runs that are cut anywhere from sold lengths. */
  run: number;
  lines: number;
  unknown: number;
  splices: number;
  /** Sold lengths, and the pieces of each. */
  readonly lengths: readonly number[];
  readonly pieces: Float64Array;
  /** Pieces to be cut by a list, SI; null where it is not. */
  readonly cuts: Map<number, number> | null;
  /** The one rate of all; null where elements have different ones. */
  rate: number | null;
  isOneRate: boolean;
}

/**
 * What has to be bought, by item: rounding up to whole packs is done on the sum, never per element. What the surplus costs is apart,
 * so that the shares of the elements still add up.
 * @example 10.2 bags net, 5 % waste = 10.71 bags: 11 bags, surplus 0.29
 */
export function sumPurchases(parts: Iterable<PricedElements>, minorDigits: number): Purchase[] {
  const sums = new Map<string, Sum>();
  for (const { table, blocks } of parts)
    for (const { mapped, lines } of blocks)
      for (const line of lines)
        for (const own of sumLine(line, table, mapped.rows)) {
          const key = `${own.item.code}|${own.storey ?? ''}`;
          const sum = sums.get(key);
          if (sum) addSum(sum, own);
          else sums.set(key, { ...own, pieces: own.pieces.slice(), cuts: own.cuts && new Map(own.cuts) });
        }
  return [...sums.values()].map((sum) => finish(sum, minorDigits));
}

const sumsOf = new WeakMap<PricedLine, { readonly storeys: TextColumn | null; readonly sums: readonly Sum[] }>();

/** What one line takes, for the whole project or storey by storey; kept with the line. */
function sumLine(line: PricedLine, table: ElementTable, rows: Int32Array): readonly Sum[] {
  if (!line.item) return [];
  const storeys = line.item.item.soldAs?.perStorey === true ? table.storey : null;
  const known = sumsOf.get(line);
  if (known?.storeys === storeys) return known.sums;
  const sums = new Map<string | null, Sum>();
  for (let at = 0; at < rows.length; at++) {
    if (line.state[at] === LineState.skipped) continue;
    const storey = storeys ? readText(storeys, rows[at]!) : null;
    let sum = sums.get(storey);
    if (!sum) {
      sum = startSum(line, line.item, storey);
      sums.set(storey, sum);
    }
    addCell(sum, line, at);
  }
  const made = [...sums.values()];
  sumsOf.set(line, { storeys, sums: made });
  return made;
}

function addSum(sum: Sum, own: Sum): void {
  for (const name of ['net', 'gross', 'charged', 'run', 'lines', 'unknown', 'splices'] as const) sum[name] += own[name];
  for (let i = 0; i < sum.pieces.length; i++) sum.pieces[i]! += own.pieces[i]!;
  for (const [length, count] of own.cuts ?? []) sum.cuts?.set(length, (sum.cuts.get(length) ?? 0) + count);
  if (own.rate === null) return;
  sum.rate ??= own.rate;
  if (sum.rate !== own.rate || !own.isOneRate) sum.isOneRate = false;
}

function startSum({ factor }: PricedLine, { item, unit, lengths, rate }: RecipeItem, storey: string | null): Sum {
  return {
    item, storey, factor, unitFactor: unit.factor, shares: rate.shares, net: 0, gross: 0, charged: 0, run: 0, lines: 0, unknown: 0, splices: 0, lengths, pieces: new Float64Array(lengths.length), rate: null, isOneRate: true, cuts: item.soldAs?.cut ? new Map() : null,
  }; // biome-ignore format: one start
}

function addCell(sum: Sum, line: PricedLine, at: number): void {
  const rate = rateAt(line, at);
  if (line.state[at] === LineState.problem || rate === null) sum.unknown++;
  if (line.state[at] !== LineState.known) return;
  const share = addWaste(1, line.wastePercent);
  sum.net += line.net[at]!;
  sum.gross += addWaste(line.net[at]!, line.wastePercent);
  sum.charged += toCharged(line.net[at]!, line);
  sum.lines += line.amounts[at]!;
  if (line.item!.lengths.length > 0 && line.item!.piece === null) sum.run += addWaste(line.net[at]!, line.wastePercent);
  for (let i = 0; i < sum.pieces.length; i++) sum.pieces[i]! += (line.cut?.pieces[i]?.[at] ?? 0) * share;
  sum.splices += line.cut?.splices[at] ?? 0;
  if (sum.cuts)
    for (const { lengthM, count } of listWholePieces(line, at))
      sum.cuts.set(lengthM, (sum.cuts.get(lengthM) ?? 0) + count);
  if (rate === null) return;
  sum.rate ??= rate;
  if (sum.rate !== rate) sum.isOneRate = false;
}

function finish(sum: Sum, minorDigits: number): Purchase {
  const { item, storey, net, gross, unknown } = sum;
  const sold = item.soldAs;
  const { unitFactor } = sum;
  const plan = sum.cuts ? cutByList(sum) : null;
  const lengths = plan ? plan.lengths : countLengths(sum);
  const packs = sold?.pack
    ? stepsUp(gross, sold.pack, unitFactor)
    : sold?.lengths
      ? lengths.reduce((n, l) => n + l.pieces, 0)
      : null;
  const toBuy = sold?.pack
    ? packs! * sold.pack
    : sold?.lengths
      ? lengths.reduce((m, l) => m + l.length * l.pieces, 0)
      : sum.charged;
  const surplus = Math.max(0, toBuy - gross);
  return {
    item, storey, net, waste: gross - net, toBuy, packs, lengths, surplus, splices: plan?.joints ?? sum.splices, cutting: plan?.cutting ?? null, lines: sum.lines, unknown, shares: sum.shares,
    surplusAmount: packs === null ? 0 : sold?.lengthPrices ? priceLengths(sum, lengths, minorDigits) : priceSurplus(sum, toBuy, surplus, minorDigits),
  }; // biome-ignore format: a purchase in order
}

/** Pieces of each sold length: those of pieces rounded up, runs cut from the fewest of the longest, and the shortest that covers the rest of all of them together. */
function countLengths({ pieces, run, lengths, unitFactor }: Sum): Purchase['lengths'] {
  const ofRuns = run > 0 ? takeFromLengths(run, run, lengths, unitFactor).counts : lengths.map(() => 0);
  return [...pieces].flatMap((count, i) => {
    const whole = stepsUp(count) + stepsUp(ofRuns[i]!);
    return whole > 0 ? [{ length: lengths[i]!, pieces: whole }] : [];
  });
}

interface ListCut {
  readonly lengths: Purchase['lengths'];
  readonly joints: number;
  readonly cutting: NonNullable<Purchase['cutting']>;
}

/** Bars that are bought where pieces are cut by a list. Pieces that are longer than any bar are bought joined, and said to be so. */
function cutByList({ item, cuts, lengths, unitFactor }: Sum): ListCut {
  const needed = [...cuts!].sort(([a], [b]) => b - a).map(([lengthM, count]) => ({ lengthM, count, from: item.code }));
  const stock = listStock(item, lengths, unitFactor);
  const terms = readCutTerms(item, unitFactor);
  const text = JSON.stringify([needed, item.soldAs, unitFactor]);
  const known = cutsMade.get(text);
  if (known) return known;
  const asked = cutBars(needed, stock, terms);
  const found = asked.ok ? asked : cutBars(needed, stock, { ...terms, isJoined: true });
  const bars = found.ok ? found.value.bars : [];
  const made: ListCut = {
    lengths: lengths.flatMap((length) => {
      const pieces = bars.filter((b) => Math.abs(b.stockM / unitFactor - length) < 1e-6).length;
      return pieces > 0 ? [{ length, pieces }] : [];
    }),
    joints: found.ok ? found.value.joints : 0,
    cutting: {
      lowerBound: found.ok ? found.value.lowerBoundM / unitFactor : 0,
      problem: asked.ok ? null : asked.problem.message,
    },
  };
  if (cutsMade.size >= MOST_KEPT) cutsMade.delete(cutsMade.keys().next().value!);
  cutsMade.set(text, made);
  return made;
}

/** Lists that were cut, by what they are of: the same list is not cut again. The oldest goes. */
const cutsMade = new Map<string, ListCut>();
const MOST_KEPT = 200;

/** With one rate the lines and the surplus make the price of the packs exactly; else the surplus is taken at the average. */
function priceSurplus(
  { rate, isOneRate, lines, gross, unknown }: Sum,
  toBuy: number,
  surplus: number,
  digits: number,
): Amount {
  if (rate === null || gross === 0) return 0;
  if (isOneRate && unknown === 0) return (quantizeAmount(toBuy, rate, digits) ?? lines) - lines;
  return Math.round((lines / gross) * surplus) + 0;
}

/** What the pieces cost by the prices of their lengths, beyond what the lines have. */
function priceLengths({ item, factor, lines }: Sum, taken: Purchase['lengths'], digits: number): Amount {
  const { lengths, lengthPrices } = item.soldAs!;
  const whole = taken.reduce((sum, { length, pieces }) => {
    const price = Number(lengthPrices![lengths!.indexOf(length)]);
    return sum + (quantizeAmount(pieces, price * factor, digits) ?? 0);
  }, 0);
  return whole - lines;
}
