import { z } from 'zod';
import type { Classification } from '../book/classification.ts';
import type { SheetProfile } from '../book/price-sheet.ts';
import type { MoveCause } from '../changes/split-move.ts';
import type { Finding } from '../checks/finding.ts';
import type { CorrectedFacts } from '../elements/corrected-facts.ts';
import type { PartShares } from '../elements/element-parts.ts';
import type { RoomFinishes, WallFinish } from '../elements/model-element.ts';
import type { ProjectMaterial } from '../elements/project-layer.ts';
import type { ExplainedElement } from '../plan/explain-element.ts';
import type { PlanGroup } from '../plan/group-plan.ts';
import type { CompletenessState } from '../plan/plan.ts';
import type { Shortfall } from '../plan/shortfall.ts';
import type { ChosenFace } from '../quantities/chosen-faces.ts';
import type { DrawnRoom } from '../quantities/drawn-rooms.ts';
import type { Limit } from '../quantities/limit.ts';
import { TAKEOFF_ROWS } from '../reports/takeoff-row.ts';
import type { Problem } from '../result/result.ts';
import { type PinnedBook, pinnedBookSchema, sheetProfileSchema } from './book-api.ts';
import {
  assemblySchema,
  classificationSchema,
  costItemSchema,
  namedValueSchema,
  scaleSchema,
  unit,
} from './book-schemas.ts';
import { conditionSchema, pinSchema, ruleSchema, sectionSchema, settingsSchema, type Template } from './template.ts';

const finish = z.string().trim().min(1).max(200).nullable();

const limitLevel = z.strictObject({
  storey: z.string().max(200).nullable(),
  offsetM: z.number().min(-1000).max(10_000),
});

/** A takeoff table as it is saved: what a row is, which rows, columns, groups, order. */
export const viewSchema = z.strictObject({
  name: z.string().trim().min(1, 'A table needs a name.').max(120),
  row: z.enum(TAKEOFF_ROWS),
  scope: conditionSchema.nullable(),
  columns: z
    .array(
      z.strictObject({
        field: z.string(),
        heading: z.string().max(80).optional(),
        unit: unit.optional(),
        digits: z.number().int().min(0).max(6).optional().describe('Decimals; those of the unit if absent.'),
      }),
    )
    .max(60),
  groups: z.array(z.string()).max(5),
  sort: z.strictObject({ field: z.string(), isDescending: z.boolean() }).nullable(),
  isBundled: z.boolean(),
  isAmong: z.boolean().optional().describe('Junctions are looked for among the shown walls only.'),
  within: z.string().max(80).optional().describe('Name of the limit that the quantities are limited to.'),
});
export type TakeoffView = z.infer<typeof viewSchema>;

