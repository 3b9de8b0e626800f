import {
  applyDiff,
  compareEntries,
  type Entry,
  type EntryDiff,
  fromDifferences,
  invertDiff,
  isEmptyDiff,
  isSameBody,
  overlayOption,
  projectOf,
  readWorkspaceId,
  toDifferences,
  workspaceId,
} from '@tally/core';
import type { CommitOutcome, ListedChange } from '../features/changes/change-repository.ts';
import type { DbClient } from './db-client.ts';

/**
 * The database with options and past states as workspaces: asked for one by its id, it answers as if that were a project, with its entries, its
 * changes and its moves. What is committed there is kept as differences of its project; sources, revisions and files are the project's.
 */
export function withOptions(db: DbClient): DbClient {
  const seen = new WeakMap<readonly Entry[], Map<string, Entry[]>>();
  /** Entries of past states: they never change. The oldest go. */
  const rewound = new Map<string, Entry[]>();
  const rewind = async (id: string, projectId: string, past: number): Promise<Entry[]> => {
    const known = rewound.get(id);
    if (known) return known;
    const { entries: now, seq: last } = await readTogether(projectId);
    let entries = now;
    for (let seq = last; seq > past; seq--) {
      const change = await db.changes.find(projectId, seq);
      if (change) entries = applyDiff(entries, invertDiff(change.diff));
    }
    const own = [...entries].sort(compareEntries);
    if (rewound.size >= MOST_PAST) rewound.delete(rewound.keys().next().value!);
    rewound.set(id, own);
    return own;
  };
  /** Entries of a project with the number of the change that they are after: none came between. */
  const readTogether = async (projectId: string): Promise<{ entries: Entry[]; seq: number }> => {
    for (;;) {
      const before = await db.projects.find(projectId);
      const entries = await db.projects.listEntries(projectId);
      const after = await db.projects.find(projectId);
      if (before?.seq === after?.seq) return { entries, seq: after?.seq ?? 0 };
    }
  };
  const listEntries = async (id: string): Promise<Entry[]> => {
    const { projectId, option, past } = readWorkspaceId(id);
    if (past !== null) return rewind(id, projectId, past);
    const base = await db.projects.listEntries(projectId);
    if (option === null) return base;
    const known = seen.get(base) ?? new Map<string, Entry[]>();
    seen.set(base, known);
    const own = known.get(option) ?? overlayOption(base, option).entries;
    known.set(option, own);
    return own;
  };
  const hasOption = async (projectId: string, option: string) =>
    (await db.projects.listEntries(projectId)).some((e) => e.kind === 'option' && e.id === option);
  const toOwn = (id: string, change: ListedChange): ListedChange => ({ ...change, projectId: id });

  return {
    ...db,
    projects: {
      ...db.projects,
      listEntries,
      find: async (id) => {
        const { projectId, option, past } = readWorkspaceId(id);
        const row = await db.projects.find(projectId);
        if (row && past !== null) return past > row.seq ? null : { ...row, id, seq: past };
        if (!row || option === null) return row;
        return (await hasOption(projectId, option)) ? { ...row, id } : null;
      },
      // What is told of a project in lists is that of the project itself.
      update: async (id, change) => {
        if (isProject(id)) await db.projects.update(id, change);
      },
      savePractice: async (id, rows) => {
        if (isProject(id)) await db.projects.savePractice(id, rows);
      },
      listPractices: (but, most) => db.projects.listPractices(projectOf(but), most),
    },
    changes: {
      ...db.changes,
      commit: async (change): Promise<CommitOutcome> => {
        const { projectId, option, past } = readWorkspaceId(change.projectId);
        if (past !== null) return { kind: 'misfit', reason: 'The plan as it was cannot be changed.' };
        if (option === null) return db.changes.commit(change);
        const base = await db.projects.listEntries(projectId);
        const misfit = findMisfit(overlayOption(base, option).entries, change.diff);
        if (misfit) return { kind: 'misfit', reason: misfit };
        const diff = toDifferences(base, option, change.diff);
        if (isEmptyDiff(diff)) return { kind: 'misfit', reason: 'It is so already.' };
        const isRevision = [...change.diff.added, ...change.diff.updated].some((e) => e.kind === 'counting');
        const outcome = await db.changes.commit({ ...change, projectId, diff, option, isRevision });
        if (outcome.kind === 'done') return { kind: 'done', change: toOwn(change.projectId, outcome.change) };
        return outcome;
      },
      find: async (id, seq) => {
        const { projectId, option } = readWorkspaceId(id);
        const row = await db.changes.find(projectId, seq);
        return row && option !== null ? { ...row, projectId: id, diff: fromDifferences(option, row.diff) } : row;
      },
      list: async (id, limit) => {
        const { projectId, option, past } = readWorkspaceId(id);
        if (isProject(id)) return db.changes.list(projectId, limit);
        const rows = await db.changes.list(projectId, limit, option, past);
        return rows.map((r) => ({ ...r, change: toOwn(id, r.change) }));
      },
      listByAuthor: async (id, author) => {
        const { projectId, option } = readWorkspaceId(id);
        return (await db.changes.listByAuthor(projectId, author)).filter((c) => c.option === option);
      },
      // What came before is not gone through again in an option: its moves are told as they come.
      listUnmoved: async (id, limit) => (isProject(id) ? db.changes.listUnmoved(id, limit) : []),
      listDiffsSince: async (id, since, most) => {
        const { projectId } = readWorkspaceId(id);
        // A slice of an option is read whole: what of its base changed under it is not told one by one.
        return isProject(id) ? db.changes.listDiffsSince(projectId, since, most) : null;
      },
      listOfEntry: (id, kind, entry) => db.changes.listOfEntry(projectOf(id), kind, entry),
      hasCounted: (id, revision) => db.changes.hasCounted(projectOf(id), revision),
      findMove: (id, seq) => {
        const { projectId, option } = readWorkspaceId(id);
        return db.changes.findMove(projectId, seq, option);
      },
      saveMove: async (id, seq, move) => {
        const { projectId, option, past } = readWorkspaceId(id);
        // What moved then is known.
        if (past !== null) return;
        await db.changes.saveMove(projectId, seq, move, option);
      },
    },
    sources: ofProject(db.sources),
    jobs: {
      ...ofProject(db.jobs),
      create: async (row) => {
        const { projectId, option } = readWorkspaceId(row.projectId);
        return toJob(await db.jobs.create({ ...row, projectId, option }));
      },
      begin: async (id) => toJob(await db.jobs.begin(id)),
      requeue: async (id) => toJob(await db.jobs.requeue(id)),
      find: async (id) => {
        const job = await db.jobs.find(id);
        return job && toJob(job);
      },
      update: async (id, change) => toJob(await db.jobs.update(id, change)),
      list: async (id) =>
        readWorkspaceId(id).past === null
          ? (await db.jobs.list(projectOf(id))).filter((j) => j.option === readWorkspaceId(id).option).map(toJob)
          : [],
      listUnfinished: async () => (await db.jobs.listUnfinished()).map(toJob),
      listByFile: async (id, hash) => (await db.jobs.listByFile(projectOf(id), hash)).map(toJob),
    },
  };
}

