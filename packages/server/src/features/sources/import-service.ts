import { randomUUID } from 'node:crypto';
import { existsSync, statSync } from 'node:fs';
import type { Finding, JobDto, Problem, RevisionDto, SourceDto } from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound } from '../../http/http-problem.ts';
import type { FileStore } from '../../importers/file-store.ts';
import type { ImportFigures, ImportMessage, ImportOrder } from '../../importers/import-messages.ts';
import type { ChangeService } from '../changes/change-service.ts';
import type { EventHub } from '../events/event-hub.ts';
import type { JobRow } from '../jobs/job-repository.ts';
import { readContents } from '../projects/read-basis.ts';
import { SerialQueue } from '../projects/serial-queue.ts';
import { fileStem } from './file-stem.ts';
import { ImportRun, ImportStalled } from './import-run.ts';
import type { RevisionRow } from './source-repository.ts';

/** Version of the reading and measuring code; kept with every revision. */
export const READER_VERSION = '3';
const MOST_AT_ONCE = 2;
/** Times a job is begun before it is given up: a file that ends the server must not end every next one. */
const MOST_ATTEMPTS = 3;

const STOPPED: Problem = {
  code: 'import-stopped',
  message: 'Stopped by you.',
  remedy: 'Start it again when you want it.',
};

/**
 * Takes files into projects: a job per file, figures first, then the picture. Jobs of one project run one after another. A job that
 * fails fails alone, with its reason; each of its steps can be done again without doing more.
 */
export class ImportService {
  private readonly queue = new SerialQueue();
  private readonly running = new Map<string, ImportRun>();
  private readonly stopped = new Set<string>();
  private readonly live = new Map<string, JobDto>();
  private slots = MOST_AT_ONCE;
  private readonly waiting: (() => void)[] = [];
  private isClosing = false;

  constructor(
    private readonly db: DbClient,
    private readonly store: FileStore,
    private readonly changes: ChangeService,
    private readonly events: EventHub,
    private readonly log: (error: unknown) => void,
  ) {}

  /**
   * Queues a file that lies among the originals. One whose picture is not whole goes on with it. Errors: 404 for a source that is not
   * there, 409 if the project has this very file already.
   */
  async enqueue(order: {
    projectId: string;
    fileName: string;
    fileHash: string;
    author: string;
    sourceId: string | null;
  }): Promise<JobDto> {
    if (order.sourceId !== null && !(await this.db.sources.find(order.projectId, order.sourceId)))
      throw notFound('source');
    const jobs = await this.db.jobs.listByFile(order.projectId, order.fileHash);
    if (jobs.some((j) => j.state === 'queued' || j.state === 'running'))
      throw new HttpProblem(409, {
        code: 'file-under-way',
        message: 'This very file is being read already.',
        remedy: 'Wait until it is done.',
      });
    const known = await this.db.sources.findByFile(order.projectId, order.fileHash);
    if (known?.geometryState === 'failed') return this.drawAgain(known, order.author);
    if (known)
      throw new HttpProblem(409, {
        code: 'file-known',
        message: `This very file is revision ${known.number} (${known.fileName}) already.`,
        remedy: 'Bring a newer one, or let that revision count again under Sources.',
      });
    const job = await this.db.jobs.create({ id: randomUUID(), ...order, fileName: order.fileName.slice(-200) });
    this.start(job);
    return this.publish(job);
  }

  /** Draws a revision whose picture is not whole. Errors: 409 if it is, or is being drawn; 404 if its file is gone. */
  async drawAgain(revision: RevisionRow, author: string): Promise<JobDto> {
    const { id, projectId, sourceId, fileName, fileHash } = revision;
    if (!existsSync(this.store.originalPath(fileHash))) throw notFound('file of this revision');
    const jobs = await this.db.jobs.listByFile(projectId, fileHash);
    if (revision.geometryState === 'done' || jobs.some((j) => j.state === 'queued' || j.state === 'running'))
      throw new HttpProblem(409, {
        code: 'picture-there',
        message: revision.geometryState === 'done' ? 'Its picture is there.' : 'It is being drawn already.',
      });
    const made = await this.db.jobs.create({ id: randomUUID(), projectId, sourceId, fileName, fileHash, author });
    const job = await this.db.jobs.update(made.id, { revisionId: id });
    await this.setGeometry(projectId, id, 'running', 0);
    this.start(job);
    return this.publish(job);
  }

