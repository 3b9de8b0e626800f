import { failure, type Result, success } from '../result/result.ts';

/** A piece that is needed: its length, how many, and what it is for. Metres. */
export interface NeededPiece {
  readonly lengthM: number;
  readonly count: number;
  readonly from: string;
}

/** A length that is sold, with its price in money of any unit; null where it goes by the metre. */
export interface StockLength {
  readonly lengthM: number;
  readonly price: number | null;
}

/** How bars are cut. Metres. */
export interface CutTerms {
  /** What each cut takes away; 0 if absent. */
  readonly kerfM?: number;
  /** Offcuts of this length and more are kept and are no waste; none are if absent. */
  readonly keepOverM?: number;
  /** Pieces longer than the longest bar are made of several, joined. */
  readonly isJoined?: boolean;
}

/** A bar with the pieces that are cut from it, longest first. */
export interface CutBar {
  readonly stockM: number;
  readonly pieces: readonly { readonly lengthM: number; readonly from: string }[];
  readonly offcutM: number;
  readonly isKept: boolean;
}

/** How pieces are cut from bars. Metres. */
export interface CutPlan {
  readonly bars: readonly CutBar[];
  readonly stockM: number;
  readonly piecesM: number;
  /** Of the bars: what is neither a piece nor a kept offcut, what saws take away included. */
  readonly wasteM: number;
  readonly keptM: number;
  /** Joints of pieces that are made of several. */
  readonly joints: number;
  /** Metres of bars that no plan can do with less. */
  readonly lowerBoundM: number;
}

/** Tenths of a millimetre: lengths are compared and added as whole numbers of them. */
const PER_M = 10_000;
const toSteps = (m: number) => Math.round(m * PER_M);
/** Pieces that are cut at most. */
const MOST_PIECES = 100_000;
/** Fillings of a bar that are tried before the best of them is taken. */
const MOST_TRIES = 1000;

/** A length with those that need it, as they are given out. */
interface Size {
  readonly length: number;
  readonly from: string[];
}

/** A bar before it is said what its pieces are for. */
interface Draft {
  stock: number;
  readonly lengths: readonly number[];
}

/**
 * Cuts pieces from bars of sold lengths with little waste: each bar is filled around the longest piece that is left, with the set of others that leaves least over;
 * of several sold lengths the one that costs least for what is used; in the end each bar is as short as holds its pieces. Compared with first-fit-decreasing, the
 * better of both is taken. The same pieces give the same plan.
 * Errors: `piece-too-long` naming the piece, `piece-not-positive`, `stock-missing`, `pieces-too-many`.
 * @example pieces of 2.4 m x 3 and 1.2 m x 2 from bars of 4.8 m, no kerf: 2.4 + 2.4 and 2.4 + 1.2 + 1.2; no waste
 */
