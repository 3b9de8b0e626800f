import { compareEntries, type Entry, type EntryDiff } from '../changes/entry-diff.ts';
import type { Finding } from '../checks/finding.ts';
import type { EntryKind } from './entries.ts';
import type { PlanManifestDto, PlanSummaryDto } from './plan.ts';
import type { ProjectBookDto, ProjectDto } from './project.ts';
import type { JobDto, SourceDto } from './source.ts';

/**
 * Parts of a project's entries that pages read each for itself: its prices, what decides about them, what it adds to its elements, its
 * settings with what counts, and what no plan depends on.
 */
export const ENTRY_SLICES = ['book', 'rules', 'layer', 'settings', 'notes'] as const;
export type EntrySlice = (typeof ENTRY_SLICES)[number];

const SLICES: Record<EntryKind, EntrySlice> = {
  item: 'book',
  assembly: 'book',
  value: 'book',
  scale: 'book',
  classification: 'book',
  band: 'book',
  book: 'book',
  takenOut: 'book',
  rule: 'rules',
  pin: 'rules',
  section: 'rules',
  scope: 'rules',
  expected: 'rules',
  order: 'rules',
  swap: 'rules',
  target: 'rules',
  checked: 'rules',
  attributes: 'layer',
  finishes: 'layer',
  wallFinishes: 'layer',
  facts: 'layer',
  given: 'layer',
  zones: 'layer',
  material: 'layer',
  drawnRoom: 'layer',
  limit: 'layer',
  chosenFaces: 'layer',
  leftOut: 'layer',
  allowance: 'layer',
  identity: 'layer',
  settings: 'settings',
  counting: 'settings',
  accepted: 'notes',
  listProfile: 'notes',
  priceSheet: 'notes',
  view: 'notes',
  note: 'notes',
  planView: 'notes',
  baseline: 'notes',
  option: 'notes',
  difference: 'notes',
};

/** The slice that an entry of this kind stands in. */
export const sliceOfKind = (kind: string): EntrySlice => SLICES[kind as EntryKind] ?? 'notes';

/** The slices that a change of these entries touches. */
export function listSlices(entries: Iterable<Pick<Entry, 'kind'>>): EntrySlice[] {
  const found = new Set<EntrySlice>();
  for (const { kind } of entries) found.add(sliceOfKind(kind));
  return ENTRY_SLICES.filter((slice) => found.has(slice));
}

/** The slices that a change touches. */
export const listDiffSlices = ({ added, updated, removed }: EntryDiff): EntrySlice[] =>
  listSlices([...added, ...updated, ...removed]);

/**
 * Entries of a slice, the book's among them: all of it, or what changed since the state that was asked for.
 */
export interface EntrySliceDto {
  /** The state of the project that this brings the slice up to. */
  readonly seq: number;
  readonly isWhole: boolean;
  /** Entries that are there now, in place of those of the same kind and id. */
  readonly entries: readonly Entry[];
  /** `kind/id` of those that are not there any more. */
  readonly gone: readonly string[];
}

/** A slice as it is held: what it is up to, and its entries by `kind/id`. */
export interface HeldSlice {
  readonly seq: number;
  readonly entries: ReadonlyMap<string, Entry>;
}

/** Brings a held slice up to date. The entries that did not change stay the same objects; the order is that of kind and id. */
export function mergeSlice(held: HeldSlice | undefined, came: EntrySliceDto): HeldSlice {
  const before = came.isWhole || !held ? new Map<string, Entry>() : held.entries;
  const { seq } = came;
  if (before === held?.entries && came.entries.length + came.gone.length === 0) return { seq, entries: held.entries };
  const entries = new Map(before);
  for (const name of came.gone) entries.delete(name);
  let isOrdered = before.size > 0;
  for (const entry of came.entries) {
    const name = `${entry.kind}/${entry.id}`;
    isOrdered &&= entries.has(name);
    entries.set(name, entry);
  }
  return { seq, entries: isOrdered ? entries : new Map([...entries].sort(([, a], [, b]) => compareEntries(a, b))) };
}

/** What a page tells of a project on every page: its name, its total, what the plan stands on. */
export interface ProjectSummaryDto {
  readonly project: ProjectDto;
  readonly summary: PlanSummaryDto;
  readonly manifest: PlanManifestDto;
  readonly book: ProjectBookDto | null;
  /** Lines of findings that nobody has accepted yet. */
  readonly openFindings: number;
  /** Money at stake in them, as far as it is known, in minor units. */
  readonly openStake: number;
}

/** Sources with their revisions, what is known of each finding left out, and the work on them. */
export interface ProjectSourcesDto {
  readonly sources: readonly SourceDto[];
  readonly jobs: readonly JobDto[];
}

/** A finding of a revision, with what its acceptance hangs on. */
export interface ListedFinding {
  readonly finding: Finding;
  readonly key: string;
  readonly revisionId: string;
  /** Reason it was accepted for; null while it is open. */
  readonly accepted: string | null;
}

/** One page of the findings of the revisions that count or wait. */
export interface FindingsPageDto {
  readonly total: number;
  readonly findings: readonly ListedFinding[];
}
