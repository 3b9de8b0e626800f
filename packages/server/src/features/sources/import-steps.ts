import { statSync } from 'node:fs';
import type { Problem } from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { type FileStore, isFileWhole } from '../../importers/file-store.ts';
import type { DrawingMessage, DrawnElement, ReadingMessage, ReadingOrder } from '../../importers/import-messages.ts';
import type { ReaderKeep } from '../../importers/reader-keep.ts';
import type { ChangeService } from '../changes/change-service.ts';
import type { JobRow } from '../jobs/job-repository.ts';
import { ImportRun, type Workers } from './import-run.ts';
import type { RevisionService } from './revision-service.ts';
import type { RevisionRow } from './source-repository.ts';

/** A run that can be ended before its end. */
export type Stoppable = Pick<ImportRun, 'stop'>;

/** What the life of a job gives its steps. */
export interface JobControl {
  readonly isStopped: () => boolean;
  /** Takes a run that is under way, so that it can be stopped. */
  readonly follow: (run: Stoppable) => void;
  readonly tell: (stage: string, share: number, revisionId: string | null) => void;
}

/** How the steps ended: done, or why not; null if the job was stopped. */
export type StepsEnd = { readonly problem: Problem | null } | null;

type Read = Extract<ReadingMessage, { kind: 'read' }>;
type Drawn = Extract<DrawingMessage, { kind: 'drawn' }>;

/**
 * The steps of an import: read and measure the file, store the revision and let it count, draw it. Each is skipped if it was done
 * before a stop. Reading and drawing have a thread each, one after the other: what one held is free before the next begins.
 */
export class ImportSteps {
  constructor(
    private readonly db: DbClient,
    private readonly store: FileStore,
    private readonly changes: ChangeService,
    private readonly revisions: RevisionService,
    private readonly keep: ReaderKeep,
  ) {}

  /** @param job one that has begun and knows its source */
  async run(job: JobRow, sourceId: string, control: JobControl): Promise<StepsEnd> {
    const { projectId } = job;
    // The revision of a job is called as the job is: stored twice, it is one.
    const revisionId = job.revisionId ?? job.id;
    let revision = await this.db.sources.findRevision(projectId, revisionId);
    if (revision) {
      await this.makeTableAgain(revision, control);
      await this.revisions.countIfItShould(revision, job.author);
      if (revision.geometryState === 'done' || control.isStopped())
        return control.isStopped() ? null : { problem: null };
    }
    const source = await this.db.sources.find(projectId, sourceId);
    if (source?.kind === 'list') return this.takeList(job, sourceId, revisionId, control);
    const read = await this.read(job, revision ? null : await this.findIdentity(projectId, sourceId, control), control);
    if (read === null || 'problem' in read) return read;
    // Where shapes are measured the picture goes first, so that nothing is unknown when the revision counts.
    const isPictureFirst = revision === null && (await this.changes.measuresShapes(projectId));
    const figures = read.figures;
    if (figures && !isPictureFirst) revision = await this.revisions.store(job, sourceId, revisionId, figures, null);
    const isShown = revision !== null;
    control.tell('Drawing', 0.6, isShown ? revisionId : null);
    const drawn = await this.draw(job, revisionId, read.drawn, isShown, control);
    if (drawn === null || 'problem' in drawn) return drawn;
    if (figures && isPictureFirst)
      revision = await this.revisions.store(job, sourceId, revisionId, figures, drawn.chunks);
    if (drawn.findings.length > 0) await this.revisions.addFindings(revision!, drawn.findings);
    await this.revisions.setGeometry(projectId, revisionId, 'done', drawn.chunks);
    return { problem: null };
  }

  /** A list has no picture: it is read, stored and counts. */
  private async takeList(job: JobRow, sourceId: string, revisionId: string, control: JobControl): Promise<StepsEnd> {
    const profile = await this.revisions.findListProfile(job.projectId, sourceId);
    if (!profile)
      return {
        problem: {
          code: 'list-columns-unknown',
          message: 'Nothing says which columns of this list hold what.',
          remedy: 'Bring the list under Sources and choose its columns.',
        },
      };
    const identity = await this.findIdentity(job.projectId, sourceId, control);
    const read = await this.readFile(job, 'list', { profile, identity, isPreview: false }, control);
    if (read === null || 'problem' in read) return read;
    await this.revisions.store(job, sourceId, revisionId, read.figures!, 0);
    return { problem: null };
  }

