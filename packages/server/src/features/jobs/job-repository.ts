import type { Problem } from '@tally/core';
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Database } from '../../db/database.ts';
import { jobs } from '../../db/schema.ts';

export type JobRow = typeof jobs.$inferSelect;

/** Imports and how far they are; their state survives a restart. */
export const jobRepository = {
  async create(
    db: Database,
    row: Pick<JobRow, 'id' | 'projectId' | 'sourceId' | 'fileName' | 'fileHash' | 'author'> &
      Partial<Pick<JobRow, 'option'>>,
  ): Promise<JobRow> {
    const [made] = await db
      .insert(jobs)
      .values({ ...row, state: 'queued', stage: 'Waiting' })
      .returning();
    return made!;
  },

  /** Begins a job: it is running, once more than before. */
  async begin(db: Database, id: string): Promise<JobRow> {
    const [row] = await db
      .update(jobs)
      .set({
        state: 'running',
        stage: 'Reading the file',
        share: 0,
        problem: null,
        attempts: sql`${jobs.attempts} + 1`,
      })
      .where(eq(jobs.id, id))
      .returning();
    return row!;
  },

  /** Lets a job that ended be begun again, as if it was new. */
  async requeue(db: Database, id: string): Promise<JobRow> {
    const [row] = await db
      .update(jobs)
      .set({ state: 'queued', stage: 'Waiting', share: 0, problem: null, attempts: 0 })
      .where(eq(jobs.id, id))
      .returning();
    return row!;
  },

  /** Takes a job's last try back. */
  async forgive(db: Database, id: string): Promise<void> {
    await db
      .update(jobs)
      .set({ attempts: sql`greatest(${jobs.attempts} - 1, 0)` })
      .where(eq(jobs.id, id));
  },

  async find(db: Database, id: string): Promise<JobRow | null> {
    const [row] = await db.select().from(jobs).where(eq(jobs.id, id));
    return row ?? null;
  },

  async update(
    db: Database,
    id: string,
    change: Partial<Pick<JobRow, 'state' | 'stage' | 'share' | 'revisionId' | 'sourceId'>> & {
      problem?: Problem | null;
    },
  ): Promise<JobRow> {
    const [row] = await db.update(jobs).set(change).where(eq(jobs.id, id)).returning();
    return row!;
  },

  /** Latest jobs of a project, newest first. */
  list: (db: Database, projectId: string): Promise<JobRow[]> =>
    db.select().from(jobs).where(eq(jobs.projectId, projectId)).orderBy(desc(jobs.createdAt)).limit(20),

  /** Jobs that a stop of the server cut off. */
  listUnfinished: (db: Database): Promise<JobRow[]> =>
    db
      .select()
      .from(jobs)
      .where(inArray(jobs.state, ['queued', 'running'])),

  /** Jobs that took, or tried to take, this content into the project. */
  listByFile: (db: Database, projectId: string, fileHash: string): Promise<JobRow[]> =>
    db
      .select()
      .from(jobs)
      .where(and(eq(jobs.projectId, projectId), eq(jobs.fileHash, fileHash))),
};
