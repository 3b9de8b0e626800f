import { FLOOR_AREA, type PriceBand } from '../book/price-band.ts';
import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import { readText, readTextList } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { KIND_QUANTITIES } from './list-element-kinds.ts';
import type { BuildingMeasure } from './measure-building.ts';
import { COMPLETENESS_STATES, type Plan } from './plan.ts';

/** A band and what the plan has against it. Money in major units per the band's unit. */
export interface HeldBand {
  readonly band: PriceBand;
  /** What its elements cost, in 1/10,000 of a minor unit. */
  readonly amount: number;
  /** In the band's unit; null where it is not known. */
  readonly quantity: number | null;
  readonly price: number | null;
  readonly place: 'below' | 'within' | 'above' | 'unknown';
  /** Elements of it, and those among them that are not fully priced: what they cost is not all. */
  readonly elements: number;
  readonly open: number;
}

/**
 * What the elements of each band cost per its unit, all of them together, held against what is usual. A band per m2 of floor area goes by the floor area of the
 * building. Of elements that are not priced the quantity does not count. Bands in another currency are not used; nor are those that no element is of.
 */
export function holdBands(plan: Plan, bands: readonly PriceBand[], building: BuildingMeasure): HeldBand[] {
  const scale = 10_000 * 10 ** plan.minorDigits;
  return bands
    .filter((b) => (b.currency ?? plan.currency) === plan.currency)
    .map((band) => {
      let [amount, quantity, elements, open] = [0, 0, 0, 0];
      let isMeasured = true;
      for (const { table, completeness, elementAmounts } of plan.parts) {
        if (table.origin) continue;
        const isOf = testBand(band, table);
        for (let row = 0; row < table.count; row++) {
          const state = COMPLETENESS_STATES[completeness[row]!]!;
          if (state === 'leftOut' || !isOf(row)) continue;
          elements++;
          if (state !== 'priced') open++;
          amount += elementAmounts[row]!;
          if (band.unit === FLOOR_AREA || state !== 'priced') continue;
          const value = readQuantity(table, row, band.unit);
          if (value === null) isMeasured = false;
          else quantity += value;
        }
      }
      const of = band.unit === FLOOR_AREA ? building.floorAreaM2 : isMeasured && quantity > 0 ? quantity : null;
      const price = of === null || amount <= 0 ? null : amount / scale / of;
      const place =
        price === null
          ? 'unknown'
          : price < Number(band.low)
            ? 'below'
            : price > Number(band.high)
              ? 'above'
              : 'within';
      return { band, amount, quantity: of, price, place, elements, open } as const;
    })
    .filter((held) => held.elements > 0);
}

function testBand({ of }: PriceBand, table: ElementTable): (row: number) => boolean {
  if (/^Ifc[A-Za-z]+$/.test(of)) return (row) => isClassOrSubtype(readText(table.ifcClass, row) ?? '', of);
  return (row) => readTextList(table.codes, row).some((code) => code.startsWith(of));
}

/** The first quantity of an element, of those that say most, that is in a unit; pieces are counted. */
function readQuantity(table: ElementTable, row: number, unit: string): number | null {
  if (unit === 'each') return 1;
  const columns = listEffectiveQuantities(table);
  const names = [...KIND_QUANTITIES, 'NetWeight', 'GrossWeight'];
  for (const name of names) {
    const column = columns.get(name.toLowerCase());
    if (column?.unit === unit && !Number.isNaN(column.values[row]!)) return column.values[row]!;
  }
  return null;
}
