import { z } from 'zod';
import type { PartShares } from '../elements/element-parts.ts';
import type { HeldMark, UncheckedLine } from '../plan/checked-marks.ts';
import type { ExplainedElement } from '../plan/explain-element.ts';
import type { BehindElement, PlanGroup } from '../plan/group-plan.ts';
import type { HeldTarget } from '../plan/hold-targets.ts';
import type { BuildingMeasure } from '../plan/measure-building.ts';
import type { CompletenessState } from '../plan/plan.ts';
import type { PurchaseRow } from '../plan/purchase-table.ts';
import type { Shortfall } from '../plan/shortfall.ts';
import type { ToldSection } from '../plan/tell-decisions.ts';
import type { Purchase } from '../pricing/purchases.ts';

export interface PlanSummaryDto {
  readonly currency: string;
  readonly minorDigits: number;
  /** Total in minor units. */
  readonly total: number;
  readonly unknownLines: number;
  readonly counts: Readonly<Record<CompletenessState, number>>;
  /** What the total leaves out; null if everything is priced. */
  readonly shortfall: Shortfall | null;
  /** Floor areas and counts of the building. */
  readonly building: BuildingMeasure;
  /** The target for the whole, held against the plan; null if there is none. */
  readonly target: HeldTarget | null;
  /** Elements each rule's scope catches, by rule id. */
  readonly caught: Readonly<Record<string, number>>;
  /** Elements each rule prices, by rule id. */
  readonly priced: Readonly<Record<string, number>>;
}

/** Everything a plan stands on, by content hash; equal manifests give equal plans. */
export interface PlanManifestDto {
  readonly engineVersion: string;
  readonly bookHash: string;
  readonly rulesHash: string;
  /** Of what the project adds to its elements and chooses among their figures. */
  readonly additionsHash: string;
  readonly sources: readonly {
    readonly sourceId: string;
    readonly revisionId: string;
    readonly tableHash: string;
    readonly readerVersion: string;
  }[];
}

export interface ElementStatesDto {
  readonly revisionId: string;
  readonly keys: readonly number[];
  /** Index into COMPLETENESS_STATES. */
  readonly states: readonly number[];
  /** In 1/10,000 of a minor unit. */
  readonly amounts: readonly number[];
}

/** What is measured of the shapes of a revision's elements because the project asks for it (`TableParts`), ready to be sent. */
export interface TablePartsDto {
  readonly revisionId: string;
  readonly limits: readonly {
    readonly name: string;
    readonly inside: readonly number[];
    readonly crossing: readonly (readonly [row: number, shares: PartShares])[];
    readonly unknown: readonly number[];
  }[];
  /** Areas by row; null where a chosen face is gone. */
  readonly chosen: readonly { readonly name: string; readonly areas: readonly (readonly [number, number | null])[] }[];
}

/** A table in outline as it is shown, ready to be written: the last row is the total. */
export const outlineTableSchema = z
  .strictObject({
    name: z.string().trim().min(1).max(120),
    columns: z.array(z.string().max(200)).min(1).max(100),
    rows: z
      .array(z.array(z.union([z.string().max(5000), z.number(), z.null()])))
      .min(1)
      .max(300_000),
    levels: z.array(z.number().int().min(0).max(7)).describe('Depth of each row.'),
    heads: z.array(z.boolean()).describe('Whether a row is the heading of a group.'),
    sums: z.array(z.number().int().min(0)).describe('Columns whose groups are sums.'),
  })
  .refine((t) => t.levels.length === t.rows.length && t.heads.length === t.rows.length, {
    error: 'Every row has a depth.',
  });

export type OutlineTable = z.infer<typeof outlineTableSchema>;

/** Lines of a plan that are sent and drawn at most. */
export const MOST_PLAN_LINES = 120_000;

/** A plan as it is shown; one of more lines than anybody can read comes without them. */
export interface PlanDto extends PlanGroup {
  /** How many lines it would have, where these are too many. */
  readonly tooMany?: number;
}

/** The elements behind a line or group of a plan: how many, and those with the most money. */
export interface BehindDto {
  readonly count: number;
  readonly elements: readonly BehindElement[];
}

/** Marks of what was checked, and what is not checked. */
export interface CheckedDto {
  readonly marks: readonly HeldMark[];
  readonly unchecked: readonly UncheckedLine[];
  /** Of all lines, checked or not, in 1/10,000 of a minor unit. */
  readonly total: number;
}

/** What an element costs, line by line, and what decides about it. */
export interface ElementCostDto extends ExplainedElement {
  readonly decisions: readonly ToldSection[];
}

/** What is bought of an item; the shown amounts, in minor units, add up to the shown total. */
export interface PurchaseDto
  extends PurchaseRow,
    Pick<Purchase, 'net' | 'waste' | 'toBuy' | 'packs' | 'lengths' | 'surplus' | 'splices' | 'cutting' | 'unknown'> {
  readonly description: string;
  readonly unit: string;
  /** What of it is left over costs, in minor units. */
  readonly surplusMinor: number;
}