/** What a project keeps as entries, by kind. `order` keeps the order of rules and sections, `counting` the revision of a source that counts. */
export const ENTRY_SCHEMAS = {
  item: costItemSchema,
  assembly: assemblySchema,
  value: namedValueSchema,
  scale: scaleSchema,
  classification: classificationSchema,
  rule: ruleSchema,
  pin: pinSchema,
  section: sectionSchema,
  settings: settingsSchema,
  /** Extra attributes of an element, by ElementKey. */
  attributes: z.record(z.string().trim().min(1).max(80), z.union([z.string().max(500), z.number(), z.boolean()])),
  /** Finishes given to a room, by ElementKey; null takes one away. */
  finishes: z.strictObject({
    floor: finish.optional(),
    wall: finish.optional(),
    ceiling: finish.optional(),
    skirting: finish.optional(),
  }),
  /** Parts of a room's walls with finishes of their own, by ElementKey. */
  wallFinishes: z
    .array(
      z
        .strictObject({
          finish,
          fromM: z.number().min(0, 'A height is counted from the floor.').max(1000).optional(),
          toM: z.number().positive().max(1000).optional(),
          walls: z.array(z.number().int()).max(500).optional(),
        })
        .refine((w) => (w.fromM ?? 0) < (w.toM ?? 1001), { error: 'A part ends above where it begins.' }),
    )
    .max(20),
  /** Facts about an element that the file has wrong, by ElementKey: what is said instead, by whom and when. */
  facts: z.strictObject({
    storey: z.string().trim().min(1).max(200).optional(),
    ifcClass: z
      .string()
      .regex(/^Ifc[A-Za-z]{2,80}$/, 'A class is one of IFC, e.g. IfcWall.')
      .optional(),
    typeName: z.string().trim().min(1).max(200).optional(),
    material: z.string().trim().min(1).max(200).optional(),
    function: z.string().trim().min(1).max(200).optional(),
    loadBearing: z.boolean().optional(),
    isExternal: z.boolean().optional(),
    by: z.string().max(120).optional(),
    at: z.string().max(40).optional(),
  }),
  /** Zones of our own of an element, by ElementKey. */
  zones: z.array(z.string().trim().min(1).max(120)).max(20),
  material: z.strictObject({
    name: z.string().trim().min(1).max(200),
    synonyms: z.array(z.string().max(200)).max(50).optional(),
    density: z
      .number()
      .positive('A density is more than 0 kg/m3.')
      .max(30000, 'No building material is that heavy.')
      .optional(),
  }),
  /** A room drawn here, by its (negative) ElementKey. */
  drawnRoom: z.strictObject({
    name: z.string().trim().min(1, 'A room needs a name.').max(120),
    storey: z.string().max(200).nullable(),
    rings: z.array(z.array(z.number()).min(6).max(2000)).min(1).max(20),
    bottomM: z.number(),
    topM: z.number(),
  }),
  /** A part of the building that quantities can be limited to. */
  limit: z
    .strictObject({
      name: z.string().trim().min(1, 'A limit needs a name.').max(80),
      above: limitLevel.optional(),
      below: limitLevel.optional(),
      outline: z.array(z.number()).min(6).max(2000).optional(),
    })
    .refine((l) => l.above ?? l.below ?? l.outline, { error: 'Say a level or draw an outline.' }),
  /** Faces of an element chosen by hand, by ElementKey; by the name of the quantity they make. */
  chosenFaces: z.record(
    z.string().trim().min(1, 'Chosen faces need a name.').max(80),
    z
      .array(z.strictObject({ normal: z.tuple([z.number(), z.number(), z.number()]), offsetM: z.number() }))
      .min(1)
      .max(200),
  ),
  /** An element that the project leaves out, by ElementKey. */
  leftOut: z.strictObject({ reason: z.string().trim().min(1).max(300) }),
  /** A finding taken as it is, by its key. */
  accepted: z.strictObject({ reason: z.string().trim().min(1, 'Say why.').max(500) }),
  /** The version of a shared book that the project stands on; its id is `project`. */
  book: pinnedBookSchema,
  /** An entry of the book that the project does without; its id is the kind and the id of that entry. */
  takenOut: z.strictObject({}),
  /** Where the prices stand in a price sheet, by the name of the sheet. */
  priceSheet: sheetProfileSchema,
  /** A saved takeoff table. */
  view: viewSchema,
  order: z.array(z.string()),
  counting: z.strictObject({ revision: z.string() }),
} as const;
export type EntryKind = keyof typeof ENTRY_SCHEMAS;

/** Entries of a change that may be added, changed or removed at once. */
const MOST_ENTRIES = 200_000;
const entry = z.strictObject({ kind: z.string(), id: z.string().min(1).max(200), body: z.unknown() });
export const diffSchema = z.strictObject({
  added: z.array(entry).max(MOST_ENTRIES),
  updated: z
    .array(z.strictObject({ kind: z.string(), id: z.string(), from: z.unknown(), to: z.unknown() }))
    .max(MOST_ENTRIES),
  removed: z.array(entry).max(MOST_ENTRIES),
});