/** Past states that are held. */
const MOST_PAST = 8;

/** Whether an id is that of a project, and of no option or past state of one. */
const isProject = (id: string): boolean => projectOf(id) === id;

/** A job works for the workspace that it was begun in. */
const toJob = <J extends { readonly projectId: string; readonly option: string | null }>(job: J): J => ({
  ...job,
  projectId: workspaceId({ projectId: job.projectId, option: job.option }),
});

/** Why a change does not fit what an option has; null if it does. */
function findMisfit(entries: readonly Entry[], diff: EntryDiff): string | null {
  const found = new Map(entries.map((e) => [`${e.kind}/${e.id}`, e.body]));
  for (const { kind, id, from } of [...diff.updated, ...diff.removed.map((e) => ({ ...e, from: e.body }))])
    if (!isSameBody(found.get(`${kind}/${id}`), from)) return `${kind} ${id} is not there any more, or not as it was.`;
  try {
    applyDiff(entries, diff);
    return null;
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

/** A repository that is asked about a workspace and answers about its project: ids in what it is given and in what it gives are those of the workspace. */
function ofProject<R extends object>(repository: R): R {
  const wrapped = Object.entries(repository).map(([name, method]) => [
    name,
    async (...args: unknown[]) => {
      let asked: string | null = null;
      const strip = (id: string): string => {
        if (isProject(id)) return id;
        asked = id;
        return projectOf(id);
      };
      const plain = args.map((arg) => {
        if (typeof arg === 'string') return strip(arg);
        const row = arg as { projectId?: string } | null;
        return typeof row?.projectId === 'string' ? { ...row, projectId: strip(row.projectId) } : arg;
      });
      const answer = await (method as (...a: unknown[]) => Promise<unknown>)(...plain);
      if (asked === null) return answer;
      const name = (row: unknown) =>
        row !== null && typeof row === 'object' && 'projectId' in row ? { ...row, projectId: asked } : row;
      return Array.isArray(answer) ? answer.map(name) : name(answer);
    },
  ]);
  return Object.fromEntries(wrapped) as R;
}
