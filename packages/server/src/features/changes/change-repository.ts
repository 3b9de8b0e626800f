import { type EntryDiff, invertDiff, listTouchedEntries, type MoveDto } from '@tally/core';
import { and, asc, desc, eq, gt, inArray, or, sql } from 'drizzle-orm';
import type { Database } from '../../db/database.ts';
import { changeLog, entries, moves, projects } from '../../db/schema.ts';

export type ChangeRow = typeof changeLog.$inferSelect;

/** An entry as a change made it or left it. */
export interface LoggedEntry extends Pick<ChangeRow, 'seq' | 'author' | 'cause' | 'createdAt'> {
  readonly body: unknown;
}

export interface NewChange {
  readonly projectId: string;
  /** Sequence number the change was made on. */
  readonly base: number;
  readonly author: string;
  readonly cause: string;
  readonly diff: EntryDiff;
  readonly undoes?: number;
}

/** Outcome of a commit: done, or what others did to the same entries since `base`. */
export type CommitOutcome =
  | { readonly kind: 'done'; readonly change: ChangeRow }
  | { readonly kind: 'conflict'; readonly changes: ChangeRow[] }
  | { readonly kind: 'misfit'; readonly reason: string }
  | { readonly kind: 'missing' };

/** A change does not fit what is there; `changes` are those of others that touched the same since. */
class Misfit extends Error {
  changes: readonly ChangeRow[] = [];
}

/** The change log: the one way entries change. */
export const changeRepository = {
  /** Applies a change and appends it to the log, all or nothing. */
  async commit(db: Database, change: NewChange): Promise<CommitOutcome> {
    try {
      return await db.transaction(async (tx): Promise<CommitOutcome> => {
        const [project] = await tx.select().from(projects).where(eq(projects.id, change.projectId)).for('update');
        if (!project) return { kind: 'missing' };
        const touched = new Set(listTouchedEntries(change.diff));
        const since = await tx
          .select()
          .from(changeLog)
          .where(and(eq(changeLog.projectId, change.projectId), gt(changeLog.seq, change.base)))
          .orderBy(asc(changeLog.seq));
        // An undo goes back past one's own undone and redone changes; only those of others stand in its way.
        const isOwn = (c: ChangeRow) => change.undoes !== undefined && c.author === change.author;
        const inTheWay = since.filter((c) => !isOwn(c) && listTouchedEntries(c.diff).some((name) => touched.has(name)));
        try {
          // What others touched and put back as it was is in nobody's way: what counts is what is there.
          await applyToEntries(tx as unknown as Database, change.projectId, change.diff);
        } catch (error) {
          if (error instanceof Misfit) error.changes = inTheWay;
          throw error;
        }
        const seq = project.seq + 1;
        await tx.update(projects).set({ seq }).where(eq(projects.id, project.id));
        const { projectId, author, cause, diff, undoes } = change;
        const [row] = await tx
          .insert(changeLog)
          .values({ projectId, seq, author, cause, diff, inverse: invertDiff(diff), undoes: undoes ?? null })
          .returning();
        return { kind: 'done', change: row! };
      });
    } catch (error) {
      if (error instanceof Misfit)
        return error.changes.length > 0
          ? { kind: 'conflict', changes: [...error.changes] }
          : { kind: 'misfit', reason: error.message };
      throw error;
    }
  },

  /** An author's latest changes, newest first, for undo and redo. */
  listByAuthor: (db: Database, projectId: string, author: string): Promise<ChangeRow[]> =>
    db
      .select()
      .from(changeLog)
      .where(and(eq(changeLog.projectId, projectId), eq(changeLog.author, author)))
      .orderBy(desc(changeLog.seq))
      .limit(500),

  /** Changes with their moves, newest first. */
  async list(db: Database, projectId: string, limit: number): Promise<{ change: ChangeRow; move: MoveDto | null }[]> {
    const rows = await db
      .select({ change: changeLog, move: moves.move })
      .from(changeLog)
      .leftJoin(moves, and(eq(moves.projectId, changeLog.projectId), eq(moves.seq, changeLog.seq)))
      .where(eq(changeLog.projectId, projectId))
      .orderBy(desc(changeLog.seq))
      .limit(limit);
    return rows;
  },

  /** Changes of all projects after a place in the log, for resuming an event stream. */
  async listAfter(db: Database, id: number, limit: number): Promise<{ change: ChangeRow; move: MoveDto | null }[]> {
    return db
      .select({ change: changeLog, move: moves.move })
      .from(changeLog)
      .leftJoin(moves, and(eq(moves.projectId, changeLog.projectId), eq(moves.seq, changeLog.seq)))
      .where(gt(changeLog.id, id))
      .orderBy(asc(changeLog.id))
      .limit(limit);
  },

  async find(db: Database, projectId: string, seq: number): Promise<ChangeRow | null> {
    const [row] = await db
      .select()
      .from(changeLog)
      .where(and(eq(changeLog.projectId, projectId), eq(changeLog.seq, seq)));
    return row ?? null;
  },

  /** An entry as changes made it or left it, oldest first; of each change only that entry is read. */
  async listOfEntry(db: Database, projectId: string, kind: string, id: string): Promise<LoggedEntry[]> {
    const named = JSON.stringify([{ kind, id }]);
    const has = (list: 'added' | 'updated') => sql`${changeLog.diff} -> ${list} @> ${named}::jsonb`;
    const find = (list: 'added' | 'updated', part: 'body' | 'to') =>
      sql`jsonb_path_query_first(${changeLog.diff} -> ${list}, '$[*] ? (@.kind == $kind && @.id == $id)', ${JSON.stringify({ kind, id })}::jsonb) -> ${part}`;
    return db
      .select({
        seq: changeLog.seq,
        author: changeLog.author,
        cause: changeLog.cause,
        createdAt: changeLog.createdAt,
        body: sql<unknown>`coalesce(${find('added', 'body')}, ${find('updated', 'to')})`,
      })
      .from(changeLog)
      .where(and(eq(changeLog.projectId, projectId), or(has('added'), has('updated'))))
      .orderBy(asc(changeLog.seq))
      .limit(2000);
  },

  async saveMove(db: Database, projectId: string, seq: number, move: MoveDto): Promise<void> {
    await db
      .insert(moves)
      .values({ projectId, seq, move })
      .onConflictDoUpdate({ target: [moves.projectId, moves.seq], set: { move } });
  },
};

