import { randomUUID } from 'node:crypto';
import { type CheckedRevision, type Finding, type ListProfile, readContents, type SourceDto } from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import type { ImportFigures } from '../../importers/import-messages.ts';
import type { ChangeService } from '../changes/change-service.ts';
import type { EventHub } from '../events/event-hub.ts';
import type { JobRow } from '../jobs/job-repository.ts';
import { fileStem } from './file-stem.ts';
import type { RevisionRow } from './source-repository.ts';

/** Version of the reading and measuring code; kept with every revision. */
export const READER_VERSION = '3';

/** A source with what is found in its revisions. */
export interface CheckedSource extends Omit<SourceDto, 'revisions'> {
  readonly revisions: readonly CheckedRevision[];
}

/** Storing revisions, and which of them counts. Each of its steps can be done again without doing more. */
export class RevisionService {
  constructor(
    private readonly db: DbClient,
    private readonly changes: ChangeService,
    private readonly events: EventHub,
  ) {}

  /** The source a file without one belongs to: the one its name says, else a new one. */
  async chooseSource(job: JobRow): Promise<string> {
    const stem = fileStem(job.fileName);
    const named = (await this.db.sources.list(job.projectId)).find((s) => s.name === stem && s.kind === 'model');
    return named?.id ?? (await this.db.sources.create({ id: randomUUID(), projectId: job.projectId, name: stem })).id;
  }

  /** Where the lines stand in the lists of a source; null if that was never said. */
  async findListProfile(projectId: string, sourceId: string): Promise<ListProfile | null> {
    const { listProfiles } = readContents(await this.db.projects.listEntries(projectId), '');
    return listProfiles[sourceId] ?? null;
  }

  /** Revisions of a source, newest first. */
  async listOf(projectId: string, sourceId: string): Promise<RevisionRow[]> {
    return (await this.db.sources.listRevisions(projectId)).filter((r) => r.sourceId === sourceId);
  }

  /** The revision that a new one is matched with: the one that counts, else the newest that was not rejected. */
  async findBefore(projectId: string, sourceId: string): Promise<RevisionRow | null> {
    const { counting } = readContents(await this.db.projects.listEntries(projectId), '');
    const revisions = await this.listOf(projectId, sourceId);
    return revisions.find((r) => r.id === counting.get(sourceId)) ?? revisions.find((r) => r.state === 'ready') ?? null;
  }

  /** A revision that was stored before a stop, but not made to count, counts now, unless a newer one came. */
  async countIfItShould(revision: RevisionRow, author: string): Promise<void> {
    if (revision.state !== 'ready') return;
    const of = await this.listOf(revision.projectId, revision.sourceId);
    if (of.some((r) => r.number > revision.number)) return;
    if (!(await this.db.changes.hasCounted(revision.projectId, revision.id))) await this.letCount(revision, author);
  }

  /**
   * Stores a measured revision. It counts at once, unless fewer than half of the elements are known from the one before.
   * @param chunks how many chunks its picture has, if that is drawn already
   */
  async store(
    job: JobRow,
    sourceId: string,
    revisionId: string,
    f: ImportFigures,
    chunks: number | null,
  ): Promise<RevisionRow> {
    const before = await this.findBefore(job.projectId, sourceId);
    // One that is hardly the same building, or older than the one that counts, is asked about.
    const isOlder = f.fileTime !== null && before?.fileTime != null && f.fileTime < before.fileTime;
    const isStrange = f.matched * 2 < f.known || isOlder;
    const revision = await this.db.sources.addRevision(
      {
        id: revisionId,
        projectId: job.projectId,
        sourceId,
        fileName: job.fileName,
        fileHash: job.fileHash,
        tableHash: f.tableHash,
        keysHash: f.keysHash,
        readerVersion: READER_VERSION,
        state: isStrange ? 'waiting' : 'ready',
        elements: f.elements,
        matched: f.matched,
        schema: f.schema,
        lengthUnit: f.lengthUnit,
        fileTime: f.fileTime,
        findings: [...f.findings],
        geometryState: chunks === null ? 'running' : 'done',
        chunks: chunks ?? 0,
      },
      f.nextKey,
      job.id,
    );
    if (!isStrange) await this.letCount(revision, job.author);
    this.events.publish({ kind: 'sources', projectId: job.projectId });
    return revision;
  }

  /** Gives a revision a table that was made again from its file; the plan stands on it from now on. */
  async replaceTable(revision: RevisionRow, made: ImportFigures): Promise<void> {
    await this.db.sources.setTable(revision, made, READER_VERSION);
    this.changes.forgetPlan(revision.projectId);
    this.events.publish({ kind: 'sources', projectId: revision.projectId });
  }

  /** Makes a revision the one that counts for its source. */
  async letCount(revision: RevisionRow, author: string): Promise<void> {
    const project = await this.db.projects.find(revision.projectId);
    const { counting } = readContents(await this.db.projects.listEntries(revision.projectId), '');
    const from = counting.get(revision.sourceId);
    const body = { revision: revision.id };
    const entry = { kind: 'counting', id: revision.sourceId };
    const diff =
      from === undefined
        ? { added: [{ ...entry, body }], updated: [], removed: [] }
        : { added: [], updated: [{ ...entry, from: { revision: from }, to: body }], removed: [] };
    if (revision.state !== 'ready') await this.db.sources.setState(revision.id, 'ready');
    await this.changes.commit(revision.projectId, {
      base: project!.seq,
      author,
      cause: `Revision ${revision.number}, ${revision.fileName}`,
      diff,
    });
  }

  /** Sources of a project with their revisions, newest first. */
  async listSources(projectId: string, counting: ReadonlyMap<string, string>): Promise<CheckedSource[]> {
    const revisions = await this.db.sources.listRevisions(projectId);
    return (await this.db.sources.list(projectId)).map(
      (source): CheckedSource => ({
        id: source.id,
        name: source.name,
        kind: source.kind,
        revisions: revisions.filter((r) => r.sourceId === source.id).map((r) => toRevisionDto(r, counting)),
      }),
    );
  }

  /** Findings of a revision's picture beside those it has; the picture may have been drawn before. */
  async addFindings(revision: RevisionRow, drawn: readonly Finding[]): Promise<void> {
    const fresh = new Set(drawn.map((f) => JSON.stringify(f)));
    const known = revision.findings.filter((f) => !fresh.has(JSON.stringify(f)));
    await this.db.sources.setFindings(revision.id, [...known, ...drawn]);
  }

  /** How far the picture of a revision is. Where the project measures shapes, a whole one is measured. */
  async setGeometry(
    projectId: string,
    revisionId: string,
    state: RevisionRow['geometryState'],
    chunks: number,
  ): Promise<void> {
    await this.db.sources.setGeometry(revisionId, state, chunks);
    if (state === 'done') await this.changes.measureAgain(projectId);
    this.events.publish({ kind: 'geometry', projectId, revisionId, chunks, state });
  }
}

function toRevisionDto(r: RevisionRow, counting: ReadonlyMap<string, string>): CheckedRevision {
  // What only the server needs stays here.
  const { projectId: _p, fileHash: _f, tableHash: _t, keysHash: _k, readerVersion: _r, ...shown } = r;
  return {
    ...shown,
    state: counting.get(r.sourceId) === r.id ? 'counting' : r.state === 'ready' ? 'kept' : r.state,
  };
}
