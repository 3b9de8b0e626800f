import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hasPostgres, startPostgres } from '../testing/postgres.ts';
import { DurableNodeFS } from './durable-node-fs.ts';
import { type DatabaseLocation, type OpenDatabase, openDatabase } from './open-database.ts';
import { bindRepositories, type Repositories } from './repositories.ts';
import { projects } from './schema.ts';

function suite(name: string, locate: () => Promise<{ location: DatabaseLocation; stop: () => void }>) {
  describe(`repositories on ${name}`, () => {
    let open: OpenDatabase;
    let repos: Repositories;
    let stop: () => void = () => undefined;
    beforeAll(async () => {
      const found = await locate();
      stop = found.stop;
      open = await openDatabase(found.location);
      repos = bindRepositories(open.db);
      await open.db.insert(projects).values({ id: 'p', name: 'Boathouse', currency: 'EUR' });
    });
    afterAll(async () => {
      await open?.close();
      stop();
    });

    const item = (rate: string) => ({
      code: 'M',
      description: 'Ä "quoted" \u2019',
      kind: 'material',
      unit: 'm2',
      rate,
      wastePercent: 5,
    });
    const commit = (base: number, diff: object, author = 'Ann') =>
      repos.changes.commit({
        projectId: 'p',
        base,
        author,
        cause: 'test',
        diff: { added: [], updated: [], removed: [], ...diff },
      });

    it('applies a change, keeps the log and its inverse', async () => {
      expect(await commit(0, { added: [{ kind: 'item', id: 'M', body: item('1.00') }] })).toMatchObject({
        kind: 'done',
        change: { seq: 1, entryCount: 1, isRevision: false },
      });
      expect((await repos.changes.find('p', 1))!.diff).toMatchObject({ added: [{ id: 'M' }] });
      expect(await repos.projects.listEntries('p')).toEqual([{ kind: 'item', id: 'M', body: item('1.00') }]);
      expect(
        await commit(1, { updated: [{ kind: 'item', id: 'M', from: item('1.00'), to: item('2.00') }] }),
      ).toMatchObject({ kind: 'done', change: { seq: 2 } });
    });
    it('answers a conflict with what the other did, and lets other entries through', async () => {
      expect(
        await commit(1, { updated: [{ kind: 'item', id: 'M', from: item('1.00'), to: item('3.00') }] }, 'Ben'),
      ).toMatchObject({ kind: 'conflict', changes: [{ seq: 2, author: 'Ann' }] });
      expect(
        await commit(0, { added: [{ kind: 'item', id: 'N', body: { ...item('1'), code: 'N' } }] }, 'Ben'),
      ).toMatchObject({ kind: 'done', change: { seq: 3 } });
    });
    it('changes nothing at all if a part does not fit', async () => {
      const outcome = await commit(3, {
        added: [{ kind: 'rule', id: 'r', body: {} }],
        updated: [{ kind: 'item', id: 'M', from: item('9.00'), to: item('3.00') }],
      });
      expect(outcome).toMatchObject({ kind: 'misfit', reason: expect.stringContaining('item M') });
      expect(await commit(3, { added: [{ kind: 'item', id: 'N', body: {} }] })).toMatchObject({
        kind: 'misfit',
        reason: 'item N is there already.',
      });
      expect((await repos.projects.listEntries('p')).map((e) => e.id)).toEqual(['M', 'N']);
      expect((await repos.projects.find('p'))!.seq).toBe(3);
      expect(
        await repos.changes.commit({
          projectId: 'none',
          base: 0,
          author: 'x',
          cause: 'x',
          diff: { added: [], updated: [], removed: [] },
        }),
      ).toEqual({ kind: 'missing' });
    });
    it('lists changes with their moves, newest first, and those after a place', async () => {
      const move = {
        before: 1,
        after: 3,
        move: 2,
        causes: { extent: 0, quantity: 2, mapping: 0, price: 0, factors: 0, rounding: 0 },
      };
      await repos.changes.saveMove('p', 2, move);
      const list = await repos.changes.list('p', 10);
      expect(list.map((l) => [l.change.seq, l.move])).toEqual([
        [3, null],
        [2, move],
        [1, null],
      ]);
      expect((await repos.changes.listAfter(list[2]!.change.id, 10)).map((l) => l.change.seq)).toEqual([2, 3]);
      expect((await repos.changes.listByAuthor('p', 'Ben')).map((c) => c.seq)).toEqual([3]);
    });
    it('numbers revisions per source and moves the next key on, never back', async () => {
      await repos.sources.create({ id: 's', projectId: 'p', name: 'model' });
      const row = (id: string) => ({
        id,
        projectId: 'p',
        sourceId: 's',
        fileName: `${id}.ifc`,
        fileHash: id,
        tableHash: id,
        readerVersion: '1',
        state: 'ready' as const,
        elements: 3,
        matched: 0,
        schema: 'IFC4',
        lengthUnit: 'mm',
        findings: [],
      });
      expect((await repos.sources.addRevision(row('a'), 400)).number).toBe(1);
      expect((await repos.sources.addRevision(row('b'), 300)).number).toBe(2);
      expect((await repos.projects.find('p'))!.nextKey).toBe(400);
      await repos.sources.setGeometry('a', 'done', 3);
      expect(await repos.sources.findByFile('p', 'a')).toMatchObject({ geometryState: 'done', chunks: 3 });
      expect((await repos.sources.listRevisions('p')).map((r) => r.id)).toEqual(['b', 'a']);
    });
    it('numbers versions of books, which stay as they are, and names the newest', async () => {
      const entries = [{ kind: 'item', id: 'A', body: { code: 'A' } }];
      const version = (hash: string) => ({ bookId: 'b', hash, entries, note: '', author: 'Ann' });
      await repos.books.create({ id: 'b', name: 'River prices' });
      expect(await repos.books.list()).toEqual([]);
      expect([await repos.books.addVersion(version('h1'), 0), await repos.books.addVersion(version('h2'), 1)]).toEqual([
        1, 2,
      ]);
      // Somebody else was there first.
      expect(await repos.books.addVersion(version('h3'), 1)).toBeNull();
      expect(await repos.books.list()).toEqual([{ id: 'b', name: 'River prices', version: 2, hash: 'h2' }]);
      expect(await repos.books.findVersion('b', 1)).toEqual({ hash: 'h1', entries });
      expect(await repos.books.findVersion('b', 3)).toBeNull();
      expect((await repos.books.listVersions('b')).map((v) => v.number)).toEqual([2, 1]);
      await expect(repos.books.addVersion({ ...version('h3'), bookId: 'none' }, 0)).rejects.toThrow('no book');
    });
    it('finds the changes of an entry in the log, oldest first', async () => {
      const { seq } = (await repos.projects.find('p'))!;
      const body = { code: 'H' };
      const change = (base: number, diff: object) =>
        repos.changes.commit({
          projectId: 'p',
          base,
          author: 'Ann',
          cause: 'x',
          diff: { added: [], updated: [], removed: [], ...diff },
        });
      await change(seq, {
        added: [
          { kind: 'item', id: 'H', body },
          { kind: 'item', id: 'I', body },
        ],
      });
      await change(seq + 1, { updated: [{ kind: 'item', id: 'I', from: body, to: { code: 'I' } }] });
      await change(seq + 2, { updated: [{ kind: 'item', id: 'H', from: body, to: { code: 'h' } }] });
      const logged = await repos.changes.listOfEntry('p', 'item', 'H');
      expect(logged.map((c) => [c.seq, c.body])).toEqual([
        [seq + 1, body],
        [seq + 3, { code: 'h' }],
      ]);
      expect(await repos.changes.listOfEntry('p', 'assembly', 'H')).toEqual([]);
    });
    it('makes a project with its first change and its sources, all or nothing', async () => {
      const first = { author: 'Ann', cause: 'Made', diff: { added: [{ kind: 'settings', id: 'project', body: {} }], updated: [], removed: [] } }; // biome-ignore format: one change
      const source = {
        id: 'r-s',
        kind: 'model' as const,
        projectId: 'r',
        name: 'model',
        createdAt: '2026-01-01T00:00:00Z',
      };
      const made = await repos.changes.createProject({ id: 'r', name: 'R', currency: 'EUR' }, first, {
        sources: [source],
        revisions: [],
      });
      expect(made).toMatchObject({ projectId: 'r', seq: 1, entryCount: 1 });
      expect(await repos.projects.find('r')).toMatchObject({ seq: 1, putAwayAt: null });
      expect(await repos.sources.find('r', 'r-s')).toMatchObject({ name: 'model' });
      // The same source again: nothing of the second project stays.
      const twice = repos.changes.createProject({ id: 'r2', name: 'R2', currency: 'EUR' }, first, {
        sources: [{ ...source, projectId: 'r2' }],
        revisions: [],
      });
      await expect(twice).rejects.toThrow();
      expect(await repos.projects.find('r2')).toBeNull();
    });
    it('knows the changes whose moves are missing, and the projects whose last one is', async () => {
      const move = { before: 0, after: 1, move: 1, causes: {} as never, lines: [] } as never;
      const change = (n: number) =>
        repos.changes.commit({ projectId: 'r', base: n, author: 'Ann', cause: `c${n}`, diff: { added: [{ kind: 'item', id: `i${n}`, body: {} }], updated: [], removed: [] } }); // biome-ignore format: one change
      await change(1);
      await change(2);
      expect(await repos.changes.listUnmoved('r', 10)).toEqual([3, 2, 1]);
      await repos.changes.saveMove('r', 2, move);
      expect(await repos.changes.listUnmoved('r', 10)).toEqual([3]);
      expect(await repos.changes.listUnmovedProjects()).toContain('r');
      await repos.changes.saveMove('r', 3, move);
      expect(await repos.changes.listUnmoved('r', 10)).toEqual([]);
      expect(await repos.changes.listUnmovedProjects()).not.toContain('r');
      expect(await repos.changes.findMove('r', 3)).toMatchObject({ move: 1 });
    });
    it('stores the revision of a job once, however often it is stored, and says so in the job', async () => {
      const job = await repos.jobs.create({ id: 'j-r', projectId: 'r', sourceId: 'r-s', fileName: 'a.ifc', fileHash: 'h', author: 'Ann' }); // biome-ignore format: one job
      const row = { id: job.id, projectId: 'r', sourceId: 'r-s', fileName: 'a.ifc', fileHash: 'h', tableHash: 't', readerVersion: '3', state: 'ready' as const, elements: 1, matched: 0, schema: 'IFC4', lengthUnit: 'mm', findings: [] }; // biome-ignore format: one revision
      const [a, b] = [await repos.sources.addRevision(row, 5, job.id), await repos.sources.addRevision(row, 5, job.id)];
      expect([a.number, b.number]).toEqual([1, 1]);
      expect(await repos.sources.listRevisions('r')).toHaveLength(1);
      expect(await repos.jobs.find('j-r')).toMatchObject({ revisionId: 'j-r', attempts: 0 });
      expect((await repos.jobs.begin('j-r')).attempts).toBe(1);
      await repos.jobs.forgive('j-r');
      await repos.jobs.begin('j-r');
      expect(await repos.jobs.find('j-r')).toMatchObject({ attempts: 1, state: 'running' });
      expect(await repos.jobs.requeue('j-r')).toMatchObject({ attempts: 0, state: 'queued' });
      await repos.jobs.update('j-r', { state: 'done' });
    });
    it('lets a change through, and takes one back, where another touched the same and put it back', async () => {
      await open.db.insert(projects).values({ id: 'q', name: 'Quay', currency: 'EUR' });
      const change = (base: number, author: string, diff: object, undoes?: number) =>
        repos.changes.commit({
          ...{ projectId: 'q', base, author, cause: 'test', undoes },
          diff: { added: [], updated: [], removed: [], ...diff },
        });
      const rate = (from: string, to: string) => ({
        updated: [{ kind: 'item', id: 'M', from: item(from), to: item(to) }],
      });
      await change(0, 'Ann', { added: [{ kind: 'item', id: 'M', body: item('1') }] });
      await change(1, 'Ann', rate('1', '2'));
      await change(2, 'Ben', rate('2', '5'));
      // As long as it is otherwise, what the other did is told.
      expect(await change(2, 'Ann', rate('2', '1'), 2)).toMatchObject({
        kind: 'conflict',
        changes: [{ author: 'Ben' }],
      });
      await change(3, 'Ben', rate('5', '2'));
      expect(await change(2, 'Ann', rate('2', '1'), 2)).toMatchObject({ kind: 'done', change: { seq: 5 } });
      await change(5, 'Ben', rate('1', '7'));
      await change(6, 'Ben', rate('7', '1'));
      expect(await change(5, 'Ann', rate('1', '3'))).toMatchObject({ kind: 'done', change: { seq: 8 } });
    });
    it('keeps jobs and finds those that were cut off', async () => {
      await repos.jobs.create({
        id: 'j',
        projectId: 'p',
        sourceId: null,
        fileName: 'f.ifc',
        fileHash: 'h',
        author: 'Ann',
      });
      expect((await repos.jobs.listUnfinished()).map((j) => j.id)).toEqual(['j']);
      expect(await repos.jobs.update('j', { state: 'failed', problem: { code: 'x', message: 'no' } })).toMatchObject({
        state: 'failed',
        problem: { code: 'x' },
      });
      expect(await repos.jobs.listUnfinished()).toEqual([]);
      expect(await repos.jobs.listByFile('p', 'h')).toHaveLength(1);
    });
  });
}

suite('the embedded database', async () => ({ location: { memory: true }, stop: () => undefined }));
if (hasPostgres()) {
  suite('PostgreSQL', async () => {
    const { url, stop } = await startPostgres();
    return { location: { url }, stop };
  });
} else {
  it('PostgreSQL is not installed here: its half of the repository suite was not run', () => {
    console.warn('PostgreSQL is not installed here: its half of the repository suite was not run.');
  });
}

describe('the data folder', () => {
  it('reaches the disk with every commit, and opens again with what was saved', async () => {
    const folder = join(mkdtempSync(join(tmpdir(), 'tally-db-')), 'database');
    const first = await openDatabase({ folder });
    const before = DurableNodeFS.calls;
    await first.db.insert(projects).values({ id: 'x', name: 'X', currency: 'EUR' });
    expect(DurableNodeFS.calls).toBeGreaterThan(before);
    await first.close();
    const second = await openDatabase({ folder });
    expect((await bindRepositories(second.db).projects.list()).map((p) => p.id)).toEqual(['x']);
    await second.close();
  });
});