export function cutBars(
  needed: readonly NeededPiece[],
  stock: readonly StockLength[],
  { kerfM = 0, keepOverM = Number.POSITIVE_INFINITY, isJoined = false }: CutTerms = {},
): Result<CutPlan> {
  const lengths = [...stock].filter((s) => s.lengthM > 0).sort((a, b) => a.lengthM - b.lengthM);
  if (lengths.length === 0)
    return failure('stock-missing', 'No length is sold.', { remedy: 'Say which lengths the item is sold in.' });
  const kerf = toSteps(kerfM);
  const longest = toSteps(lengths.at(-1)!.lengthM);
  const sizes = new Map<number, Size>();
  let joints = 0;
  let total = 0;
  const need = (length: number, from: string) => {
    const size = sizes.get(length) ?? { length, from: [] };
    sizes.set(length, size);
    size.from.push(from);
    total++;
  };
  for (const { lengthM, count, from } of needed) {
    const length = toSteps(lengthM);
    if (!(count > 0)) continue;
    if (!(length > 0))
      return failure('piece-not-positive', `A piece for ${from} has no length.`, { remedy: 'Check the formula of its length.' }); // biome-ignore format: one step
    if (length > longest && !isJoined)
      return failure('piece-too-long', `A piece of ${lengthM.toFixed(3)} m for ${from} is longer than the longest bar, ${(longest / PER_M).toFixed(3)} m.`, {
        remedy: 'Give the item a longer length, or say that its pieces may be joined.',
      }); // biome-ignore format: one step
    for (let n = 0; n < count && total <= MOST_PIECES; n++) {
      let rest = length;
      while (rest > longest) {
        need(longest, from);
        rest -= longest;
        joints++;
      }
      need(rest, from);
    }
    if (total > MOST_PIECES)
      return failure('pieces-too-many', `More than ${MOST_PIECES} pieces are to be cut.`, { remedy: 'Cut a part of the building at a time.' }); // biome-ignore format: one step
  }
  const order = [...sizes.values()].sort((a, b) => b.length - a.length);
  const bars = lengths.map((s) => ({ length: toSteps(s.lengthM), cost: s.price ?? s.lengthM }));
  const drafts = chooseBetter(fillBest(order, bars, kerf), fillFirst(order, bars, kerf), bars);
  const made = nameBars(drafts, sizes, kerf, keepOverM);
  const stockM = sum(made.map((b) => b.stockM));
  const piecesM = sum(made.flatMap((b) => b.pieces.map((p) => p.lengthM)));
  const keptM = sum(made.filter((b) => b.isKept).map((b) => b.offcutM));
  return success({
    bars: made,
    stockM,
    piecesM,
    keptM,
    wasteM: clean(stockM - piecesM - keptM),
    joints,
    lowerBoundM: boundStock(order, bars, kerf) / PER_M,
  });
}

const clean = (m: number) => Math.round(m * PER_M) / PER_M;
const sum = (list: readonly number[]) => clean(list.reduce((a, b) => a + b, 0));

type Bars = readonly { readonly length: number; readonly cost: number }[];

/** Fills bar after bar, each around the longest piece that is left. */
function fillBest(order: readonly Size[], bars: Bars, kerf: number): Draft[] {
  const left = order.map((s) => s.from.length);
  const drafts: Draft[] = [];
  for (let first = 0; first < order.length; ) {
    if (left[first] === 0) {
      first++;
      continue;
    }
    let best: { readonly taken: readonly number[]; readonly bar: Bars[number]; readonly price: number } | null = null;
    for (const bar of bars) {
      if (bar.length < order[first]!.length) continue;
      const taken = fillBar(order, left, first, bar.length + kerf, kerf);
      const used = taken.reduce((m, n, i) => m + n * order[i]!.length, 0);
      const price = bar.cost / used;
      if (!best || price < best.price - 1e-12) best = { taken, bar, price };
    }
    const { taken, bar } = best!;
    const lengths = taken.flatMap((n, i) => new Array<number>(n).fill(order[i]!.length));
    // The same filling again, as often as there are pieces for it.
    const times = Math.min(...taken.flatMap((n, i) => (n > 0 ? [Math.floor(left[i]! / n)] : [])));
    for (let t = 0; t < times; t++) drafts.push({ stock: bar.length, lengths });
    taken.forEach((n, i) => {
      left[i]! -= n * times;
    });
  }
  return shorten(drafts, bars, kerf);
}

/** How many of each size go into one bar with the longest piece, so that least is left over. */
function fillBar(order: readonly Size[], left: readonly number[], first: number, room: number, kerf: number): number[] {
  const taken = order.map(() => 0);
  taken[first] = 1;
  let best = [...taken];
  let bestRest = room - order[first]!.length - kerf;
  let tries = 0;
  const visit = (at: number, rest: number): boolean => {
    if (rest < bestRest) {
      bestRest = rest;
      best = [...taken];
    }
    if (bestRest === 0 || ++tries > MOST_TRIES) return true;
    for (let i = at; i < order.length; i++) {
      const size = order[i]!.length + kerf;
      if (size > rest || taken[i]! >= left[i]!) continue;
      taken[i]!++;
      const isDone = visit(i, rest - size);
      taken[i]!--;
      if (isDone) return true;
    }
    return false;
  };
  visit(first, bestRest);
  return best;
}

