import type { PriceBand } from '../book/price-band.ts';
import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import { readText, readTextList } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import { type KindQuantity, labelKind, listElementKinds } from '../plan/list-element-kinds.ts';
import { COMPLETENESS_STATES, type Plan } from '../plan/plan.ts';
import { amountToMinor } from '../pricing/money.ts';
import type { Finding } from './finding.ts';
import { tellFactor } from './tell-factor.ts';

/** A price may lie so many times beyond the edge of its band before it cannot be meant: what is merely dear, or cheap, the plan shows. */
const FAR_OUT = 3;

/** A band with its figures in 1/10,000 of a minor unit. */
interface Edge {
  readonly band: PriceBand;
  readonly low: number;
  readonly usual: number;
  readonly high: number;
}

/**
 * Kinds of elements that are priced whole and whose price per unit lies three times beyond the band that the book has for their class or element code. Of several bands
 * the one of the narrowest class, or of the longest code, counts. Bands in another currency than the plan's are not used.
 */
export function checkBands(plan: Plan, bands: readonly PriceBand[]): Finding[] {
  const scale = 10_000 * 10 ** plan.minorDigits;
  const edges = bands
    .filter((b) => (b.currency ?? plan.currency) === plan.currency)
    .map((band): Edge => ({ band, low: Number(band.low) * scale, usual: Number(band.usual) * scale, high: Number(band.high) * scale })); // biome-ignore format: one step
  if (edges.length === 0) return [];
  return plan.parts
    .filter((p) => !p.table.origin)
    .flatMap(({ table, completeness, elementAmounts }) => {
      const rowOf = listRowsByKey(table.keys);
      const stateOf = (key: number) => ({ state: COMPLETENESS_STATES[completeness[rowOf.get(key)!]!]!, amount: elementAmounts[rowOf.get(key)!]! }); // biome-ignore format: one step
      return listElementKinds([table], stateOf).flatMap((kind): Finding[] => {
        if (kind.amount <= 0 || kind.counts.priced < kind.keys.length) return [];
        const rows = kind.keys.map((key) => rowOf.get(key)!);
        const found = findEdge(edges, table, rows, kind.quantities);
        if (!found) return [];
        const { edge, quantity } = found;
        const price = kind.amount / quantity.value;
        const beyond = price > edge.high ? price / edge.high : price < edge.low ? edge.low / price : 1;
        if (beyond < FAR_OUT) return [];
        const show = (amount: number) => (amount / scale).toFixed(plan.minorDigits);
        const label = labelKind(kind);
        const ratio = price > edge.usual ? price / edge.usual : edge.usual / price;
        return [
          {
            code: 'price-absurd',
            severity: 'warning',
            message: `${label} costs ${show(price)} a ${quantity.unit === 'each' ? 'piece' : quantity.unit}; usual are ${show(edge.low)} to ${show(edge.high)} (${edge.band.of}).${tellFactor(ratio)}`,
            globalIds: rows.map((row) => readText(table.identity, row) ?? ''),
            cause: label,
            money: amountToMinor(Math.round(Math.abs(kind.amount - quantity.value * edge.usual))),
          },
        ];
      });
    });
}

/** The band that speaks for a kind, and the quantity it goes by; null if none does. */
function findEdge(
  edges: readonly Edge[],
  table: ElementTable,
  rows: readonly number[],
  quantities: readonly KindQuantity[],
): { readonly edge: Edge; readonly quantity: KindQuantity } | null {
  let best: { edge: Edge; quantity: KindQuantity; rank: number } | null = null;
  for (const edge of edges) {
    const { of, unit } = edge.band;
    const isCode = !/^Ifc[A-Za-z]+$/.test(of);
    const isOf = (row: number) =>
      isCode ? readTextList(table.codes, row).some((c) => c.startsWith(of)) : isClassOrSubtype(readText(table.ifcClass, row) ?? '', of); // biome-ignore format: one test
    if (!rows.every(isOf)) continue;
    const quantity = quantities.find((q) => q.unit === unit && q.known === rows.length && q.value > 0);
    if (!quantity) continue;
    // A code says more than a class; of classes the element's own says most.
    const rank = isCode ? 1000 + of.length : of === readText(table.ifcClass, rows[0]!) ? 2 : 1;
    if (!best || rank > best.rank) best = { edge, quantity, rank };
  }
  return best;
}
