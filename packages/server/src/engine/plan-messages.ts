import type {
  BehindDto,
  CheckedDto,
  CheckThresholds,
  ComparedElementDto,
  ComparisonDto,
  Condition,
  cutItem,
  ElementCostDto,
  ElementStatesDto,
  Finding,
  FindingConsequences,
  GroupField,
  HeldBand,
  HeldTarget,
  listCutItems,
  MarkedThing,
  MoveDto,
  PlanDto,
  PlanSummaryDto,
  PlanView,
  PracticeRow,
  PricingBasis,
  ProjectAdditions,
  PurchaseDto,
  Result,
  TablePartsDto,
} from '@tally/core';

/** Where the element table of a revision lies, and the chunks of its picture; null while that is not whole. */
export interface StoredRevision {
  readonly path: string;
  readonly pictures: readonly string[] | null;
}

/** A counting revision of a source. */
export interface CountingTable extends StoredRevision {
  readonly sourceId: string;
  /** What its source is called. */
  readonly sourceName: string;
  readonly revisionId: string;
  /** The revision of its source that was read before it; null for the first. */
  readonly before: StoredRevision | null;
  /** What was found when it was read: pairs that stand in one place. */
  readonly samePlaces: readonly Finding[];
}

/** What the checks find in a counting revision as the project sees it, and what of its plan findings may matter for. */
export interface CheckedFindings {
  readonly revisionId: string;
  readonly findings: readonly Finding[];
  readonly consequences: FindingConsequences | null;
}

/** A state beside the live plan, with what tells it from others: calculated of the same things, or frozen in a file. */
export type StateOrder = { readonly key: string } & (
  | {
      readonly basis: PricingBasis;
      readonly tables: readonly CountingTable[];
      readonly layer: ProjectAdditions;
    }
  | { readonly frozen: string }
);

/** What a plan worker can be asked. */
export interface PlanQueries {
  /** Sets everything the plan stands on and recalculates; the move is null for the first plan. */
  update: (
    basis: PricingBasis,
    tables: readonly CountingTable[],
    layer: ProjectAdditions,
    thresholds: CheckThresholds,
    /** What it decides is not told to other projects. */
    isKeptOut?: boolean,
  ) => {
    summary: PlanSummaryDto;
    move: MoveDto | null;
    checked: readonly CheckedFindings[];
    /** What elements are decided to be priced with; null while it is as it was told last. */
    practice: readonly PracticeRow[] | null;
  };
  /** How the plan would move under another basis; the plan itself stays. Ended by the gate with PREVIEW_DROPPED. */
  preview: (basis: PricingBasis) => MoveDto;
  group: (view: PlanView) => PlanDto;
  /** The same with all its lines, for files. */
  groupWhole: (view: PlanView) => PlanDto;
  groupElements: (view: PlanView, id: string) => number[];
  /** The elements behind a line or group of a plan with what each adds to it, the most money first. */
  behind: (view: PlanView, id: string) => BehindDto;
  states: () => ElementStatesDto[];
  /** Sum of the known amounts of some elements. */
  amountOf: (keys: readonly number[]) => number;
  explain: (key: number) => ElementCostDto | null;
  /** ElementKeys of all that a condition catches. */
  findKeys: (scope: Condition) => number[];
  /** What has to be bought, by item. */
  purchases: () => PurchaseDto[];
  /** Items that are sold in lengths, and how the pieces of one are cut from them. */
  cutItems: () => ReturnType<typeof listCutItems>;
  cut: (code: string) => ReturnType<typeof cutItem>;
  /** Decimals of the currency. */
  digits: () => number;
  /** All targets held against the plan, the one for the whole first. */
  targets: () => readonly HeldTarget[];
  /** What classes and element codes cost per unit, against what is usual. */
  bands: () => readonly HeldBand[];
  /** Marks of what was checked and whether they hold; what is not checked, the most money first. */
  checked: () => CheckedDto;
  /** What the plan says of things by now, for marks on them. */
  sign: (things: readonly MarkedThing[]) => readonly { readonly signature: string; readonly amount: number }[];
  csv: (view: PlanView) => string;
  /** How two states differ; null is the plan as it is. */
  compare: (from: StateOrder | null, to: StateOrder | null, by: GroupField) => Result<ComparisonDto>;
  /** What an element costs on both sides. */
  compareElement: (from: StateOrder | null, to: StateOrder | null, key: number) => ComparedElementDto;
  /** All that the plan is made of and what came of it, packed. */
  freeze: () => { readonly bytes: Uint8Array; readonly total: number; readonly currency: string };
  /** What is measured of shapes because the project asks for it, by revision. */
  parts: () => TablePartsDto[];
}

/** Questions whose answers are the same until the plan is updated, and go out as they are. */
export type ReadingQuery = 'group' | 'purchases' | 'states' | 'parts' | 'bands' | 'checked' | 'targets';

/** An answer as it is sent: JSON, gzipped, with a tag that is the same for the same content. */
export interface PackedReading {
  readonly gzip: Uint8Array;
  readonly tag: string;
}

export interface PlanRequest {
  readonly id: number;
  readonly query: keyof PlanQueries;
  readonly args: readonly unknown[];
  /** The answer is wanted as a `PackedReading`. */
  readonly isPacked?: boolean;
}
export type PlanReply =
  | { readonly id: number; readonly value: unknown }
  | { readonly id: number; readonly error: string; readonly code: string | undefined };

/** Code of a preview that ended because a change came first or nobody waits for it. */
export const PREVIEW_DROPPED = 'preview-dropped';