/** First-fit-decreasing: each piece into the first bar that has room, else into a new one of the longest. */
function fillFirst(order: readonly Size[], bars: Bars, kerf: number): Draft[] {
  const longest = bars.at(-1)!.length;
  const open: { rest: number; readonly stock: number; readonly lengths: number[] }[] = [];
  for (const { length, from } of order)
    for (let n = 0; n < from.length; n++) {
      let bar = open.find((b) => b.rest >= length + kerf);
      if (!bar) {
        bar = { rest: longest + kerf, stock: longest, lengths: [] };
        open.push(bar);
      }
      bar.lengths.push(length);
      bar.rest -= length + kerf;
    }
  return shorten(open, bars, kerf);
}

/** Bars, each of the cheapest length that holds its pieces. */
function shorten(drafts: readonly Draft[], bars: Bars, kerf: number): Draft[] {
  return drafts.map(({ stock, lengths }) => {
    const used = lengths.reduce((m, l) => m + l + kerf, 0) - kerf;
    const own = bars.find((b) => b.length === stock)!;
    const better = bars.filter((b) => b.length >= used).reduce((a, b) => (b.cost < a.cost ? b : a), own);
    return { stock: better.length, lengths };
  });
}

function chooseBetter(a: Draft[], b: Draft[], bars: Bars): Draft[] {
  const costOf = new Map(bars.map((bar) => [bar.length, bar.cost]));
  const cost = (drafts: Draft[]) => drafts.reduce((m, d) => m + costOf.get(d.stock)!, 0);
  const metres = (drafts: Draft[]) => drafts.reduce((m, d) => m + d.stock, 0);
  return cost(b) < cost(a) - 1e-9 || (cost(b) <= cost(a) + 1e-9 && metres(b) < metres(a)) ? b : a;
}

/** Says of each piece what it is for; bars alike stand together. */
function nameBars(
  drafts: readonly Draft[],
  sizes: ReadonlyMap<number, Size>,
  kerf: number,
  keepOverM: number,
): CutBar[] {
  const next = new Map<number, number>();
  const sorted = [...drafts].sort((a, b) => b.stock - a.stock || compareLists(b.lengths, a.lengths));
  return sorted.map(({ stock, lengths }) => {
    const pieces = [...lengths]
      .sort((a, b) => b - a)
      .map((length) => {
        const at = next.get(length) ?? 0;
        next.set(length, at + 1);
        return { lengthM: length / PER_M, from: sizes.get(length)!.from[at]! };
      });
    const used = lengths.reduce((m, l) => m + l, 0) + kerf * lengths.length;
    const offcutM = Math.max(0, stock - used) / PER_M;
    return { stockM: stock / PER_M, pieces, offcutM, isKept: offcutM > 0 && offcutM >= keepOverM };
  });
}

function compareLists(a: readonly number[], b: readonly number[]): number {
  for (let i = 0; i < Math.min(a.length, b.length); i++) if (a[i] !== b[i]) return a[i]! - b[i]!;
  return a.length - b.length;
}

/**
 * What no plan can do with less, in steps. Of one sold length: as many bars as the pieces fill, or more where pieces over half a bar cannot share one (Martello and
 * Toth's second bound); of several: the pieces themselves.
 */
function boundStock(order: readonly Size[], bars: Bars, kerf: number): number {
  const all = order.reduce((m, s) => m + s.length * s.from.length, 0);
  if (bars.length > 1) return all;
  const room = bars[0]!.length + kerf;
  const sizes = order.map((s) => ({ size: s.length + kerf, count: s.from.length }));
  let most = Math.ceil(sizes.reduce((m, s) => m + s.size * s.count, 0) / room - 1e-9);
  for (const limit of new Set(sizes.map((s) => s.size).filter((s) => s <= room / 2))) {
    let [large, middle, middleSize, small] = [0, 0, 0, 0];
    for (const { size, count } of sizes) {
      if (size > room - limit) large += count;
      else if (size > room / 2) {
        middle += count;
        middleSize += size * count;
      } else if (size >= limit) small += size * count;
    }
    most = Math.max(
      most,
      large + middle + Math.max(0, Math.ceil((small - (middle * room - middleSize)) / room - 1e-9)),
    );
  }
  const halves = sizes.reduce((n, s) => n + (s.size > room / 2 ? s.count : 0), 0);
  return Math.max(most, halves) * bars[0]!.length;
}
