import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import type { Worker } from 'node:worker_threads';
import type { JobDto, Problem, RevisionDto, SourceDto } from '@tally/core';
import { startWorker } from '@tally/ifc';
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
import type { RevisionRow } from './source-repository.ts';

/** Version of the reading and measuring code; kept with every revision. */
export const READER_VERSION = '3';
const MOST_AT_ONCE = 2;

/** Takes files into projects: a job per file, figures first, then the picture. Jobs of one project run one after another. */
export class ImportService {
  private readonly queue = new SerialQueue();
  private readonly running = new Map<string, Worker>();
  private readonly stopped = new Set<string>();
  private readonly live = new Map<string, JobDto>();
  private slots = MOST_AT_ONCE;
  private readonly waiting: (() => void)[] = [];

  constructor(
    private readonly db: DbClient,
    private readonly store: FileStore,
    private readonly changes: ChangeService,
    private readonly events: EventHub,
    private readonly log: (error: unknown) => void,
  ) {}

  /** Queues a file that lies among the originals. Errors: 409 if the project has this very file already. */
  async enqueue(order: {
    projectId: string;
    fileName: string;
    fileHash: string;
    author: string;
    sourceId: string | null;
  }): Promise<JobDto> {
    const known = await this.db.sources.findByFile(order.projectId, order.fileHash);
    if (known)
      throw new HttpProblem(409, {
        code: 'file-known',
        message: `This very file is revision ${known.number} (${known.fileName}) already.`,
        remedy: 'Bring a newer one, or let that revision count again under Sources.',
      });
    const jobs = await this.db.jobs.listByFile(order.projectId, order.fileHash);
    if (jobs.some((j) => j.state === 'queued' || j.state === 'running'))
      throw new HttpProblem(409, {
        code: 'file-under-way',
        message: 'This very file is being read already.',
        remedy: 'Wait until it is done.',
      });
    const job = await this.db.jobs.create({ id: randomUUID(), ...order, fileName: order.fileName.slice(-200) });
    this.start(job);
    return this.publish(job);
  }

  /** Goes on with jobs that a stop cut off: again from the start, or only the picture where the figures are stored. */
  async resume(): Promise<void> {
    for (const job of await this.db.jobs.listUnfinished()) {
      if (existsSync(this.store.originalPath(job.fileHash))) this.start(job);
      else
        await this.finish(job, 'failed', {
          code: 'import-cut-off',
          message: 'The import was cut off before the file was stored.',
          remedy: 'Bring the file again.',
        });
    }
  }

  /** Stops a job; figures that are stored already stay. */
  async stop(jobId: string): Promise<JobDto> {
    const job = await this.db.jobs.find(jobId);
    if (!job) throw notFound('import');
    if (job.state !== 'queued' && job.state !== 'running') return this.toDto(job);
    this.stopped.add(jobId);
    await this.running.get(jobId)?.terminate();
    return this.toDto(
      await this.finish(job, 'stopped', {
        code: 'import-stopped',
        message: 'Stopped by you.',
        remedy: 'Bring the file again when you want it.',
      }),
    );
  }

  async close(): Promise<void> {
    await Promise.all([...this.running.values()].map((w) => w.terminate()));
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
    void this.queue.run(job.projectId, async () => {
      await this.takeSlot();
      try {
        if (!this.stopped.has(job.id)) await this.run(job);
      } catch (error) {
        this.log(error);
        await this.finish(job, 'failed', {
          code: 'import-failed',
          message: error instanceof Error ? error.message : String(error),
          remedy: 'Try again.',
        }).catch(this.log);
      } finally {
        this.running.delete(job.id);
        this.live.delete(job.id);
        this.freeSlot();
      }
    });
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
    this.publish(row);
    return row;
  }

  private async run(job: JobRow): Promise<void> {
    const project = await this.db.projects.find(job.projectId);
    if (!project) return;
    const resumed = job.revisionId ? await this.db.sources.findRevision(job.projectId, job.revisionId) : null;
    const sourceId = job.sourceId ?? (await this.chooseSource(job));
    const revisionId = resumed?.id ?? randomUUID();
    const before = await this.findBefore(job.projectId, sourceId);
    const order: ImportOrder = {
      filePath: this.store.originalPath(job.fileHash),
      storeRoot: this.store.root,
      beforePath: before ? this.store.tablePath(before.tableHash) : null,
      nextKey: project.nextKey,
      revisionId,
      pictureOf: resumed?.id ?? null,
      isPictureFirst: await this.changes.measuresShapes(job.projectId),
    };
    this.publish(await this.db.jobs.update(job.id, { state: 'running', stage: 'Reading the file', sourceId }));
    const worker = startWorker(import.meta.url, '../../importers/import-worker', order);
    this.running.set(job.id, worker);
    let revision = resumed;
    let chunks = 0;
    // Messages are handled one after another, in the order they were sent.
    let handled = Promise.resolve();
    await new Promise<void>((resolve, reject) => {
      const handle = async (message: ImportMessage): Promise<void> => {
        if (this.stopped.has(job.id)) return;
        if (message.kind === 'progress') this.progress(job, revision?.id ?? null, message.stage, message.share);
        else if (message.kind === 'figures') {
          revision = await this.storeFigures(job, sourceId, revisionId, message.figures);
          await this.db.jobs.update(job.id, { revisionId, stage: 'Drawing', share: 0.6 });
        } else if (message.kind === 'chunk') {
          chunks = message.chunks;
          await this.setGeometry(job.projectId, revisionId, 'running', chunks);
        } else if (message.kind === 'done') {
          if (message.findings.length > 0 && revision)
            await this.db.sources.setFindings(revisionId, [...revision.findings, ...message.findings]);
          await this.setGeometry(job.projectId, revisionId, 'done', message.chunks);
          await this.finish(job, 'done', null);
        } else await this.finish(job, 'failed', message.problem);
      };
      worker.on('message', (message: ImportMessage) => {
        handled = handled.then(() => handle(message));
        if (message.kind === 'done' || message.kind === 'failed') handled.then(resolve, reject);
      });
      worker.on('error', (error) => handled.then(() => reject(error), reject));
      worker.on('exit', () => handled.then(resolve, reject));
    });
    if (this.stopped.has(job.id) && revision) await this.setGeometry(job.projectId, revisionId, 'failed', chunks);
    await worker.terminate();
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

function toRevisionDto(r: RevisionRow, counting: ReadonlyMap<string, string>): RevisionDto {
  // What only the server needs stays here.
  const { projectId: _p, fileHash: _f, tableHash: _t, readerVersion: _r, ...shown } = r;
  return { ...shown, state: counting.get(r.sourceId) === r.id ? 'counting' : r.state === 'ready' ? 'kept' : r.state };
}
