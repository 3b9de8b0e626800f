import { z } from 'zod';
import type { Classification } from '../book/cost-class.ts';
import type { SheetProfile } from '../book/price-sheet.ts';
import type { CorrectedFacts } from '../elements/corrected-facts.ts';
import type { RoomFinishes, WallFinish } from '../elements/model-element.ts';
import type { GivenFigure, ProjectMaterial } from '../elements/project-layer.ts';
import type { Allowance } from '../lists/allowance.ts';
import type { ListProfile } from '../lists/list-profile.ts';
import type { ItemSwap } from '../mapping/pricing-rule.ts';
import type { Difference, OptionBody } from '../options/option-overlay.ts';
import type { CheckedMark } from '../plan/checked-marks.ts';
import type { Shortfall } from '../plan/shortfall.ts';
import type { ChosenFace } from '../quantities/chosen-faces.ts';
import type { DrawnRoom } from '../quantities/drawn-rooms.ts';
import type { Limit } from '../quantities/limit.ts';
import type { PinnedBook } from './book.ts';
import type { PlanManifestDto, PlanSummaryDto } from './plan.ts';
import type { BaselineBody, PlanNote, PlanView } from './plan-entries.ts';
import type { JobDto, SourceDto } from './source.ts';
import type { pinSchema, Template } from './template.ts';
import type { TakeoffView } from './views.ts';

export const createProjectSchema = z.strictObject({
  name: z.string().trim().min(1, 'A project needs a name.').max(120),
  currency: z.string().regex(/^[A-Z]{3}$/, 'A currency is three capital letters, e.g. EUR.'),
  /** Begins with the rules and the book of the demo. */
  withTemplate: z.boolean().default(false),
  /** Begins with the rough rules that come along, for any building. */
  withStarter: z.boolean().default(false),
  /** Another project, whose items, assemblies, rules and settings it begins with. */
  templateOf: z.string().max(100).optional(),
  /** A template as it stands in its file: the project begins with it, or is not made. */
  template: z.unknown().optional(),
});

export interface ProjectDto {
  readonly id: string;
  readonly name: string;
  readonly currency: string;
  readonly seq: number;
  readonly createdAt: string;
}

/** A project in the list of projects. */
export interface ProjectListDto extends ProjectDto {
  /** Total of its plan in minor units; null before the first plan. */
  readonly total: number | null;
  /** What its total lacks; null if nothing does, or before the first plan. */
  readonly shortfall: Shortfall | null;
  readonly lastChange: { readonly at: string; readonly author: string; readonly cause: string } | null;
  /** When it was put away; null for one in use. */
  readonly putAwayAt: string | null;
}

/** Another name for a project. */
export const renameProjectSchema = z.strictObject({ name: z.string().trim().min(1).max(200) });

/** The shared book a project stands on, and what it has otherwise. */
export interface ProjectBookDto extends PinnedBook {
  readonly name: string;
  readonly newest: number;
  /** Entries of the project's own, `kind/id`, and those of them that stand in place of the book's. */
  readonly own: readonly string[];
  readonly overrides: readonly string[];
  /** Entries of the book that the project does without. */
  readonly takenOut: readonly string[];
}

/** Everything of a project that pages start from. */
export interface ProjectStateDto {
  readonly project: ProjectDto;
  readonly summary: PlanSummaryDto;
  readonly manifest: PlanManifestDto;
  readonly basis: Omit<Template, 'format' | 'name' | 'classifications'> & {
    readonly pins: readonly z.infer<typeof pinSchema>[];
    readonly checked: readonly CheckedMark[];
    readonly swaps: readonly ItemSwap[];
  };
  /** What the project adds to its elements, by ElementKey, and what it says about materials and findings. */
  readonly layer: {
    readonly attributes: Readonly<Record<string, Readonly<Record<string, string | number | boolean>>>>;
    readonly finishes: Readonly<Record<string, Partial<RoomFinishes>>>;
    readonly wallFinishes: Readonly<Record<string, readonly WallFinish[]>>;
    readonly zones: Readonly<Record<string, readonly string[]>>;
    /** Figures set by hand, by ElementKey and name of the quantity. */
    readonly given: Readonly<Record<string, Readonly<Record<string, GivenFigure>>>>;
    /** What the file has wrong and is said instead, by whom and when. */
    readonly facts: Readonly<Record<string, CorrectedFacts & { readonly by?: string; readonly at?: string }>>;
    readonly drawnRooms: Readonly<Record<string, DrawnRoom>>;
    readonly allowances: Readonly<Record<string, Allowance>>;
    readonly limits: readonly Limit[];
    readonly chosenFaces: Readonly<Record<string, Readonly<Record<string, readonly ChosenFace[]>>>>;
    /** What was said about elements that came under other ids, by the ElementKey of their own. */
    readonly identities: Readonly<
      Record<string, { readonly was: number | null; readonly by?: string; readonly at?: string }>
    >;
    /** Reasons by ElementKey. */
    readonly leftOut: Readonly<Record<string, string>>;
    readonly materials: readonly ProjectMaterial[];
  };
  /** Classifications of the book; UNIFORMAT II comes beside them. */
  readonly classifications: readonly Classification[];
  /** Reasons of accepted findings, by finding key. */
  readonly accepted: Readonly<Record<string, string>>;
  readonly views: Readonly<Record<string, TakeoffView>>;
  /** Saved ways to look at the plan, by name. */
  readonly planViews: Readonly<Record<string, PlanView>>;
  /** Frozen plans, by their ids. */
  readonly baselines: Readonly<Record<string, BaselineBody>>;
  /** Named alternatives, by their ids, each with what it has otherwise. */
  readonly options: Readonly<Record<string, OptionBody & { readonly differences: readonly Difference[] }>>;
  /** What somebody noted on lines of the plan, by work section and item. */
  readonly notes: Readonly<Record<string, PlanNote>>;
  /** The shared book it stands on; null where it keeps its prices to itself. */
  readonly book: ProjectBookDto | null;
  /** Where the lines stand in lists, by source. */
  readonly listProfiles: Readonly<Record<string, ListProfile>>;
  /** Where the prices stand in the price sheets, by their names. */
  readonly priceSheets: Readonly<Record<string, SheetProfile>>;
  /** The orders as they are kept, for changing them; null where none was made yet. */
  readonly orders: Readonly<Record<'rules' | 'sections', readonly string[] | null>>;
  readonly sources: readonly SourceDto[];
  readonly jobs: readonly JobDto[];
}