  /** Starts a job again that was stopped or failed. Errors: 404, 409 if it is under way or done, or its file is gone. */
  async startAgain(projectId: string, jobId: string): Promise<JobDto> {
    const job = await this.db.jobs.find(jobId);
    if (job?.projectId !== projectId) throw notFound('import');
    if (job.state !== 'stopped' && job.state !== 'failed')
      throw new HttpProblem(409, { code: 'import-under-way', message: 'This import is under way, or done.' });
    const others = await this.db.jobs.listByFile(projectId, job.fileHash);
    if (others.some((j) => j.state === 'queued' || j.state === 'running' || j.state === 'done'))
      throw new HttpProblem(409, { code: 'file-known', message: 'This very file was brought again since.' });
    if (!existsSync(this.store.originalPath(job.fileHash)))
      throw new HttpProblem(409, {
        code: 'import-cut-off',
        message: 'The file was never stored whole.',
        remedy: 'Bring it again.',
      });
    this.stopped.delete(jobId);
    const queued = await this.db.jobs.requeue(jobId);
    this.start(queued);
    return this.publish(queued);
  }

  /** Goes on with jobs that a stop of the server cut off; one that cannot be gone on with is failed, and stops no other. */
  async resume(): Promise<void> {
    for (const job of await this.db.jobs.listUnfinished()) {
      try {
        if (job.attempts >= MOST_ATTEMPTS)
          await this.finish(job, 'failed', {
            code: 'import-given-up',
            message: `It was begun ${job.attempts} times and never came to an end.`,
            remedy: 'Look at the file, or start it again.',
          });
        else if (existsSync(this.store.originalPath(job.fileHash))) this.start(job);
        else
          await this.finish(job, 'failed', {
            code: 'import-cut-off',
            message: 'The import was cut off before the file was stored.',
            remedy: 'Bring the file again.',
          });
      } catch (error) {
        this.log(error);
      }
    }
  }

  /** Stops a job; figures that are stored already stay. */
  async stop(projectId: string, jobId: string): Promise<JobDto> {
    const job = await this.db.jobs.find(jobId);
    if (job?.projectId !== projectId) throw notFound('import');
    if (job.state !== 'queued' && job.state !== 'running') return this.toDto(job);
    this.stopped.add(jobId);
    await this.running.get(jobId)?.stop();
    return this.toDto(await this.finish(job, 'stopped', STOPPED));
  }

  async close(): Promise<void> {
    this.isClosing = true;
    // An end that was meant is no failed try.
    const jobs = [...this.running.keys()];
    await Promise.all([...this.running.values()].map((run) => run.stop()));
    for (const id of jobs) await this.db.jobs.forgive(id).catch(this.log);
  }

  /** A job with how far it is at this moment. */
  toDto(row: JobRow): JobDto {
    const { id, projectId, fileName, state, stage, share, problem, revisionId } = row;
    return (
      (state === 'running' && this.live.get(id)) || {
        id,
        projectId,
        fileName,
        state,
        stage,
        share,
        problem: problem ?? null,
        revisionId,
      }
    );
  }

  private publish(row: JobRow): JobDto {
    const job = this.toDto(row);
    this.events.publish({ kind: 'job', projectId: job.projectId, job });
    return job;
  }

  private start(job: JobRow): void {
    const work = async () => {
      await this.takeSlot();
      try {
        if (!this.stopped.has(job.id) && !this.isClosing) await this.run(job);
      } catch (error) {
        await this.fail(job, error);
      } finally {
        this.running.delete(job.id);
        this.live.delete(job.id);
        this.freeSlot();
      }
    };
    this.queue.run(job.projectId, work).catch(this.log);
  }

