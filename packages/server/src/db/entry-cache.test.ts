import type { Entry } from '@tally/core';
import type { DbClient } from './db-client.ts';
import { withEntryCache } from './entry-cache.ts';

/** A database of projects with a sequence number and so many entries, that counts how often these are read. */
function countingDb(projects: Record<string, { seq: number; entries: number }>) {
  const reads: string[] = [];
  const db = {
    projects: {
      find: async (id: string) => (projects[id] ? { id, seq: projects[id].seq } : null),
      listEntries: async (id: string): Promise<Entry[]> => {
        reads.push(id);
        return Array.from({ length: projects[id]!.entries }, (_, i) => ({ kind: 'item', id: `${id}${i}`, body: {} }));
      },
    },
  } as unknown as DbClient;
  return { db: withEntryCache(db), reads, projects };
}

describe('entries that are held', () => {
  it('are read again as soon as the project has moved on', async () => {
    const { db, reads, projects } = countingDb({ a: { seq: 1, entries: 2 } });
    await db.projects.listEntries('a');
    expect(await db.projects.listEntries('a')).toHaveLength(2);
    expect(reads).toEqual(['a']);
    projects.a = { seq: 2, entries: 3 };
    expect(await db.projects.listEntries('a')).toHaveLength(3);
    expect(reads).toEqual(['a', 'a']);
  });
  it('are those of the projects looked at last, as many as there is room for', async () => {
    const { db, reads } = countingDb({
      a: { seq: 1, entries: 150_000 },
      b: { seq: 1, entries: 150_000 },
      c: { seq: 1, entries: 150_000 },
      large: { seq: 1, entries: 400_001 },
    });
    for (const id of ['a', 'b', 'a', 'c', 'a', 'b']) await db.projects.listEntries(id);
    // c took the room of b.
    expect(reads).toEqual(['a', 'b', 'c', 'b']);
    await db.projects.listEntries('large');
    await db.projects.listEntries('large');
    expect(reads.filter((id) => id === 'large')).toHaveLength(2);
  });
  it('of a project that is not there are none', async () =>
    expect(await countingDb({}).db.projects.listEntries('x')).toEqual([]));
});
