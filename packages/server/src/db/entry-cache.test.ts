import { applyDiff, type Entry, type EntryDiff } from '@tally/core';
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
    changes: { listDiffsSince: async () => null },
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
  it('follow the log: what a change did not touch stays the same object, and all is what it is read anew', async () => {
    const item = (id: string, rate: number): Entry => ({ kind: 'item', id, body: { rate } });
    let entries: Entry[] = ['B', 'D', 'F'].map((id) => item(id, 1));
    const log: { seq: number; diff: EntryDiff }[] = [];
    let reads = 0;
    const db = withEntryCache({
      projects: {
        find: async () => ({ seq: log.length }),
        listEntries: async () => {
          reads++;
          return [...entries].sort((a, b) => (a.id < b.id ? -1 : 1));
        },
      },
      changes: { listDiffsSince: async (_: string, since: number) => log.filter((c) => c.seq > since) },
    } as unknown as DbClient);
    const change = (diff: Partial<EntryDiff>) => {
      const whole = { added: [], updated: [], removed: [], ...diff };
      entries = applyDiff(entries, whole);
      log.push({ seq: log.length + 1, diff: whole });
    };
    const first = await db.projects.listEntries('p');
    change({ updated: [{ kind: 'item', id: 'D', from: { rate: 1 }, to: { rate: 2 } }] });
    change({ added: [item('A', 3), item('E', 4)] });
    const second = await db.projects.listEntries('p');
    expect(second.map((e) => [e.id, (e.body as { rate: number }).rate])).toEqual([['A', 3], ['B', 1], ['D', 2], ['E', 4], ['F', 1]]); // biome-ignore format: one list
    expect(second[1]).toBe(first[0]);
    expect(second[4]).toBe(first[2]);
    expect(first).toHaveLength(3);
    change({ removed: [item('B', 1)] });
    expect((await db.projects.listEntries('p')).map((e) => e.id)).toEqual(['A', 'D', 'E', 'F']);
    expect(reads).toBe(1);
    // A log that does not fit what is held: all is read.
    log.push({ seq: 4, diff: { added: [item('D', 9)], updated: [], removed: [] } });
    expect(await db.projects.listEntries('p')).toHaveLength(4);
    expect(reads).toBe(2);
  });
  it('of a project that is not there are none', async () =>
    expect(await countingDb({}).db.projects.listEntries('x')).toEqual([]));
});