  /** Says why a job failed. If even that cannot be stored, the next start of the server goes on with it. */
  private async fail(job: JobRow, error: unknown): Promise<void> {
    // A run that was ended on purpose has said so already; at the end of the server it is gone on with by the next.
    if (this.stopped.has(job.id) || this.isClosing) return;
    this.log(error);
    const message = error instanceof Error ? error.message : String(error);
    const problem: Problem =
      error instanceof ImportStalled
        ? { code: 'import-stalled', message, remedy: 'The file may be damaged: export it again.' }
        : { code: 'import-failed', message, remedy: 'Start it again; if it stays, send us the file.' };
    await this.finish(job, 'failed', problem).catch(this.log);
  }

  private async takeSlot(): Promise<void> {
    if (this.slots > 0) this.slots--;
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
  }

  private freeSlot(): void {
    const next = this.waiting.shift();
    if (next) next();
    else this.slots++;
  }

  private async finish(job: JobRow, state: JobRow['state'], problem: Problem | null): Promise<JobRow> {
    this.live.delete(job.id);
    const row = await this.db.jobs.update(job.id, {
      state,
      problem,
      ...(state === 'done' ? { share: 1, stage: 'Done' } : {}),
    });
    // A picture that is not drawn any more is not under way.
    const revision = row.revisionId ? await this.db.sources.findRevision(row.projectId, row.revisionId) : null;
    if (state !== 'done' && revision?.geometryState === 'running')
      await this.setGeometry(row.projectId, revision.id, 'failed', revision.chunks);
    this.publish(row);
    return row;
  }

  private async run(queued: JobRow): Promise<void> {
    const project = await this.db.projects.find(queued.projectId);
    if (!project) return;
    const job = await this.db.jobs.begin(queued.id);
    // The revision of a job is called as the job is: stored twice, it is one.
    const revisionId = job.revisionId ?? job.id;
    let revision = await this.db.sources.findRevision(job.projectId, revisionId);
    const sourceId = revision?.sourceId ?? job.sourceId ?? (await this.chooseSource(job));
    this.publish(await this.db.jobs.update(job.id, { sourceId }));
    if (revision) await this.countIfItShould(revision, job.author);
    const before = await this.findBefore(job.projectId, sourceId);
    const filePath = this.store.originalPath(job.fileHash);
    const order: ImportOrder = {
      filePath,
      storeRoot: this.store.root,
      beforePath: before ? this.store.tablePath(before.tableHash) : null,
      nextKey: project.nextKey,
      revisionId,
      pictureOf: revision?.id ?? null,
      isPictureFirst: await this.changes.measuresShapes(job.projectId),
    };
    const handle = async (message: ImportMessage): Promise<void> => {
      if (this.stopped.has(job.id)) return;
      if (message.kind === 'progress') this.progress(job, revision?.id ?? null, message.stage, message.share);
      else if (message.kind === 'figures') {
        revision = await this.storeFigures(job, sourceId, revisionId, message.figures);
        await this.db.jobs.update(job.id, { stage: 'Drawing', share: 0.6 });
      } else if (message.kind === 'chunk') await this.setGeometry(job.projectId, revisionId, 'running', message.chunks);
      else if (message.kind === 'done') {
        if (message.findings.length > 0 && revision)
          await this.db.sources.setFindings(revisionId, joinFindings(revision.findings, message.findings));
        await this.setGeometry(job.projectId, revisionId, 'done', message.chunks);
        await this.finish(job, 'done', null);
      } else await this.finish(job, 'failed', message.problem);
    };
    const run = new ImportRun(order, statSync(filePath).size, handle);
    this.running.set(job.id, run);
    // It may have been stopped while it was made ready.
    if (this.stopped.has(job.id)) await run.stop();
    await run.done;
    const ended = await this.db.jobs.find(job.id);
    if (ended?.state === 'running') throw new Error('The reader ended without a word.');
  }

  /** A revision that was stored before a stop, but not made to count, counts now, unless a newer one came. */
  private async countIfItShould(revision: RevisionRow, author: string): Promise<void> {
    if (revision.state !== 'ready') return;
    const newer = (await this.db.sources.listRevisions(revision.projectId)).some(
      (r) => r.sourceId === revision.sourceId && r.number > revision.number,
    );
    if (!newer && !(await this.db.changes.hasCounted(revision.projectId, revision.id)))
      await this.letCount(revision, author);
  }

