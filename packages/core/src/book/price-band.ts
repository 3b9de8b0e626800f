/** Unit of bands that go by the floor area of the building. */
export const FLOOR_AREA = 'm2 floor';

/** What elements of a class, or of an element code, usually cost per unit: what the plan is held against. */
export interface PriceBand {
  /** Class of the elements (with its subtypes), or start of their element code. */
  readonly of: string;
  /** Unit that the figures are per: m2, m3, m, kg or each, or a square metre of the building's floor area. */
  readonly unit: string;
  /** Money per unit, as decimals. */
  readonly low: string;
  readonly usual: string;
  readonly high: string;
  /** Currency of the figures; that of the project if absent. */
  readonly currency?: string;
  readonly note?: string;
}

/** Tells bands apart: one for each thing and unit. @example 'IfcWall per m2' */
export const bandId = ({ of, unit }: Pick<PriceBand, 'of' | 'unit'>): string => `${of} per ${unit}`;
