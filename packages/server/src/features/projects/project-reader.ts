import {
  bundleFindings,
  type CheckedRevision,
  countOpenLines,
  type Entry,
  type EntrySlice,
  type EntrySliceDto,
  type Finding,
  type FindingsPageDto,
  foldName,
  keepConsequential,
  LIVE_CODES,
  type ListedFinding,
  listProjectFindings,
  listTouchedEntries,
  type ProjectSourcesDto,
  type ProjectSummaryDto,
  sliceOfKind,
  sumOpenStake,
  TAKEN_OUT,
} from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import type { CheckedFindings } from '../../engine/plan-messages.ts';
import type { BookService } from '../books/book-service.ts';
import { BookShelf } from '../books/book-shelf.ts';
import type { ChangeService } from '../changes/change-service.ts';
import type { ImportService } from '../sources/import-service.ts';
import type { RevisionService } from '../sources/revision-service.ts';
import { toProjectDto } from './project-repository.ts';
import { type ReadProject, readProject } from './read-project.ts';
import { requireProject } from './require-project.ts';

/** Entries that a slice is brought up to date by at most; above it is read whole. */
const MOST_CHANGED = 2000;

/** A revision with what the checks find as the project sees it, without findings that nothing is priced by. */
function replaceChecked(revision: CheckedRevision, checked: readonly CheckedFindings[]): CheckedRevision {
  const own = checked.find((c) => c.revisionId === revision.id);
  if (!own) return revision;
  const findings = [...revision.findings.filter((f) => !LIVE_CODES.has(f.code)), ...own.findings];
  return { ...revision, findings: own.consequences ? keepConsequential(findings, own.consequences) : findings };
}

/** What pages read of a project, part by part: each is small, or is brought up to date by what changed in it. */
export class ProjectReader {
  constructor(
    private readonly db: DbClient,
    private readonly shelf: BookShelf,
    private readonly books: BookService,
    private readonly changes: ChangeService,
    private readonly revisions: RevisionService,
    private readonly imports: ImportService,
  ) {}

  /** What every page tells. Errors: 404. */
  async summarize(projectId: string): Promise<ProjectSummaryDto> {
    const read = await readProject(this.db, this.shelf, projectId);
    const [{ summary, manifest }, found] = await Promise.all([
      this.changes.summarize(projectId),
      this.listFindings(read),
    ]);
    const book = await this.books.describe(read.own);
    return {
      project: toProjectDto(read.project),
      summary,
      manifest,
      book,
      openFindings: countOpenLines(found),
      openStake: sumOpenStake(found),
    };
  }

  /**
   * Entries of a slice with those of the book: all, or those that changed since a state.
   * @param since the state that is held; null to read all. Errors: 404
   */
  async readSlice(projectId: string, slice: EntrySlice, since: number | null): Promise<EntrySliceDto> {
    // The number first: entries that are newer than it come once more, none is missed.
    const { seq } = await requireProject(this.db, projectId);
    const own = await this.db.projects.listEntries(projectId);
    const touched = since === null || since > seq ? null : await this.listTouched(projectId, since, own);
    if (touched?.size === 0) return { seq, isWhole: false, entries: [], gone: [] };
    const entries = (await this.shelf.complete(own)).filter((e) => sliceOfKind(e.kind) === slice);
    if (!touched) return { seq, isWhole: true, entries, gone: [] };
    const changed = entries.filter((e) => touched.has(`${e.kind}/${e.id}`));
    const there = new Set(changed.map((e) => `${e.kind}/${e.id}`));
    const gone = [...touched].filter((name) => sliceOfKind(kindOf(name)) === slice && !there.has(name));
    return { seq, isWhole: false, entries: changed, gone };
  }

  /** Names of the entries that may be otherwise than at a state; null if they are too many to be told one by one. */
  private async listTouched(projectId: string, since: number, own: readonly Entry[]): Promise<Set<string> | null> {
    const changes = await this.db.changes.listDiffsSince(projectId, since, MOST_CHANGED);
    const touched = changes?.flatMap((c) => listTouchedEntries(c.diff));
    if (!touched || touched.some((name) => kindOf(name) === 'book')) return null;
    const names = new Set(touched);
    for (const name of touched) if (kindOf(name) === TAKEN_OUT) names.add(name.slice(TAKEN_OUT.length + 1));
    const pinned = BookShelf.pinnedOf(own);
    if (!pinned || names.size === 0) return names;
    // What of the book such an entry stands in place of may be written otherwise.
    const folded = new Set([...names].map(foldName));
    for (const { kind, id } of await this.shelf.read(pinned))
      if (folded.has(foldName(`${kind}/${id}`))) names.add(`${kind}/${id}`);
    return names;
  }

  /** Sources with their revisions and the work on them; findings are told by the number of their lines. Errors: 404. */
  async readSources(projectId: string): Promise<ProjectSourcesDto> {
    const read = await readProject(this.db, this.shelf, projectId);
    const [sources, jobs] = await Promise.all([this.listSources(read), this.db.jobs.list(projectId)]);
    return {
      sources: sources.map((s) => ({
        ...s,
        revisions: s.revisions.map(({ findings, ...told }) => ({
          ...told,
          findingLines: bundleFindings(findings).length,
        })),
      })),
      jobs: jobs.map((j) => this.imports.toDto(j)),
    };
  }

  /** Findings of the revisions that count or wait, a page of them. Errors: 404. */
  async readFindings(projectId: string, from: number, limit: number): Promise<FindingsPageDto> {
    const found = await this.listFindings(await readProject(this.db, this.shelf, projectId));
    return { total: found.length, findings: found.slice(from, from + limit) };
  }

  /** Findings of one revision as the project sees it. Errors: 404. */
  async readRevisionFindings(projectId: string, revisionId: string): Promise<readonly Finding[] | null> {
    const sources = await this.listSources(await readProject(this.db, this.shelf, projectId));
    return sources.flatMap((s) => s.revisions).find((r) => r.id === revisionId)?.findings ?? null;
  }

  private async listSources({ project, contents }: ReadProject) {
    const [{ checked }, sources] = await Promise.all([
      this.changes.summarize(project.id),
      this.revisions.listSources(project.id, contents.counting),
    ]);
    return sources.map((s) => ({ ...s, revisions: s.revisions.map((r) => replaceChecked(r, checked)) }));
  }

  private async listFindings(read: ReadProject): Promise<ListedFinding[]> {
    const sources = await this.listSources(read);
    const { accepted, layer } = read.contents;
    return listProjectFindings(
      sources.flatMap((s) => s.revisions),
      accepted,
      layer.materials,
    );
  }
}

const kindOf = (name: string) => name.slice(0, name.indexOf('/'));