  /** What gives the elements of a source's next revision their identity. */
  async findIdentity(
    projectId: string,
    sourceId: string,
    control: JobControl,
  ): Promise<NonNullable<ReadingOrder['identity']>> {
    const before = await this.revisions.findBefore(projectId, sourceId);
    if (before) await this.makeTableAgain(before, control);
    const whole = before && (await this.db.sources.findRevision(projectId, before.id));
    const keys = (await this.revisions.listOf(projectId, sourceId))
      .map((r) => r.keysHash)
      .find((hash) => hash !== null);
    const project = await this.db.projects.find(projectId);
    return {
      beforePath: whole ? this.store.tablePath(whole.tableHash) : null,
      keysPath: keys ? this.store.keysPath(keys) : null,
      nextKey: project!.nextKey,
    };
  }

  /** Makes the table of a revision again if its file is damaged, with the keys its elements had. Errors: the file's own. */
  private async makeTableAgain(revision: RevisionRow, control: JobControl): Promise<void> {
    if (await isFileWhole(this.store.tablePath(revision.tableHash))) return;
    if (revision.keysHash === null)
      throw new Error('The table of the revision before is damaged, and the keys of its elements are not kept apart.');
    const project = await this.db.projects.find(revision.projectId);
    const keysPath = this.store.keysPath(revision.keysHash);
    const identity = { beforePath: null, keysPath, nextKey: project!.nextKey };
    const source = await this.db.sources.find(revision.projectId, revision.sourceId);
    const profile =
      source?.kind === 'list' ? await this.revisions.findListProfile(revision.projectId, source.id) : null;
    const read = profile
      ? await this.readFile(revision, 'list', { profile, identity, isPreview: false }, control)
      : await this.read(revision, identity, control);
    if (read === null) return;
    if ('problem' in read) throw new Error(read.problem!.message);
    // The columns of a list may have been chosen anew since: then it would become another table.
    if (profile && read.figures!.tableHash !== revision.tableHash)
      throw new Error(
        `The lines of ${revision.fileName} are damaged, and its columns were others. Bring the list again.`,
      );
    await this.revisions.replaceTable(revision, read.figures!);
  }

  private read(
    of: Pick<JobRow, 'fileHash'>,
    identity: ReadingOrder['identity'],
    control: JobControl,
  ): Promise<Read | StepsEnd> {
    return this.readFile(of, 'reading', { identity }, control);
  }

  private async readFile<W extends 'reading' | 'list'>(
    of: Pick<JobRow, 'fileHash'>,
    kind: W,
    order: Omit<Workers[W]['order'], 'filePath' | 'storeRoot'>,
    control: JobControl,
  ): Promise<Read | StepsEnd> {
    const filePath = this.store.originalPath(of.fileHash);
    let end: Read | StepsEnd = null;
    const whole = { filePath, storeRoot: this.store.root, ...order } as Workers[W]['order'];
    const run = new ImportRun<'reading' | 'list'>(this.keep, kind, whole, statSync(filePath).size, async (message) => {
      if (message.kind === 'progress') control.tell(message.stage, message.share, null);
      else end = message.kind === 'failed' ? { problem: message.problem } : message;
    });
    await this.end(run, control);
    return this.judge(end, control);
  }

  private async draw(
    job: JobRow,
    revisionId: string,
    drawn: readonly DrawnElement[],
    isShown: boolean,
    control: JobControl,
  ): Promise<Drawn | StepsEnd> {
    const filePath = this.store.originalPath(job.fileHash);
    let end: Drawn | StepsEnd = null;
    const run = new ImportRun(
      this.keep,
      'drawing',
      { filePath, storeRoot: this.store.root, revisionId, drawn },
      statSync(filePath).size,
      async (message) => {
        if (message.kind === 'progress') control.tell(message.stage, message.share, isShown ? revisionId : null);
        else if (message.kind === 'failed') end = { problem: message.problem };
        else if (message.kind === 'drawn') end = message;
        else if (isShown && !control.isStopped())
          await this.revisions.setGeometry(job.projectId, revisionId, 'running', message.chunks);
      },
    );
    await this.end(run, control);
    return this.judge(end, control);
  }

  private async end(run: Pick<ImportRun, 'stop' | 'done'>, control: JobControl): Promise<void> {
    control.follow(run);
    // It may have been stopped while it was made ready.
    if (control.isStopped()) await run.stop();
    await run.done;
  }

  /** What a run came to. Throws if it came to nothing, without having been stopped. */
  private judge<T>(end: T | null, control: JobControl): T | null {
    if (control.isStopped()) return null;
    if (end === null) throw new Error('The reader ended without a word.');
    return end;
  }
}
