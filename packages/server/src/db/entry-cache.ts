import { applyDiff, compareEntries, type Entry } from '@tally/core';
import type { DbClient } from './db-client.ts';

/** Entries that are held at most, over all projects. */
const MOST_ENTRIES = 400_000;
/** Entries that changes may touch to be done to what is held; after more all are read. */
const MOST_TOUCHED = 2000;

interface Held {
  readonly seq: number;
  readonly entries: Entry[];
}

/**
 * Entries of the projects looked at last, each as of one sequence number: they are read once, then changed as the log says. What a change
 * did not touch stays the same object.
 */
export class EntryCache {
  private readonly kept = new Map<string, Held>();

  constructor(private readonly db: DbClient) {}

  /** Entries of a project as they are now. What is given back is not to be changed. */
  async list(projectId: string): Promise<Entry[]> {
    const seq = (await this.db.projects.find(projectId))?.seq;
    const known = this.kept.get(projectId);
    this.kept.delete(projectId);
    if (seq === undefined) return [];
    const now = known?.seq === seq ? known : await this.renew(projectId, seq, known);
    this.kept.set(projectId, now);
    this.makeRoom(projectId);
    return now.entries;
  }

  /** What is held brought up to date, or read anew. */
  private async renew(projectId: string, seq: number, held: Held | undefined): Promise<Held> {
    const followed = held && held.seq < seq ? await this.follow(projectId, held) : null;
    // A number that was read before its entries can only be too low: then the same changes do not fit, and they are read again.
    return followed ?? { seq, entries: await this.db.projects.listEntries(projectId) };
  }

  /** What is held with the changes since; null if they are too many, or do not fit. */
  private async follow(projectId: string, held: Held): Promise<Held | null> {
    const changes = await this.db.changes.listDiffsSince(projectId, held.seq, MOST_TOUCHED);
    if (!changes || changes.length === 0) return null;
    try {
      let { entries } = held;
      for (const { diff } of changes) entries = applyDiff(entries, diff);
      const isMore = changes.some((c) => c.diff.added.length > 0);
      return { seq: changes.at(-1)!.seq, entries: isMore ? entries.sort(compareEntries) : entries };
    } catch {
      return null;
    }
  }

  /** Lets those go that were looked at longest ago, until the rest is few enough; one that is too large by itself is not kept. */
  private makeRoom(newest: string): void {
    let held = [...this.kept.values()].reduce((sum, k) => sum + k.entries.length, 0);
    for (const [id, { entries }] of this.kept) {
      if (held <= MOST_ENTRIES) return;
      if (id === newest && entries.length <= MOST_ENTRIES) return;
      this.kept.delete(id);
      held -= entries.length;
    }
  }
}

/** The database with the entries of projects held as long as they stay as they are. */
export function withEntryCache(db: DbClient): DbClient {
  const cache = new EntryCache(db);
  return { ...db, projects: { ...db.projects, listEntries: (projectId) => cache.list(projectId) } };
}