  private progress(job: JobRow, revisionId: string | null, stage: string, share: number): void {
    const dto: JobDto = {
      id: job.id,
      projectId: job.projectId,
      fileName: job.fileName,
      state: 'running',
      stage,
      share,
      problem: null,
      revisionId,
    };
    this.live.set(job.id, dto);
    this.events.publish({ kind: 'job', projectId: job.projectId, job: dto });
  }

  private async setGeometry(
    projectId: string,
    revisionId: string,
    state: RevisionRow['geometryState'],
    chunks: number,
  ): Promise<void> {
    await this.db.sources.setGeometry(revisionId, state, chunks);
    if (state === 'done') await this.changes.measureAgain(projectId);
    this.events.publish({ kind: 'geometry', projectId, revisionId, chunks, state });
  }

  /** The source a file without one belongs to: the one its name says, else the only one, else a new one. */
  private async chooseSource(job: JobRow): Promise<string> {
    const sources = await this.db.sources.list(job.projectId);
    const stem = fileStem(job.fileName);
    const named = sources.find((s) => s.name === stem);
    if (named) return named.id;
    return (await this.db.sources.create({ id: randomUUID(), projectId: job.projectId, name: stem })).id;
  }

  /** The revision that a new one is matched with: the one that counts, else the newest that was not rejected. */
  private async findBefore(projectId: string, sourceId: string): Promise<RevisionRow | null> {
    const { counting } = readContents(await this.db.projects.listEntries(projectId), '');
    const revisions = (await this.db.sources.listRevisions(projectId)).filter((r) => r.sourceId === sourceId);
    return revisions.find((r) => r.id === counting.get(sourceId)) ?? revisions.find((r) => r.state === 'ready') ?? null;
  }

  /** Stores a measured revision. It counts at once, unless fewer than half of the elements are known from the one before. */
  private async storeFigures(
    job: JobRow,
    sourceId: string,
    revisionId: string,
    f: ImportFigures,
  ): Promise<RevisionRow> {
    const isStrange = f.matched * 2 < f.known;
    const revision = await this.db.sources.addRevision(
      {
        id: revisionId,
        projectId: job.projectId,
        sourceId,
        fileName: job.fileName,
        fileHash: job.fileHash,
        tableHash: f.tableHash,
        readerVersion: READER_VERSION,
        state: isStrange ? 'waiting' : 'ready',
        elements: f.elements,
        matched: f.matched,
        schema: f.schema,
        lengthUnit: f.lengthUnit,
        findings: [...f.findings],
        geometryState: f.chunks === null ? 'running' : 'done',
        chunks: f.chunks ?? 0,
      },
      f.nextKey,
      job.id,
    );
    if (!isStrange) await this.letCount(revision, job.author);
    this.events.publish({ kind: 'sources', projectId: job.projectId });
    return revision;
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
  async listSources(projectId: string, counting: ReadonlyMap<string, string>): Promise<SourceDto[]> {
    const revisions = await this.db.sources.listRevisions(projectId);
    return (await this.db.sources.list(projectId)).map(
      (source): SourceDto => ({
        id: source.id,
        name: source.name,
        kind: 'model',
        revisions: revisions.filter((r) => r.sourceId === source.id).map((r) => toRevisionDto(r, counting)),
      }),
    );
  }
}

/** Findings with those of the picture, which may have been drawn before. */
function joinFindings(known: readonly Finding[], drawn: readonly Finding[]): Finding[] {
  const fresh = new Set(drawn.map((f) => JSON.stringify(f)));
  return [...known.filter((f) => !fresh.has(JSON.stringify(f))), ...drawn];
}

function toRevisionDto(r: RevisionRow, counting: ReadonlyMap<string, string>): RevisionDto {
  // What only the server needs stays here.
  const { projectId: _p, fileHash: _f, tableHash: _t, readerVersion: _r, ...shown } = r;
  return { ...shown, state: counting.get(r.sourceId) === r.id ? 'counting' : r.state === 'ready' ? 'kept' : r.state };
}
