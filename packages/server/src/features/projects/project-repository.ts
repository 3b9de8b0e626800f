import { compareEntries, type PracticeRow, type ProjectDto, type ProjectPractice } from '@tally/core';
import { and, asc, desc, eq, isNull, ne, sql } from 'drizzle-orm';
import type { Database } from '../../db/database.ts';
import { changeLog, entries, moves, practices, projects } from '../../db/schema.ts';

export type ProjectRow = typeof projects.$inferSelect;

export const toProjectDto = ({ id, name, currency, seq, createdAt }: ProjectRow): ProjectDto => ({
  id,
  name,
  currency,
  seq,
  createdAt,
});

/** Projects and their present entries. */
export const projectRepository = {
  list: (db: Database): Promise<ProjectRow[]> => db.select().from(projects).orderBy(asc(projects.createdAt)),

  /** Total of each project's plan after its last move, in minor units. */
  async listTotals(db: Database): Promise<{ projectId: string; total: number }[]> {
    const rows = await db
      .selectDistinctOn([moves.projectId], { projectId: moves.projectId, move: moves.move })
      .from(moves)
      .where(eq(moves.option, ''))
      .orderBy(moves.projectId, desc(moves.seq));
    return rows.map(({ projectId, move }) => ({ projectId, total: move.after }));
  },

  async find(db: Database, id: string): Promise<ProjectRow | null> {
    const [row] = await db.select().from(projects).where(eq(projects.id, id));
    return row ?? null;
  },

  /** Gives a project another name, puts it away (a time) and brings it back (null), or says what its total lacks. */
  async update(
    db: Database,
    id: string,
    change: Partial<Pick<ProjectRow, 'name' | 'putAwayAt' | 'shortfall'>>,
  ): Promise<void> {
    await db.update(projects).set(change).where(eq(projects.id, id));
  },

  /** When each project was changed last. */
  async listLastChanges(db: Database): Promise<{ projectId: string; at: string; author: string; cause: string }[]> {
    return db
      .selectDistinctOn([changeLog.projectId], {
        projectId: changeLog.projectId,
        at: changeLog.createdAt,
        author: changeLog.author,
        cause: changeLog.cause,
      })
      .from(changeLog)
      .orderBy(changeLog.projectId, desc(changeLog.seq));
  },

  /** Keeps what a project's elements are decided to be priced with. */
  async savePractice(db: Database, projectId: string, rows: readonly PracticeRow[]): Promise<void> {
    await db
      .insert(practices)
      .values({ projectId, rows })
      .onConflictDoUpdate({ target: practices.projectId, set: { rows } });
  },

  /** What the other projects in use are decided to be priced with, those changed last first. */
  async listPractices(db: Database, but: string, most: number): Promise<ProjectPractice[]> {
    const at = sql<string>`(select max(${changeLog.createdAt}) from ${changeLog} where ${changeLog.projectId} = ${projects.id})`;
    const found = await db
      .select({ projectId: projects.id, name: projects.name, at, rows: practices.rows })
      .from(practices)
      .innerJoin(projects, eq(projects.id, practices.projectId))
      .where(and(ne(projects.id, but), isNull(projects.putAwayAt), sql`jsonb_array_length(${practices.rows}) > 0`))
      .orderBy(desc(at))
      .limit(most);
    return found.map((f) => ({ ...f, at: new Date(f.at).toISOString() }));
  },

  async listEntries(db: Database, projectId: string): Promise<{ kind: string; id: string; body: unknown }[]> {
    const rows = await db
      .select({ kind: entries.kind, id: entries.id, body: entries.body })
      .from(entries)
      .where(eq(entries.projectId, projectId));
    // Here and not by the database, whose order goes by its language.
    return rows.sort(compareEntries);
  },
};
