import type { Entry } from '@tally/core';
import type { DbClient } from './db-client.ts';

/** Entries that are held at most, over all projects. */
const MOST_ENTRIES = 400_000;

/** Entries of the projects looked at last, each as of one sequence number: they are read once, not for every question. */
export class EntryCache {
  private readonly kept = new Map<string, { readonly seq: number; readonly entries: Entry[] }>();

  constructor(private readonly db: DbClient) {}

  /** Entries of a project as they are now. What is given back is not to be changed. */
  async list(projectId: string): Promise<Entry[]> {
    const seq = (await this.db.projects.find(projectId))?.seq;
    const known = this.kept.get(projectId);
    this.kept.delete(projectId);
    if (seq === undefined) return [];
    // A number that was read before its entries can only be too low: then they are read again next time.
    const now = known?.seq === seq ? known : { seq, entries: await this.db.projects.listEntries(projectId) };
    this.kept.set(projectId, now);
    this.makeRoom(projectId);
    return now.entries;
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
