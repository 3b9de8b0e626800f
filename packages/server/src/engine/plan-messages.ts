import type {
  ElementChangesDto,
  ElementCostDto,
  ElementStatesDto,
  GroupField,
  MoveDto,
  PlanDto,
  PlanSummaryDto,
  PricingBasis,
  ProjectAdditions,
} from '@tally/core';

/** A counting revision: where its element table lies. */
export interface CountingTable {
  readonly sourceId: string;
  readonly revisionId: string;
  readonly path: string;
}

/** What a plan worker can be asked. */
export interface PlanQueries {
  /** Sets everything the plan stands on and recalculates; the move is null for the first plan. */
  update: (
    basis: PricingBasis,
    tables: readonly CountingTable[],
    layer: ProjectAdditions,
  ) => { summary: PlanSummaryDto; move: MoveDto | null };
  group: (by: readonly GroupField[]) => PlanDto;
  groupElements: (by: readonly GroupField[], id: string) => number[];
  states: () => ElementStatesDto[];
  explain: (key: number) => ElementCostDto | null;
  csv: (by: readonly GroupField[]) => string;
  /** Elements that came, went or changed between two tables, with the move of their cost under the present basis. */
  compareTables: (sourceId: string, before: string | null, after: string) => ElementChangesDto;
}

export interface PlanRequest {
  readonly id: number;
  readonly query: keyof PlanQueries;
  readonly args: readonly unknown[];
}
export type PlanReply =
  | { readonly id: number; readonly value: unknown }
  | { readonly id: number; readonly error: string };
