import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import type { JobDto, Problem } from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound } from '../../http/http-problem.ts';
import type { FileStore } from '../../importers/file-store.ts';
import type { EventHub } from '../events/event-hub.ts';
import type { JobRow } from '../jobs/job-repository.ts';
import { SerialQueue } from '../projects/serial-queue.ts';
import { ImportStalled } from './import-run.ts';
import type { ImportSteps, Stoppable } from './import-steps.ts';
import type { RevisionService } from './revision-service.ts';
import type { RevisionRow } from './source-repository.ts';

const MOST_AT_ONCE = 2;
/** Times a job is begun before it is given up: a file that ends the server must not end every next one. */
const MOST_ATTEMPTS = 3;

const STOPPED: Problem = {
  code: 'import-stopped',
  message: 'Stopped by you.',
  remedy: 'Start it again when you want it.',
};

/**
 * The life of imports: a job per file, jobs of one project one after another, two at once in all. A job that fails fails alone, with its
 * reason; one that a stop cut off is gone on with.
 */
export class ImportService {
  private readonly queue = new SerialQueue();
  private readonly running = new Map<string, Stoppable>();
  private readonly stopped = new Set<string>();
  /** Revisions whose tables were made again since the server began. */
  private readonly madeAgain = new Set<string>();
  private readonly live = new Map<string, JobDto>();
  private slots = MOST_AT_ONCE;
  private readonly waiting: (() => void)[] = [];
  private isClosing = false;

  constructor(
    private readonly db: DbClient,
    private readonly store: FileStore,
    private readonly revisions: RevisionService,
    private readonly steps: ImportSteps,
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
    /** It is read again although it was before: the columns of a list were chosen anew. */
    isAgain?: boolean;
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
    if (known?.geometryState === 'failed' && !order.isAgain) return this.drawAgain(known, order.author);
    if (known && !order.isAgain)
      throw new HttpProblem(409, {
        code: 'file-known',
        message: `This very file is revision ${known.number} (${known.fileName}) already.`,
        remedy: 'Bring a newer one, or let that revision count again under Sources.',
      });
    const { isAgain: _, ...row } = order;
    const job = await this.db.jobs.create({ id: randomUUID(), ...row, fileName: order.fileName.slice(-200) });
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
    await this.revisions.setGeometry(projectId, id, 'running', 0);
    this.start(job);
    return this.publish(job);
  }

  /**
   * Makes the damaged table of a revision again from its file, unless that is under way or was tried already since the server began:
   * whoever needs the table asks for it.
   */
  async makeTableAgain(revision: RevisionRow): Promise<void> {
    const { id, projectId, sourceId, fileName, fileHash } = revision;
    if (this.madeAgain.has(id)) return;
    this.madeAgain.add(id);
    const jobs = await this.db.jobs.listByFile(projectId, fileHash);
    if (jobs.some((j) => j.state === 'queued' || j.state === 'running')) return;
    const author = 'Repair';
    const made = await this.db.jobs.create({ id: randomUUID(), projectId, sourceId, fileName, fileHash, author });
    const job = await this.db.jobs.update(made.id, { revisionId: id });
    this.start(job);
    this.publish(job);
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
      await this.revisions.setGeometry(row.projectId, revision.id, 'failed', revision.chunks);
    this.publish(row);
    return row;
  }

  private async run(queued: JobRow): Promise<void> {
    if (!(await this.db.projects.find(queued.projectId))) return;
    const begun = await this.db.jobs.begin(queued.id);
    const known = await this.db.sources.findRevision(begun.projectId, begun.revisionId ?? begun.id);
    const sourceId = known?.sourceId ?? begun.sourceId ?? (await this.revisions.chooseSource(begun));
    const job = await this.db.jobs.update(begun.id, { sourceId });
    this.publish(job);
    const end = await this.steps.run(job, sourceId, {
      isStopped: () => this.stopped.has(job.id) || this.isClosing,
      follow: (run) => this.running.set(job.id, run),
      tell: (stage, share, revisionId) => this.progress(job, revisionId, stage, share),
    });
    if (end) await this.finish(await this.require(job.id), end.problem ? 'failed' : 'done', end.problem);
  }

  private async require(jobId: string): Promise<JobRow> {
    return (await this.db.jobs.find(jobId))!;
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
}
