import { z } from 'zod';
import type { ChangedRow } from '../changes/changed-table.ts';
import type { PartShares } from '../elements/element-parts.ts';
import type { ExplainedElement } from '../plan/explain-element.ts';
import { type GroupField, readGroupField } from '../plan/group-labels.ts';
import type { PlanGroup } from '../plan/group-plan.ts';
import type { CompletenessState } from '../plan/plan.ts';
import { PLAN_ROWS } from '../plan/plan-fields.ts';
import type { PurchaseRow } from '../plan/purchase-table.ts';
import type { Shortfall } from '../plan/shortfall.ts';
import type { ToldSection } from '../plan/tell-decisions.ts';
import type { Purchase } from '../pricing/purchases.ts';
import { conditionSchema } from './template.ts';

/** Levels that a plan can be grouped by. */
const MOST_LEVELS = 8;

export interface PlanSummaryDto {
  readonly currency: string;
  readonly minorDigits: number;
  /** Total in minor units. */
  readonly total: number;
  readonly unknownLines: number;
  readonly counts: Readonly<Record<CompletenessState, number>>;
  /** What the total leaves out; null if everything is priced. */
  readonly shortfall: Shortfall | null;
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

export interface ChangedElementDto extends ChangedRow {
  readonly globalId: string;
  readonly label: string;
  readonly quantities: Readonly<Record<string, readonly [number | null, number | null]>>;
  readonly attributes: Readonly<Record<string, readonly [string | null, string | null]>>;
}

export interface ElementChangesDto {
  readonly came: number;
  readonly went: number;
  readonly changed: number;
  readonly elements: readonly ChangedElementDto[];
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

/** How a plan is looked at: what it is grouped by, what a row is, which elements it is limited to. */
export const planViewSchema = z.strictObject({
  by: z
    .array(
      z
        .string()
        .max(300)
        .transform((text, context): GroupField => {
          const field = readGroupField(text);
          if (field) return field;
          context.addIssue({ code: 'custom', message: `A plan cannot be grouped by "${text}".` });
          return z.NEVER;
        }),
    )
    .max(MOST_LEVELS, `A plan can be grouped ${MOST_LEVELS} levels deep.`),
  rows: z.enum(PLAN_ROWS).optional(),
  /** Only elements that it catches. */
  scope: conditionSchema.optional(),
  /** Only elements of these sources. */
  sources: z.array(z.string().max(100)).max(200).optional(),
});

export type PlanView = z.infer<typeof planViewSchema>;

export type PlanDto = PlanGroup;

/** What an element costs, line by line, and what decides about it. */
export interface ElementCostDto extends ExplainedElement {
  readonly decisions: readonly ToldSection[];
}

/** What is bought of an item; the shown amounts, in minor units, add up to the shown total. */
export interface PurchaseDto
  extends PurchaseRow,
    Pick<Purchase, 'net' | 'waste' | 'toBuy' | 'packs' | 'lengths' | 'surplus' | 'splices' | 'unknown'> {
  readonly description: string;
  readonly unit: string;
}
