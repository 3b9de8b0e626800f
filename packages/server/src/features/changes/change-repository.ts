import { type EntryDiff, listTouchedEntries, type MoveDto } from '@tally/core';
import { and, asc, desc, eq, getTableColumns, gt, isNull, lte, or, sql } from 'drizzle-orm';
import type { Database } from '../../db/database.ts';
import { changeLog, moves, projects, revisions, sources } from '../../db/schema.ts';
import type { RevisionRow, SourceRow } from '../sources/source-repository.ts';

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
  /** The option that it is made in; the project itself if absent. */
  readonly option?: string | null;
  /** Another revision of a source counts by it; as its entries say if absent. */
  readonly isRevision?: boolean;
}

/** Sources with their revisions that a project is made with. */
export interface ProjectSources {
  readonly sources: readonly SourceRow[];
  readonly revisions: readonly RevisionRow[];
}

/** Outcome of a commit: done, or what others did to the same entries since `base`. */
export type CommitOutcome =
  | { readonly kind: 'done'; readonly change: ListedChange }
  | { readonly kind: 'conflict'; readonly changes: ListedChange[] }
  | { readonly kind: 'misfit'; readonly reason: string }
  | { readonly kind: 'missing' };

/** A change does not fit what is there; `changes` are those of others that touched the same since. */
class Misfit extends Error {
  changes: readonly ListedChange[] = [];
}

/** A change without what it changed, which may be large. */
export type ListedChange = Omit<ChangeRow, 'diff'>;

const { diff: _diff, ...LISTED } = getTableColumns(changeLog);

/** Moves of the plan of a project itself. */
const ofPlan = and(eq(moves.projectId, changeLog.projectId), eq(moves.seq, changeLog.seq), eq(moves.option, ''));

/** A listed change with its move, as a join gives it. */
const selectListed = (db: Database) =>
  db.select({ change: LISTED, move: moves.move }).from(changeLog).leftJoin(moves, ofPlan);

/** Changes since a state that touched the same entries. */
async function findInTheWay(
  db: Database,
  { projectId, base, diff, undoes, author }: NewChange,
): Promise<ListedChange[]> {
  const touched = new Set(listTouchedEntries(diff));
  const since = await db
    .select()
    .from(changeLog)
    .where(and(eq(changeLog.projectId, projectId), gt(changeLog.seq, base)))
    .orderBy(asc(changeLog.seq));
  // An undo goes back past one's own undone and redone changes; only those of others stand in its way.
  const isOwn = (c: ChangeRow) => undoes !== undefined && c.author === author;
  return since
    .filter((c) => !isOwn(c) && listTouchedEntries(c.diff).some((name) => touched.has(name)))
    .map(({ diff: _, ...listed }) => listed);
}

