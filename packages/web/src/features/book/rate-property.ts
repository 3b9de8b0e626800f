import { type ElementTable, type PropertyValue, readFileNumber } from '@tally/core';

/** A property of the models whose values can be prices. */
export interface PriceProperty {
  /** `Set.Name`, as formulas read it. */
  readonly name: string;
  /** Elements that have it with a figure, and those with something else. */
  readonly figures: number;
  readonly others: number;
  readonly least: number;
  readonly most: number;
}

const toFigure = (value: PropertyValue): number =>
  typeof value === 'number' ? value : typeof value === 'string' ? readFileNumber(value) : Number.NaN;

/** Properties of which at least one value is a figure, by name. */
export function listPriceProperties(tables: readonly ElementTable[]): PriceProperty[] {
  const found = new Map<string, PriceProperty>();
  for (const { properties } of tables)
    for (const { set, name, values } of properties) {
      const key = `${set}.${name}`;
      const figures = values.map(toFigure).filter((v) => Number.isFinite(v));
      const before = found.get(key);
      found.set(key, {
        name: key,
        figures: figures.length + (before?.figures ?? 0),
        others: values.length - figures.length + (before?.others ?? 0),
        least: figures.reduce((a, b) => Math.min(a, b), before?.least ?? Number.POSITIVE_INFINITY),
        most: figures.reduce((a, b) => Math.max(a, b), before?.most ?? Number.NEGATIVE_INFINITY),
      });
    }
  return [...found.values()].filter((p) => p.figures > 0).sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** How the figure of a property is a price. */
export interface PropertyRate {
  readonly property: string;
  readonly currency: string;
  /** What one price is for. */
  readonly per: string;
  /** Rate where an element does not have the property; none leaves those unknown. */
  readonly otherwise: string | null;
}

/**
 * The formula of a rate that comes from a property.
 * @example writePropertyRate({ property: 'Offer.Price', currency: 'EUR', per: 'm2', otherwise: null }) // number("Offer.Price", 1 EUR/m2)
 */
export function writePropertyRate({ property, currency, per, otherwise }: PropertyRate): string {
  const read = `number("${property}", 1 ${currency}/${per})`;
  return otherwise === null ? read : `if(has("${property}"), ${read}, ${otherwise} ${currency}/${per})`;
}
