import { gunzipSync } from 'node:zlib';
import { EngineGone, EnginePool, type PlanEngine } from './engine-pool.ts';
import { PreviewDropped } from './preview-gate.ts';

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
const ROOM = { bytes: Number.MAX_SAFE_INTEGER, plans: 2, waitMs: 40_000 };

/** A pool whose engines hold an empty plan. */
const makePool = (bounds = ROOM) => {
  const loads: string[] = [];
  const pool = new EnginePool(async (projectId, engine) => {
    loads.push(projectId);
    await engine.ask('update', { currency: 'EUR', items: [], assemblies: [], sections: [], rules: [], pins: [] }, [], NONE, { statedShare: 0.02 }); // biome-ignore format: an empty plan
  }, bounds);
  return { pool, loads };
};
const NONE = {
  attributes: new Map(), finishes: new Map(), wallFinishes: new Map(), zones: new Map(), facts: new Map(), leftOut: new Set<number>(),
  materials: [], choices: {}, overrides: [], drawnRooms: new Map(), allowances: new Map(), functionalUnits: [], limits: [], chosenFaces: new Map(),
}; // biome-ignore format: nothing added
const digits = (engine: PlanEngine) => engine.ask('digits');

describe('the engines of the projects in use', () => {
  it('are never put away while they work: six projects at once with room for two', async () => {
    const { pool } = makePool();
    const use = (id: string) =>
      pool.withEngine(id, async (engine) => {
        await wait(50);
        return digits(engine);
      });
    expect(await Promise.all(['a', 'b', 'c', 'd', 'e', 'f'].map(use))).toEqual([2, 2, 2, 2, 2, 2]);
    expect(pool.size).toBeLessThanOrEqual(2);
    await pool.close();
  }, 60_000);
  it('are kept for the next question; the one not used for longest goes', async () => {
    const { pool, loads } = makePool();
    for (const id of ['a', 'b', 'a', 'c', 'a', 'b']) await pool.withEngine(id, digits);
    expect(loads).toEqual(['a', 'b', 'c', 'b']);
    await pool.close();
  }, 60_000);
  it('that go away under a task are made anew, and the task done once more', async () => {
    const { pool, loads } = makePool();
    let times = 0;
    const value = await pool.withEngine('a', async (engine) => {
      if (times++ === 0) await engine.stop();
      return digits(engine);
    });
    expect([value, times, loads]).toEqual([2, 2, ['a', 'a']]);
    await pool.close();
  }, 60_000);
  it('preview against the state that they hold, and not while it becomes another', async () => {
    const { pool } = makePool();
    await pool.withEngine('a', async (engine) => {
      const basis = { currency: 'EUR', items: [], assemblies: [], sections: [], rules: [], pins: [] };
      const update = () => engine.ask('update', basis, [], NONE, { statedShare: 0.02 });
      engine.seq = 3;
      expect(await engine.preview(basis, 3)).toMatchObject({ move: 0 });
      await expect(engine.preview(basis, 2)).rejects.toBeInstanceOf(PreviewDropped);
      // One that runs when a change comes, one that comes meanwhile, one before the change is said to be in.
      const [running, updated] = [engine.preview(basis, 3).catch((e: unknown) => e), update()];
      await expect(engine.preview(basis, 3)).rejects.toBeInstanceOf(PreviewDropped);
      await updated;
      expect([(await running) instanceof PreviewDropped, (await running) instanceof Error]).not.toEqual([false, true]);
      await expect(engine.preview(basis, 3)).rejects.toBeInstanceOf(PreviewDropped);
      engine.seq = 4;
      expect(await engine.preview(basis, 4)).toMatchObject({ move: 0 });
    });
    await pool.close();
  }, 60_000);
  it('compare two states after a change that is under way, and not for somebody who has gone', async () => {
    const { pool } = makePool();
    await pool.withEngine('a', async (engine) => {
      const basis = { currency: 'EUR', items: [], assemblies: [], sections: [], rules: [], pins: [] };
      const compare = (signal?: AbortSignal) => engine.compare([null, null, 'section'], signal);
      const nothing = { ok: true, value: { move: { move: 0 }, groups: [] } };
      const updated = engine.ask('update', basis, [], NONE, { statedShare: 0.02 });
      const gone = new AbortController();
      const [first, second] = [compare(), compare(gone.signal)];
      gone.abort();
      await expect(second).rejects.toBeInstanceOf(PreviewDropped);
      expect(await first).toMatchObject(nothing);
      await updated;
      // The one that was given up holds up nobody.
      expect(await compare()).toMatchObject(nothing);
      const late = new AbortController();
      late.abort();
      await expect(compare(late.signal)).rejects.toBeInstanceOf(PreviewDropped);
    });
    await pool.close();
  }, 60_000);
  it('that go away again and again are told, and the next task has a fresh one', async () => {
    const { pool } = makePool();
    const broken = pool.withEngine('a', async (engine) => {
      await engine.stop();
      return digits(engine);
    });
    await expect(broken).rejects.toBeInstanceOf(EngineGone);
    expect(await pool.withEngine('a', digits)).toBe(2);
    await pool.close();
  }, 60_000);
  it('read the same once for many, and packed once', async () => {
    const { pool } = makePool();
    await pool.withEngine('a', async (engine) => {
      const [one, two] = await Promise.all([
        engine.read('group', { by: ['storey'] }),
        engine.read('group', { by: ['storey'] }),
      ]);
      expect(one).toBe(two);
      expect(JSON.parse(gunzipSync(one.gzip).toString())).toEqual(await engine.ask('group', { by: ['storey'] }));
      expect(await engine.read('group', { by: ['kind'] })).not.toBe(one);
    });
    await pool.close();
  }, 60_000);
  it('answer from the state before while they are updated, from the new one once that is said', async () => {
    const { pool } = makePool();
    await pool.withEngine('a', async (engine) => {
      const euros = await engine.read('group', { by: ['storey'] });
      const updated = engine.ask('update', { currency: 'JPY', items: [], assemblies: [], sections: [], rules: [], pins: [] }, [], NONE, { statedShare: 0.02 }); // biome-ignore format: an empty plan
      expect(await engine.read('group', { by: ['storey'] })).toBe(euros);
      await updated;
      expect(await engine.read('group', { by: ['storey'] })).not.toBe(euros);
      expect(await engine.ask('digits')).toBe(0);
    });
    await pool.close();
  }, 60_000);
  it('that cannot be loaded fail for themselves', async () => {
    let isBroken = true;
    const pool = new EnginePool(async (id) => {
      if (id === 'bad' && isBroken) throw new Error('no table');
    }, ROOM);
    await expect(pool.withEngine('bad', async () => 1)).rejects.toThrow('no table');
    expect(await pool.withEngine('good', async () => 1)).toBe(1);
    isBroken = false;
    expect(await pool.withEngine('bad', async () => 1)).toBe(1);
    await pool.close();
  }, 60_000);
  it('say that there is no room when all are in use for too long', async () => {
    const { pool } = makePool({ ...ROOM, plans: 1, waitMs: 100 });
    const long = pool.withEngine('a', async () => wait(1500));
    await wait(50);
    await expect(pool.withEngine('b', digits)).rejects.toMatchObject({ status: 503, problem: { code: 'server-busy' } });
    await long;
    expect(await pool.withEngine('b', digits)).toBe(2);
    await pool.close();
  }, 60_000);
});
