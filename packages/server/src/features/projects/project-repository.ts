import { asc, desc, eq } from 'drizzle-orm';
import type { Database } from '../../db/database.ts';
import { entries, moves, projects } from '../../db/schema.ts';

export type ProjectRow = typeof projects.$inferSelect;

/** Projects and their present entries. */
export const projectRepository = {
  list: (db: Database): Promise<ProjectRow[]> => db.select().from(projects).orderBy(asc(projects.createdAt)),

  /** Total of each project's plan after its last move, in minor units. */
  async listTotals(db: Database): Promise<{ projectId: string; total: number }[]> {
    const rows = await db
      .selectDistinctOn([moves.projectId], { projectId: moves.projectId, move: moves.move })
      .from(moves)
      .orderBy(moves.projectId, desc(moves.seq));
    return rows.map(({ projectId, move }) => ({ projectId, total: move.after }));
  },

  async find(db: Database, id: string): Promise<ProjectRow | null> {
    const [row] = await db.select().from(projects).where(eq(projects.id, id));
    return row ?? null;
  },

  async create(db: Database, row: { id: string; name: string; currency: string }): Promise<ProjectRow> {
    const [made] = await db.insert(projects).values(row).returning();
    return made!;
  },

  async listEntries(db: Database, projectId: string): Promise<{ kind: string; id: string; body: unknown }[]> {
    return db
      .select({ kind: entries.kind, id: entries.id, body: entries.body })
      .from(entries)
      .where(eq(entries.projectId, projectId))
      .orderBy(asc(entries.kind), asc(entries.id));
  },
};
