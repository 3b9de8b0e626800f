import { LineState } from '../cells/cell-line.ts';
import { namePart } from '../elements/decided-parts.ts';
import { type Plan, sumSurplus } from '../plan/plan.ts';
import { type Amount, amountToMinor, apportion, quantizeAmount } from '../pricing/money.ts';
import { type PricedLine, rateAt, toCharged } from '../pricing/price-lines.ts';

/** Causes that move a total. `extent`: elements came or went. `packs`: what whole packs cost beyond what is needed. */
export const MOVE_CAUSES = ['extent', 'quantity', 'mapping', 'price', 'factors', 'packs'] as const;
export type MoveCause = (typeof MOVE_CAUSES)[number];

/** The move between two plans; `causes` add up to `move` exactly. All in amounts (1/10,000 of a minor unit). */
export interface Move {
  readonly before: Amount;
  readonly after: Amount;
  readonly move: Amount;
  readonly causes: Readonly<Record<MoveCause, Amount>>;
  /** Moves of single elements, by ElementKey; those that did not move are not listed. */
  readonly elements: ReadonlyMap<number, Amount>;
}

interface Cell {
  readonly net: number;
  readonly amount: number;
  readonly line: PricedLine;
  readonly rate: number | null;
}

/** Lines of all blocks of a plan. */
const linesOf = (plan: Plan): Set<PricedLine> => new Set(plan.parts.flatMap((p) => p.blocks.flatMap((b) => b.lines)));

/** Known cells of a plan by their identity, but for those of lines that another plan has as they are: they move nothing. */
const cellsOf = (plan: Plan, same: ReadonlySet<PricedLine>): Map<string, Cell> => {
  const cells = new Map<string, Cell>();
  for (const { table, blocks } of plan.parts)
    for (const { mapped, lines } of blocks)
      for (const line of lines) {
        if (same.has(line)) continue;
        const own = `|${mapped.section}|${line.path.join('>')}|${line.lines.join('>')}|${line.code}`;
        for (let at = 0; at < mapped.rows.length; at++) {
          if (line.state[at] !== LineState.known) continue;
          const row = mapped.rows[at]!;
          const part = mapped.about ? `|${namePart(table, mapped.about, row, mapped.parts![at]!)}` : '';
          const base = `${table.keys[row]}${part}${own}`;
          let id = base;
          for (let n = 1; cells.has(id); n++) id = `${base}|${n}`;
          cells.set(id, { net: line.net[at]!, amount: line.amounts[at]!, line, rate: rateAt(line, at) });
        }
      }
  return cells;
};

/** Asks whether a plan has an element; its keys are gathered when the first is asked about. */
const askForKeys = (plan: Plan) => {
  let keys: Set<number> | null = null;
  return (key: number) => {
    keys ??= new Set(plan.parts.flatMap((p) => [...p.table.keys]));
    return keys.has(key);
  };
};

/**
 * Explains the move from one plan to the next. A line that both have moves by quantity first (new quantity at the old
 * waste and rate), then by factors (new waste, region, escalation), the rest by price; a line that only one of them has moves by extent if its
 * element came or went, else by mapping.
 */
export function splitMove(before: Plan, after: Plan): Move {
  const causes: Record<MoveCause, number> = { extent: 0, quantity: 0, mapping: 0, price: 0, factors: 0, packs: 0 };
  const elements = new Map<number, number>();
  const [oldLines, nowLines] = [linesOf(before), linesOf(after)];
  const [old, now] = [cellsOf(before, nowLines), cellsOf(after, oldLines)];
  const [hadKey, hasKey] = [askForKeys(before), askForKeys(after)];
  const book = (cause: MoveCause, id: string, amount: number) => {
    if (amount === 0) return;
    causes[cause] += amount;
    const key = Number(id.slice(0, id.indexOf('|')));
    elements.set(key, (elements.get(key) ?? 0) + amount);
  };
  for (const [id, b] of now) {
    const a = old.get(id);
    if (!a) {
      book(hadKey(Number(id.slice(0, id.indexOf('|')))) ? 'mapping' : 'extent', id, b.amount);
      continue;
    }
    if (a.net === b.net && a.rate === b.rate && a.amount === b.amount) continue;
    const base = (a.rate ?? 0) / a.line.factor;
    const price = (net: number, line: PricedLine) =>
      quantizeAmount(toCharged(net, line), base * line.factor, after.minorDigits) ?? 0;
    const moved = price(b.net, a.line);
    const wasted = price(b.net, b.line);
    book('quantity', id, moved - a.amount);
    book('factors', id, wasted - moved);
    book('price', id, b.amount - wasted);
  }
  for (const [id, a] of old) {
    if (!now.has(id)) book(hasKey(Number(id.slice(0, id.indexOf('|')))) ? 'mapping' : 'extent', id, -a.amount);
  }
  causes.packs = sumSurplus(after.purchases) - sumSurplus(before.purchases);
  for (const [key, amount] of elements) if (amount === 0) elements.delete(key);
  return { before: before.total, after: after.total, move: after.total - before.total, causes, elements };
}

/** The move and its causes in whole minor units: the shown move is the difference of the shown totals, the causes add up to it. */
export function showMove(move: Move): {
  before: number;
  after: number;
  move: number;
  causes: Record<MoveCause, number>;
} {
  const [before, after] = [amountToMinor(move.before), amountToMinor(move.after)];
  const moving = MOVE_CAUSES.filter((c) => move.causes[c] !== 0);
  const shares = apportion(
    after - before,
    moving.map((c) => move.causes[c]),
  );
  const causes = Object.fromEntries(MOVE_CAUSES.map((c) => [c, shares[moving.indexOf(c)] ?? 0])) as Record<
    MoveCause,
    number
  >;
  return { before, after, move: after - before, causes };
}