export const createProjectSchema = z.strictObject({
  name: z.string().trim().min(1, 'A project needs a name.').max(120),
  currency: z.string().regex(/^[A-Z]{3}$/, 'A currency is three capital letters, e.g. EUR.'),
  withTemplate: z.boolean().default(false),
  /** Another project, whose items, assemblies, rules and settings it begins with. */
  templateOf: z.string().max(100).optional(),
});

/** A change of entries; `base` is the sequence number it was made on. */
export const changeSchema = z.strictObject({
  base: z
    .number()
    .int()
    .min(0)
    .max(2 ** 31 - 1),
  cause: z.string().trim().min(1).max(300),
  diff: diffSchema,
});

/** A change of prices or rules whose effect is asked for before it is made. */
export const previewSchema = z.strictObject({ diff: diffSchema });

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

export interface MoveDto {
  readonly before: number;
  readonly after: number;
  readonly move: number;
  readonly causes: Readonly<Record<MoveCause, number>>;
}

export interface ChangeDto {
  readonly id: number;
  readonly projectId: string;
  readonly seq: number;
  readonly author: string;
  readonly cause: string;
  readonly undoes: number | null;
  readonly isUndone: boolean;
  readonly at: string;
  /** How many entries it touches. */
  readonly entryCount: number;
  /** Another revision of a source counts by it. */
  readonly isRevision: boolean;
  /** Null until the plan has been recalculated after it. */
  readonly move: MoveDto | null;
}

export interface RevisionDto {
  readonly id: string;
  readonly sourceId: string;
  readonly number: number;
  readonly fileName: string;
  readonly state: 'counting' | 'waiting' | 'kept' | 'rejected';
  readonly elements: number;
  readonly matched: number;
  readonly schema: string;
  readonly lengthUnit: string;
  readonly findings: readonly Finding[];
  readonly geometryState: 'pending' | 'running' | 'done' | 'failed';
  readonly chunks: number;
  readonly createdAt: string;
}

export interface SourceDto {
  readonly id: string;
  readonly name: string;
  readonly kind: 'model';
  readonly revisions: readonly RevisionDto[];
}

