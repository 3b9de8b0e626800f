import type { Plan } from '../plan/plan.ts';
import type { Amount } from '../pricing/money.ts';
import type { PricedLine } from '../pricing/price-lines.ts';
import type { Purchase } from '../pricing/purchases.ts';
import { rateSignature } from './leaf-pairs.ts';
import { type CauseAmounts, noCauses } from './move-causes.ts';
import { shareMove } from './share-move.ts';

/** What of whole packs of an item is left over in two plans; null where it is not bought. */
export interface SurplusMove {
  readonly old: Purchase | null;
  readonly now: Purchase | null;
  readonly from: Amount;
  readonly to: Amount;
  readonly causes: CauseAmounts;
}

/** What an item costs: its rates before factors, which are several where each element has its own, and its factor. */
interface Prices {
  readonly rate: number | null;
  readonly factor: number;
  readonly text: string;
}

/**
 * Splits the moves of what whole packs cost beyond what is needed: by price and factors where these differ, else by what is left over itself,
 * which is `rounding`.
 * @example 0.29 bags left over at 6.40, then 0.29 at 7.00: price 0.17, rounding 0
 */
export function splitSurplus(before: Plan, after: Plan): SurplusMove[] {
  const byName = (plan: Plan) => new Map<string, Purchase>(plan.purchases.map((p) => [nameOf(p), p]));
  const [old, now] = [byName(before), byName(after)];
  const names = new Set([...old.keys(), ...now.keys()]);
  const moving = [...names].flatMap((name) => {
    const [a, b] = [old.get(name) ?? null, now.get(name) ?? null];
    return a?.surplusAmount || b?.surplusAmount ? [[a, b] as const] : [];
  });
  const codes = new Set(moving.map(([a, b]) => (a ?? b)!.item.code));
  const prices = [before, after].map((plan) => readPrices(plan, codes)) as [Map<string, Prices>, Map<string, Prices>];
  return moving.flatMap(([a, b]): SurplusMove[] => {
    const move = { old: a, now: b, from: a?.surplusAmount ?? 0, to: b?.surplusAmount ?? 0 };
    if (!a || !b) return [{ ...move, causes: { ...noCauses(), rounding: move.to - move.from } }];
    const causes = splitOne(a, b, prices[0].get(a.item.code)!, prices[1].get(b.item.code)!);
    return Object.values(causes).some((c) => c !== 0) ? [{ ...move, causes }] : [];
  });
}

const nameOf = ({ item, storey }: Purchase) => `${item.code}|${storey ?? ''}`;

function splitOne(a: Purchase, b: Purchase, before: Prices, after: Prices): CauseAmounts {
  const hasOtherPrice = before.text !== after.text && before.rate !== null && after.rate !== null && before.rate !== 0 && after.rate !== 0;
  const hasOtherFactor = before.factor !== after.factor;
  const isSameLeft = a.toBuy === b.toBuy && a.net === b.net && a.waste === b.waste;
  const inputs = [
    ...(isSameLeft && (hasOtherPrice || hasOtherFactor) ? [] : (['rounding'] as const)),
    ...(hasOtherPrice ? (['price'] as const) : []),
    ...(hasOtherFactor ? (['factors'] as const) : []),
  ];
  const [from, to] = [a.surplusAmount, b.surplusAmount];
  const value = (mask: number): number => {
    const bit = (input: (typeof inputs)[number], rest: number) => (inputs.includes(input) ? (mask >> inputs.indexOf(input)) & 1 : rest);
    const all = (1 << inputs.length) - 1;
    if (mask === 0) return from;
    if (mask === all) return to;
    // The same expression from either side, so that the way back is the way there.
    const left = bit('rounding', isFirst(before, after) ? 0 : 1);
    const [own, other] = left === 0 ? [before, after] : [after, before];
    const rate = bit('price', left) === left || !hasOtherPrice ? 1 : other.rate! / own.rate!;
    const factor = bit('factors', left) === left || !hasOtherFactor ? 1 : other.factor / own.factor;
    return Math.round((left === 0 ? from : to) * rate * factor) + 0;
  };
  const parts = shareMove(inputs.length, value);
  const causes = noCauses();
  inputs.forEach((cause, i) => {
    causes[cause] += parts[i]!;
  });
  return causes;
} // biome-ignore format: conditions in a line each

/** Which of two prices comes first, whatever direction they are told in. */
const isFirst = (a: Prices, b: Prices): boolean =>
  a.rate! * a.factor === b.rate! * b.factor ? a.factor <= b.factor : a.rate! * a.factor < b.rate! * b.factor;

/** What items cost in a plan. */
function readPrices(plan: Plan, codes: ReadonlySet<string>): Map<string, Prices> {
  const rates = new Map<string, { readonly line: PricedLine; readonly values: Set<number> }>();
  for (const part of plan.parts)
    for (const { lines } of part.blocks)
      for (const line of lines) {
        if (!line.item || !codes.has(line.code)) continue;
        const of = rates.get(line.code) ?? { line, values: new Set<number>() };
        rates.set(line.code, of);
        const { value } = line.item.rate;
        if (line.rates) for (const rate of line.rates) if (!Number.isNaN(rate)) of.values.add(rate);
        if (!line.rates && value !== null) of.values.add(value);
      }
  return new Map(
    [...rates].map(([code, { line, values }]) => {
      const own = line.item!.item.soldAs?.lengthPrices?.map(Number);
      const all = own ?? [...values].sort((a, b) => a - b);
      const rate = all.length === 0 ? null : all.reduce((sum, v) => sum + v, 0) / all.length;
      return [code, { rate, factor: line.factor, text: JSON.stringify([rateSignature(line.item), own]) }];
    }),
  );
}
