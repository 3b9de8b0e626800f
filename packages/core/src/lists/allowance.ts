import type { ItemKind } from '../book/item-kind.ts';
import { BARE_ELEMENT } from '../elements/bare-element.ts';
import { buildElementTable, type ElementTable } from '../elements/element-table.ts';
import type { ModelElement, Quantity } from '../elements/model-element.ts';

/** What a cost without an object goes by: once, a duration, the floor area of the building, a count of functional units, a share of other costs. */
export const ALLOWANCE_MEASURES = ['once', 'weeks', 'months', 'floorArea', 'units', 'percent'] as const;
export type AllowanceMeasure = (typeof ALLOWANCE_MEASURES)[number];

/** Costs that a per cent is of: those that are in all of the groups; all costs but other per cents where none is named. */
export interface PercentBase {
  /** Fields that a plan is grouped by, each with the label of one of its groups. @example [{ by: 'section', is: 'Masonry' }] */
  readonly groups?: readonly { readonly by: string; readonly is: string }[];
  /** Codes of other per cents that count as costs too: this one goes on top of them. */
  readonly also?: readonly string[];
}

/** A cost without an object: a permit, a survey, a site cabin by the week. */
export interface Allowance {
  readonly code: string;
  readonly name: string;
  readonly measure: AllowanceMeasure;
  /** How many weeks or months, or how often; 1 if absent. Of a share the per cent: not known if absent. */
  readonly amount?: number;
  /** Name of the functional unit that is counted. */
  readonly counted?: string;
  /** Of a share: what it is of. */
  readonly of?: PercentBase;
  /** Decimal in the project's currency per its measure; that of the book's item of its code if absent. */
  readonly rate?: string;
  readonly kind?: ItemKind;
  /** Work section; one for allowances if absent. */
  readonly section?: string;
  readonly note?: string;
}

/** What of the building allowances go by; null where it is not known. */
export interface BuildingMeasures {
  readonly floorAreaM2: number | null;
  readonly countUnits: (name: string) => number | null;
}

/** Name of the quantity and unit of the rate, by measure. */
export const ALLOWANCE_DRIVERS: Readonly<
  Record<AllowanceMeasure, { readonly quantity: string; readonly unit: string }>
> = {
  once: { quantity: 'Count', unit: 'each' },
  weeks: { quantity: 'Weeks', unit: 'week' },
  months: { quantity: 'Months', unit: 'month' },
  floorArea: { quantity: 'GrossFloorArea', unit: 'm2' },
  units: { quantity: 'Count', unit: 'each' },
  percent: { quantity: 'Share', unit: '%' },
};

/**
 * Allowances as elements, by ElementKey (negative, so that none is ever that of a model's element). What its measure is not known of has
 * no quantity: it is unknown in the plan, never 0.
 */
export function buildAllowances(
  allowances: ReadonlyMap<number, Allowance>,
  measures: BuildingMeasures,
): ElementTable | null {
  if (allowances.size === 0) return null;
  const list = [...allowances].sort(([a], [b]) => b - a);
  const table = buildElementTable(
    list.map(([key, allowance]) => toElement(key, allowance, measures)),
    Int32Array.from(list, ([key]) => key),
  );
  return { ...table, origin: { kind: 'allowance' } };
}

function toElement(key: number, allowance: Allowance, { floorAreaM2, countUnits }: BuildingMeasures): ModelElement {
  const { code, name, measure, amount = 1, counted } = allowance;
  const { quantity } = ALLOWANCE_DRIVERS[measure];
  const figure = (value: number | null, unit: Quantity['unit']): Quantity[] =>
    value === null ? [] : [{ name: quantity, value: value * amount, unit, basis: 'given', method: 'hand' }];
  const QUANTITIES: Readonly<Record<AllowanceMeasure, () => Quantity[]>> = {
    once: () => figure(1, 'each'),
    weeks: () => figure(1, 'week'),
    months: () => figure(1, 'month'),
    floorArea: () => figure(floorAreaM2, 'm2'),
    percent: () => figure(allowance.amount === undefined ? null : 1 / 100, 'number'),
    units: () => figure(counted === undefined ? null : countUnits(counted), 'each'),
  };
  return { ...BARE_ELEMENT, globalId: `allowance${key}`, name, codes: [code], quantities: QUANTITIES[measure]() };
}