export interface JobDto {
  readonly id: string;
  readonly projectId: string;
  readonly fileName: string;
  readonly state: 'queued' | 'running' | 'done' | 'failed' | 'stopped';
  readonly stage: string;
  readonly share: number;
  readonly problem: Problem | null;
  readonly revisionId: string | null;
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

/** Everything of a project that pages start from. */
export interface ProjectStateDto {
  readonly project: ProjectDto;
  readonly summary: PlanSummaryDto;
  readonly manifest: PlanManifestDto;
  readonly basis: Omit<Template, 'format' | 'name' | 'classifications'> & {
    readonly pins: readonly z.infer<typeof pinSchema>[];
  };
  /** What the project adds to its elements, by ElementKey, and what it says about materials and findings. */
  readonly layer: {
    readonly attributes: Readonly<Record<string, Readonly<Record<string, string | number | boolean>>>>;
    readonly finishes: Readonly<Record<string, Partial<RoomFinishes>>>;
    readonly wallFinishes: Readonly<Record<string, readonly WallFinish[]>>;
    readonly zones: Readonly<Record<string, readonly string[]>>;
    /** What the file has wrong and is said instead, by whom and when. */
    readonly facts: Readonly<Record<string, CorrectedFacts & { readonly by?: string; readonly at?: string }>>;
    readonly drawnRooms: Readonly<Record<string, DrawnRoom>>;
    readonly limits: readonly Limit[];
    readonly chosenFaces: Readonly<Record<string, Readonly<Record<string, readonly ChosenFace[]>>>>;
    /** Reasons by ElementKey. */
    readonly leftOut: Readonly<Record<string, string>>;
    readonly materials: readonly ProjectMaterial[];
  };
  /** Classifications of the book; UNIFORMAT II comes beside them. */
  readonly classifications: readonly Classification[];
  /** Reasons of accepted findings, by finding key. */
  readonly accepted: Readonly<Record<string, string>>;
  readonly views: Readonly<Record<string, TakeoffView>>;
  /** The shared book it stands on; null where it keeps its prices to itself. */
  readonly book:
    | (PinnedBook & {
        readonly name: string;
        readonly newest: number;
        /** Entries of the project's own, `kind/id`, and those of them that stand in place of the book's. */
        readonly own: readonly string[];
        readonly overrides: readonly string[];
        /** Entries of the book that the project does without. */
        readonly takenOut: readonly string[];
      })
    | null;
  /** Where the prices stand in the price sheets, by their names. */
  readonly priceSheets: Readonly<Record<string, SheetProfile>>;
  /** The orders as they are kept, for changing them; null where none was made yet. */
  readonly orders: Readonly<Record<'rules' | 'sections', readonly string[] | null>>;
  readonly sources: readonly SourceDto[];
  readonly jobs: readonly JobDto[];
}

export interface ElementStatesDto {
  readonly revisionId: string;
  readonly keys: readonly number[];
  /** Index into COMPLETENESS_STATES. */
  readonly states: readonly number[];
  /** In 1/10,000 of a minor unit. */
  readonly amounts: readonly number[];
}

export interface ChangedElementDto {
  readonly key: number;
  readonly globalId: string;
  readonly label: string;
  readonly what: 'came' | 'went' | 'changed';
  readonly quantities: Readonly<Record<string, readonly [number | null, number | null]>>;
  readonly attributes: Readonly<Record<string, readonly [string | null, string | null]>>;
  /** Move of its cost in minor units, rounded for itself. */
  readonly move: number;
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

export type PlanDto = PlanGroup;
export type ElementCostDto = ExplainedElement;

/** The drop folder of a project: its path, and what in it cannot be taken. */
export interface DropFolderDto {
  readonly path: string;
  readonly troubles: readonly { readonly name: string; readonly reason: string }[];
  /** Folders beside it that belong to no project in use. */
  readonly unknownFolders: readonly string[];
}

/** Messages of the event stream. Those of kind `change` carry the id of the change log, from which a stream can be resumed. */
export type EventDto =
  | { readonly kind: 'change'; readonly projectId: string; readonly change: ChangeDto }
  | { readonly kind: 'job'; readonly projectId: string; readonly job: JobDto }
  | {
      readonly kind: 'geometry';
      readonly projectId: string;
      readonly revisionId: string;
      readonly chunks: number;
      readonly state: RevisionDto['geometryState'];
    }
  | { readonly kind: 'sources'; readonly projectId: string }
  /** The list of projects is another: made, renamed, put away, brought back. */
  | { readonly kind: 'projects'; readonly projectId: string }
  /** The price folder holds other lists than before. */
  | { readonly kind: 'prices'; readonly projectId: null }
  /** More happened than is told one by one: everything is to be read again. */
  | { readonly kind: 'readAgain'; readonly projectId: null };

/** Body of an error answer, RFC 9457. */
export interface ProblemDto {
  readonly type: 'about:blank';
  readonly status: number;
  readonly title: string;
  readonly code: string;
  readonly detail: string;
  readonly remedy?: string;
  /** On a conflict: what others changed since. */
  readonly changes?: readonly ChangeDto[];
}

export const deskSchema = z.strictObject({
  bays: z.number(),
  storeyHeight: z.number(),
  outerWall: z.enum(['timber-clad', 'rendered']),
  partition: z.enum(['plain', 'acoustic']),
  windowHeight: z.number(),
  hasEndWindows: z.boolean(),
  rafterSpacing: z.number(),
  floorPanel: z.number(),
  changingFloor: z.string().max(60),
  changingWall: z.string().max(60),
  clubFloor: z.string().max(60),
  isRedrawn: z.boolean(),
});