/** The change log: the one way entries change. */
export const changeRepository = {
  /** Applies a change and appends it to the log, all or nothing. */
  async commit(db: Database, change: NewChange): Promise<CommitOutcome> {
    try {
      return await db.transaction(async (tx): Promise<CommitOutcome> => {
        const [project] = await tx.select().from(projects).where(eq(projects.id, change.projectId)).for('update');
        if (!project) return { kind: 'missing' };
        const within = tx as unknown as Database;
        try {
          // What others touched and put back as it was is in nobody's way: what counts is what is there.
          await applyToEntries(within, change.projectId, change.diff);
        } catch (error) {
          if (error instanceof Misfit) error.changes = await findInTheWay(within, change);
          throw error;
        }
        const seq = project.seq + 1;
        await tx.update(projects).set({ seq }).where(eq(projects.id, project.id));
        const { projectId, author, cause, diff, undoes } = change;
        const touched = listTouchedEntries(diff);
        const [row] = await tx
          .insert(changeLog)
          .values({
            projectId,
            seq,
            author,
            cause,
            diff,
            undoes: undoes ?? null,
            option: change.option ?? null,
            entryCount: touched.length,
            isRevision: change.isRevision ?? [...diff.added, ...diff.updated].some((e) => e.kind === 'counting'),
          })
          .returning(LISTED);
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

  /** Makes a project with its first change, all or nothing. */
  createProject: (
    db: Database,
    row: { id: string; name: string; currency: string; nextKey?: number },
    first: Omit<NewChange, 'projectId' | 'base'>,
    from: ProjectSources = { sources: [], revisions: [] },
  ): Promise<ListedChange> =>
    db.transaction(async (tx) => {
      await tx.insert(projects).values(row);
      if (from.sources.length > 0) await tx.insert(sources).values([...from.sources]);
      if (from.revisions.length > 0) await tx.insert(revisions).values([...from.revisions]);
      const made = await changeRepository.commit(tx as unknown as Database, { ...first, projectId: row.id, base: 0 });
      if (made.kind !== 'done') throw new Error(`The project ${row.id} could not be made.`);
      return made.change;
    }),

  /** An author's latest changes, newest first, for undo and redo. */
  listByAuthor: (db: Database, projectId: string, author: string): Promise<ListedChange[]> =>
    db
      .select(LISTED)
      .from(changeLog)
      .where(and(eq(changeLog.projectId, projectId), eq(changeLog.author, author)))
      .orderBy(desc(changeLog.seq))
      .limit(500),

  /** Changes with their moves, newest first; of an option those of its project too, each with what it moved there, if that is known. */
  async list(
    db: Database,
    projectId: string,
    limit: number,
    option: string | null = null,
    upTo: number | null = null,
  ): Promise<{ change: ListedChange; move: MoveDto | null }[]> {
    const isSeen =
      option === null ? isNull(changeLog.option) : or(isNull(changeLog.option), eq(changeLog.option, option));
    const rows = await selectListed(db)
      .where(and(eq(changeLog.projectId, projectId), isSeen, upTo === null ? undefined : lte(changeLog.seq, upTo)))
      .orderBy(desc(changeLog.seq))
      .limit(limit);
    if (option === null) return rows;
    const own = await db
      .select({ seq: moves.seq, move: moves.move })
      .from(moves)
      .where(and(eq(moves.projectId, projectId), eq(moves.option, option)));
    const moveOf = new Map(own.map((m) => [m.seq, m.move]));
    return rows.map(({ change, move }) => ({
      change,
      move: moveOf.get(change.seq) ?? (change.option === null ? move : null),
    }));
  },

  /** Changes of all projects after a place in the log, for resuming an event stream. */
  listAfter: (db: Database, id: number, limit: number): Promise<{ change: ListedChange; move: MoveDto | null }[]> =>
    selectListed(db).where(gt(changeLog.id, id)).orderBy(asc(changeLog.id)).limit(limit),

  /** Place of the last change in the log; 0 while there is none. */
  async findLastId(db: Database): Promise<number> {
    const [row] = await db.select({ id: sql<number>`coalesce(max(${changeLog.id}), 0)::int` }).from(changeLog);
    return row!.id;
  },

  /** Numbers of the last changes of a project without a move, from the newest back to the first that has one. */
  async listUnmoved(db: Database, projectId: string, limit: number): Promise<number[]> {
    const rows = await db
      .select({ seq: changeLog.seq, moved: moves.seq })
      .from(changeLog)
      .leftJoin(moves, ofPlan)
      .where(eq(changeLog.projectId, projectId))
      .orderBy(desc(changeLog.seq))
      .limit(limit);
    const moved = rows.findIndex((r) => r.moved !== null);
    return (moved < 0 ? rows : rows.slice(0, moved)).map((r) => r.seq);
  },

  /** Projects whose last change has no move. */
  async listUnmovedProjects(db: Database): Promise<string[]> {
    const rows = await db
      .select({ id: projects.id })
      .from(projects)
      .leftJoin(moves, and(eq(moves.projectId, projects.id), eq(moves.seq, projects.seq), eq(moves.option, '')))
      .where(and(isNull(moves.seq), gt(projects.seq, 0)));
    return rows.map((r) => r.id);
  },

  /** True if a change made the revision the one that counts, at any time. */
  async hasCounted(db: Database, projectId: string, revisionId: string): Promise<boolean> {
    const rows = await db
      .select({ diff: changeLog.diff })
      .from(changeLog)
      .where(and(eq(changeLog.projectId, projectId), eq(changeLog.isRevision, true)));
    const names = (body: unknown) => (body as { revision?: string } | null)?.revision === revisionId;
    return rows.some(({ diff }) => diff.added.some((e) => names(e.body)) || diff.updated.some((u) => names(u.to)));
  },

  async findMove(db: Database, projectId: string, seq: number, option: string | null = null): Promise<MoveDto | null> {
    const [row] = await db
      .select({ move: moves.move })
      .from(moves)
      .where(and(eq(moves.projectId, projectId), eq(moves.seq, seq), eq(moves.option, option ?? '')));
    return row?.move ?? null;
  },

  async find(db: Database, projectId: string, seq: number): Promise<ChangeRow | null> {
    const [row] = await db
      .select()
      .from(changeLog)
      .where(and(eq(changeLog.projectId, projectId), eq(changeLog.seq, seq)));
    return row ?? null;
  },

  /** What changes since a state did, oldest first; null if they touch more than `most` entries. */
  async listDiffsSince(
    db: Database,
    projectId: string,
    since: number,
    most: number,
  ): Promise<{ seq: number; diff: EntryDiff }[] | null> {
    const isSince = and(eq(changeLog.projectId, projectId), gt(changeLog.seq, since));
    const [sum] = await db
      .select({ entries: sql<number>`coalesce(sum(${changeLog.entryCount}), 0)::int` })
      .from(changeLog)
      .where(isSince);
    if (sum!.entries > most) return null;
    return db
      .select({ seq: changeLog.seq, diff: changeLog.diff })
      .from(changeLog)
      .where(isSince)
      .orderBy(asc(changeLog.seq));
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

  async saveMove(
    db: Database,
    projectId: string,
    seq: number,
    move: MoveDto,
    option: string | null = null,
  ): Promise<void> {
    await db
      .insert(moves)
      .values({ projectId, option: option ?? '', seq, move })
      .onConflictDoUpdate({ target: [moves.projectId, moves.option, moves.seq], set: { move } });
  },
};

/** Rows that one statement takes. */
const AT_ONCE = 5000;

/** Applies a change to the entries, many at once. Throws a Misfit naming an entry that is not as the change takes it to be. */
async function applyToEntries(tx: Database, projectId: string, diff: EntryDiff): Promise<void> {
  const given = (rows: readonly object[]) => sql`${JSON.stringify(rows)}::jsonb`;
  const isRow = sql`e.project_id = ${projectId} and e.kind = r.kind and e.id = r.id`;
  await inParts(diff.removed, GONE, async (rows) =>
    tx.execute(sql`
      delete from entries e using jsonb_to_recordset(${given(rows)}) as r(kind text, id text, body jsonb)
      where ${isRow} and e.body = r.body returning e.kind, e.id`),
  );
  await inParts(diff.updated, GONE, async (rows) =>
    tx.execute(sql`
      update entries e set body = r."to"
      from jsonb_to_recordset(${given(rows)}) as r(kind text, id text, "from" jsonb, "to" jsonb)
      where ${isRow} and e.body = r."from" returning e.kind, e.id`),
  );
  await inParts(diff.added, 'is there already.', async (rows) =>
    tx.execute(sql`
      insert into entries as e (project_id, kind, id, body)
      select ${projectId}, r.kind, r.id, r.body
      from jsonb_to_recordset(${given(rows)}) as r(kind text, id text, body jsonb)
      on conflict do nothing returning e.kind, e.id`),
  );
}

const GONE = 'is not there any more, or not as it was.';

/** Runs a statement over rows, some at a time; one that it leaves out, or that stands twice, is a misfit. */
async function inParts<R extends { readonly kind: string; readonly id: string }>(
  rows: readonly R[],
  reason: string,
  run: (part: readonly R[]) => Promise<unknown>,
): Promise<void> {
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    const part = rows.slice(from, from + AT_ONCE);
    const done = (await run(part)) as { rows: { kind: string; id: string }[] };
    const left = new Set(done.rows.map((r) => `${r.kind}/${r.id}`));
    for (const { kind, id } of part) if (!left.delete(`${kind}/${id}`)) throw new Misfit(`${kind} ${id} ${reason}`);
  }
}