async function applyToEntries(tx: Database, projectId: string, diff: EntryDiff): Promise<void> {
  const at = (kind: string, id: string) =>
    and(eq(entries.projectId, projectId), eq(entries.kind, kind), eq(entries.id, id));
  for (const { kind, id, body } of diff.removed) {
    const gone = await tx
      .delete(entries)
      .where(and(at(kind, id), eq(entries.body, sql`${JSON.stringify(body)}::jsonb`)))
      .returning({ id: entries.id });
    if (gone.length === 0) throw new Misfit(`${kind} ${id} is not there any more, or not as it was.`);
  }
  for (const { kind, id, from, to } of diff.updated) {
    const set = await tx
      .update(entries)
      .set({ body: sql`${JSON.stringify(to)}::jsonb` })
      .where(and(at(kind, id), eq(entries.body, sql`${JSON.stringify(from)}::jsonb`)))
      .returning({ id: entries.id });
    if (set.length === 0) throw new Misfit(`${kind} ${id} is not there any more, or not as it was.`);
  }
  const kinds = [...new Set(diff.added.map((e) => e.kind))];
  for (const kind of kinds) {
    const rows = diff.added.filter((e) => e.kind === kind);
    const known = await tx
      .select({ id: entries.id })
      .from(entries)
      .where(
        and(
          eq(entries.projectId, projectId),
          eq(entries.kind, kind),
          inArray(
            entries.id,
            rows.map((r) => r.id),
          ),
        ),
      );
    if (known.length > 0) throw new Misfit(`${kind} ${known[0]!.id} is there already.`);
    await tx
      .insert(entries)
      .values(rows.map((r) => ({ projectId, kind, id: r.id, body: sql`${JSON.stringify(r.body)}::jsonb` })));
  }
}
