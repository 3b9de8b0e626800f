import type { PriceBand } from '../book/price-band.ts';
import { readText } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { listElementKinds, mainQuantityOf } from '../plan/list-element-kinds.ts';
import { COMPLETENESS_STATES, type Plan } from '../plan/plan.ts';
import { amountToMinor } from '../pricing/money.ts';
import { median } from '../units/median.ts';
import { checkBands } from './check-bands.ts';
import type { Finding } from './finding.ts';
import { tellFactor } from './tell-factor.ts';

/** A price so many times as high or low as that of its like is asked about. */
const FAR = 8;
/** Kinds of one class whose prices tell what is usual, at least. */
const ENOUGH = 4;
/** Spread of the prices of a class (median of their factors to the middle): what lies within so many times of it is ordinary. */
const SPREADS = 4;

/**
 * Prices that cannot be meant: rates of the book below 0 or at 0 that something is priced with, and kinds of elements whose price per unit is far
 * from that of the other kinds of their class (by the middle of them, not the mean), or from the band that the book has for them.
 */
export function checkPrices(plan: Plan, bands: readonly PriceBand[] = []): Finding[] {
  const banded = checkBands(plan, bands);
  const told = new Set(banded.map((f) => f.globalIds.join()));
  return [...checkRates(plan), ...banded, ...checkKinds(plan).filter((f) => !told.has(f.globalIds.join()))];
}

function checkRates(plan: Plan): Finding[] {
  const seen = new Map<string, { rate: number; description: string; globalIds: Set<string> }>();
  for (const { table, blocks } of plan.parts) {
    if (table.origin) continue;
    for (const { mapped, lines } of blocks)
      for (const line of lines) {
        const item = line.item?.item;
        if (!item || line.rate === null || line.rate > 0 || item.isDeduction) continue;
        const of = seen.get(item.code) ?? { rate: line.rate, description: item.description, globalIds: new Set() };
        seen.set(item.code, of);
        for (const row of mapped.rows) of.globalIds.add(readText(table.identity, row) ?? '');
      }
  }
  return [...seen].map(([code, { rate, description, globalIds }]) => ({
    code: 'price-absurd',
    severity: rate < 0 ? 'error' : 'warning',
    message: `${code} ${description} has a rate of ${rate < 0 ? 'less than 0' : '0'}; ${globalIds.size} elements are priced with it.`,
    globalIds: [...globalIds],
    cause: code,
  }));
}

function checkKinds(plan: Plan): Finding[] {
  const states = new Map<number, { state: (typeof COMPLETENESS_STATES)[number]; amount: number }>();
  const tables = plan.parts.map((p) => p.table).filter((t) => !t.origin);
  for (const { table, completeness, elementAmounts } of plan.parts)
    for (let row = 0; row < table.count; row++)
      states.set(table.keys[row]!, { state: COMPLETENESS_STATES[completeness[row]!]!, amount: elementAmounts[row]! });
  const groups = new Map<
    string,
    { label: string; unit: string; price: number; amount: number; keys: readonly number[] }[]
  >();
  for (const kind of listElementKinds(tables, (key) => states.get(key))) {
    const { name, unit, value } = mainQuantityOf(kind);
    if (kind.amount <= 0 || value <= 0 || kind.counts.priced < kind.keys.length) continue;
    const group = `${kind.ifcClass}/${name}`;
    const label = `${kind.ifcClass} ${kind.typeName ?? kind.stem ?? ''}`.trim();
    groups.set(group, [...(groups.get(group) ?? []), { label, unit, price: kind.amount / value, amount: kind.amount, keys: kind.keys }]); // biome-ignore format: one step
  }
  return [...groups.values()].flatMap((kinds): Finding[] => {
    if (kinds.length < ENOUGH) return [];
    const usual = Math.exp(median(kinds.map((k) => Math.log(k.price))));
    const spread = median(kinds.map((k) => Math.abs(Math.log(k.price / usual))));
    return kinds.flatMap(({ label, unit, price, amount, keys }): Finding[] => {
      const away = Math.abs(Math.log(price / usual));
      if (away < Math.log(FAR) || away < SPREADS * spread) return [];
      const ratio = price > usual ? price / usual : usual / price;
      const money = amountToMinor(Math.round(Math.abs(amount - (amount / price) * usual)));
      return [
        {
          code: 'price-absurd',
          severity: 'warning',
          message: `${label} costs ${show(price, plan.minorDigits)} a ${unit === 'each' ? 'piece' : unit}, ${ratio >= 20 ? Math.round(ratio) : Number(ratio.toPrecision(2))} times ${price > usual ? 'as much as' : 'less than'} its like (${show(usual, plan.minorDigits)}).${tellFactor(ratio)}`,
          globalIds: listIdentities(tables, keys),
          cause: label,
          money,
        },
      ];
    });
  });
}

/** Identities of elements, in the order of their tables. */
function listIdentities(tables: readonly ElementTable[], keys: readonly number[]): string[] {
  const wanted = new Set(keys);
  return tables.flatMap((t) =>
    [...t.keys].flatMap((key, row) => (wanted.has(key) ? [readText(t.identity, row) ?? ''] : [])),
  );
}

/** A price per unit, from 1/10,000 of a minor unit, as it is written in messages. */
const show = (price: number, digits: number): string => (price / 10_000 / 10 ** digits).toFixed(digits);
