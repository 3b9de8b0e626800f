import type { SourceKind } from '@tally/core';
import { and, asc, desc, eq, sql } from 'drizzle-orm';
import type { Database } from '../../db/database.ts';
import { jobs, projects, revisions, sources } from '../../db/schema.ts';

export type SourceRow = typeof sources.$inferSelect;
export type RevisionRow = typeof revisions.$inferSelect;

/** Sources and their revisions. */
export const sourceRepository = {
  list: (db: Database, projectId: string): Promise<SourceRow[]> =>
    db.select().from(sources).where(eq(sources.projectId, projectId)).orderBy(asc(sources.createdAt), asc(sources.id)),

  async create(
    db: Database,
    row: { id: string; projectId: string; name: string; kind?: SourceKind },
  ): Promise<SourceRow> {
    const [made] = await db.insert(sources).values(row).returning();
    return made!;
  },

  listRevisions: (db: Database, projectId: string): Promise<RevisionRow[]> =>
    db.select().from(revisions).where(eq(revisions.projectId, projectId)).orderBy(desc(revisions.number)),

  async findRevision(db: Database, projectId: string, id: string): Promise<RevisionRow | null> {
    const [row] = await db
      .select()
      .from(revisions)
      .where(and(eq(revisions.projectId, projectId), eq(revisions.id, id)));
    return row ?? null;
  },

  /** The revision made from a file with this content, if it was taken into the project before. */
  async findByFile(db: Database, projectId: string, fileHash: string): Promise<RevisionRow | null> {
    const [row] = await db
      .select()
      .from(revisions)
      .where(and(eq(revisions.projectId, projectId), eq(revisions.fileHash, fileHash)))
      .limit(1);
    return row ?? null;
  },

  async find(db: Database, projectId: string, id: string): Promise<SourceRow | null> {
    const [row] = await db
      .select()
      .from(sources)
      .where(and(eq(sources.projectId, projectId), eq(sources.id, id)));
    return row ?? null;
  },

  /**
   * Stores a revision, moves the project's first free ElementKey on, and says in its job that it is there, together. One that is there
   * already is given back as it is.
   */
  async addRevision(
    db: Database,
    row: Omit<typeof revisions.$inferInsert, 'number'>,
    nextKey: number,
    jobId: string | null = null,
  ): Promise<RevisionRow> {
    return db.transaction(async (tx) => {
      const [known] = await tx.select().from(revisions).where(eq(revisions.id, row.id));
      if (known) return known;
      const [last] = await tx
        .select({ number: sql<number>`coalesce(max(${revisions.number}), 0)::int` })
        .from(revisions)
        .where(eq(revisions.sourceId, row.sourceId));
      const [made] = await tx
        .insert(revisions)
        .values({ ...row, number: (last?.number ?? 0) + 1 })
        .returning();
      await tx
        .update(projects)
        .set({ nextKey: sql`greatest(${projects.nextKey}, ${nextKey})` })
        .where(eq(projects.id, row.projectId));
      if (jobId !== null) await tx.update(jobs).set({ revisionId: row.id }).where(eq(jobs.id, jobId));
      return made!;
    });
  },

  /** Gives a revision another table, and moves the project's first free ElementKey on, together: a newer reader may find more elements. */
  async setTable(
    db: Database,
    { id, projectId }: Pick<RevisionRow, 'id' | 'projectId'>,
    { tableHash, keysHash, nextKey }: Pick<RevisionRow, 'tableHash' | 'keysHash'> & { readonly nextKey: number },
    readerVersion: string,
  ): Promise<void> {
    await db.transaction(async (tx) => {
      await tx.update(revisions).set({ tableHash, keysHash, readerVersion }).where(eq(revisions.id, id));
      await tx
        .update(projects)
        .set({ nextKey: sql`greatest(${projects.nextKey}, ${nextKey})` })
        .where(eq(projects.id, projectId));
    });
  },

  async setState(db: Database, id: string, state: RevisionRow['state']): Promise<void> {
    await db.update(revisions).set({ state }).where(eq(revisions.id, id));
  },

  async setFindings(db: Database, id: string, findings: RevisionRow['findings']): Promise<void> {
    await db.update(revisions).set({ findings }).where(eq(revisions.id, id));
  },

  async setGeometry(
    db: Database,
    id: string,
    geometryState: RevisionRow['geometryState'],
    chunks: number,
  ): Promise<void> {
    await db.update(revisions).set({ geometryState, chunks }).where(eq(revisions.id, id));
  },
};
