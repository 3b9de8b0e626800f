import type { LimitParts, PartShares } from '../elements/element-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { Problem } from '../result/result.ts';
import { foldText } from '../units/fold-text.ts';
import { QUANTITY_DEFINITIONS } from './quantity-names.ts';

/** What of a body each quantity is a share of. Quantities that are not here describe, count or run along edges: they have no part. */
const PART_OF: Readonly<Record<string, Exclude<keyof PartShares, 'named'>>> = {
  GrossVolume: 'volume',
  NetVolume: 'volume',
  Weight: 'volume',
  GrossWeight: 'volume',
  NetWeight: 'volume',
  TopArea: 'top',
  GrossArea: 'top',
  NetArea: 'top',
  GrossFootprintArea: 'top',
  GrossFloorArea: 'top',
  NetFloorArea: 'top',
  GrossCeilingArea: 'top',
  SlopedArea: 'top',
  BottomArea: 'bottom',
  GrossSideArea: 'sides',
  NetSideArea: 'sides',
  SidesArea: 'sides',
  OuterSideArea: 'sides',
  InnerSideArea: 'sides',
  ExposedSidesArea: 'sides',
  EdgesArea: 'sides',
  Perimeter: 'sides',
  GrossWallArea: 'sides',
  NetWallArea: 'sides',
  EndsArea: 'ends',
  OuterSurfaceArea: 'surface',
  Length: 'length',
  GrossPerimeter: 'length',
  NetPerimeter: 'length',
};

/** Standard quantities that can be limited to a part of the building. */
export const LIMITABLE_QUANTITIES: readonly string[] = QUANTITY_DEFINITIONS.map((d) => d.name).filter(
  (name) => PART_OF[name] !== undefined,
);

/** A limit of a table by name; case, accents and spaces do not matter. */
export function findLimit(table: ElementTable, name: string): LimitParts | undefined {
  const wanted = foldText(name);
  return table.parts?.limits.find((l) => foldText(l.name) === wanted);
}

/** True if a row lies in a limit, whole or in part, or if that is not known. */
export function touchesLimit({ inside, crossing, unknown }: LimitParts, row: number): boolean {
  return inside.has(row) || crossing.has(row) || unknown.has(row);
}

/** Figure of a row's quantity within a limit; null if it is not known. */
export function readWithin(
  table: ElementTable,
  row: number,
  limit: LimitParts,
  quantity: string,
  figure: number,
): number | null {
  const share = shareWithin(table, row, limit, quantity);
  return typeof share === 'number' ? figure * share : null;
}

/**
 * Share of a row's quantity that lies within a limit, 0 to 1, or why it is not known. Gross figures of an element with openings are
 * refused: its shape is known with the openings cut out only.
 */
export function shareWithin(table: ElementTable, row: number, limit: LimitParts, quantity: string): number | Problem {
  if (limit.inside.has(row)) return 1;
  if (limit.unknown.has(row))
    return {
      code: 'quantity-part-unknown',
      message: `What of the element lies within "${limit.name}" is not known: it has no shape of its own.`,
      remedy: 'Price its parts, or leave the limit out for it.',
    };
  const shares = limit.crossing.get(row);
  if (!shares) return 0;
  const kind = PART_OF[quantity];
  const hasOpenings = table.openings.offset[row + 1]! > table.openings.offset[row]!;
  if (!kind || (hasOpenings && quantity.startsWith('Gross') && kind !== 'length'))
    return {
      code: 'quantity-without-part',
      message: kind
        ? `Openings are cut out of the element's shape, so the part of its ${quantity} is not known.`
        : `${quantity} has no part within a limit.`,
      remedy: kind ? 'Take the net figure.' : `Take one of ${LIMITABLE_QUANTITIES.slice(0, 4).join(', ')} …`,
    };
  return shares.named?.[quantity] ?? shares[kind];
}
