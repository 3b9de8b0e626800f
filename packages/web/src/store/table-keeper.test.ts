import { encodeElementTable } from '@tally/core';
import { sampleLayer } from '../testing/sample-layer.ts';
import { sampleWalls } from '../testing/sample-table.ts';
import { TableKeeper, type TableSource } from './table-keeper.ts';
import { TableReader, type TablesRequest } from './table-reader.ts';

const request = (grade?: string): TablesRequest => ({
  projectId: 'p',
  revisions: ['r1'],
  layer: sampleLayer(grade ? { attributes: { '12': { Grade: grade } } } : {}),
  settings: {},
  parts: undefined,
});

/** A source that answers when it is let, and can be killed; what it sends is cloned as between threads. */
function openSources() {
  const sources: { asked: TablesRequest[]; die: () => void }[] = [];
  let gate: Promise<void> = Promise.resolve();
  const open = (): TableSource => {
    const reader = new TableReader(async () => encodeElementTable(sampleWalls()));
    const asked: TablesRequest[] = [];
    let die: () => void = () => undefined;
    const died = new Promise<never>((_, fail) => {
      die = () => fail(new Error('It died.'));
    });
    died.catch(() => undefined);
    sources.push({ asked, die });
    return {
      read: async (r) => {
        asked.push(r);
        await gate;
        return structuredClone(await reader.read(r));
      },
      map: async (...of) => reader.map(...of),
      forget: async (id) => reader.forget(id),
      close: () => undefined,
      died,
    };
  };
  const hold = () => {
    let release: () => void = () => undefined;
    gate = new Promise((done) => {
      release = done;
    });
    return () => release();
  };
  return { sources, open, hold };
}
const gradeOf = (tables: Awaited<ReturnType<TableKeeper['read']>>) =>
  tables[0]!.table.properties.find((p) => p.name === 'Grade')?.values[0];

describe('what keeps the tables of a page', () => {
  it('asks for the newest of what waits only, and gives it to all who wait', async () => {
    const { sources, open, hold } = openSources();
    const keeper = new TableKeeper(open);
    const release = hold();
    const first = keeper.read(request('A'));
    await Promise.resolve();
    await Promise.resolve();
    const [second, third] = [keeper.read(request('B')), keeper.read(request('C'))];
    release();
    expect([gradeOf(await first), gradeOf(await second), gradeOf(await third)]).toEqual(['A', 'C', 'C']);
    expect(sources[0]!.asked).toHaveLength(2);
  });
  it('keeps the objects of what did not change', async () => {
    const keeper = new TableKeeper(openSources().open);
    const [before] = await keeper.read(request('A'));
    const [after] = await keeper.read(request('B'));
    expect(after!.table.boxes).toBe(before!.table.boxes);
    expect(after!.plain).toBe(before!.plain);
    expect((await keeper.read(request('B')))[0]).toBe(after);
  });
  it('starts again what died while it was asked, and goes on', async () => {
    const { sources, open, hold } = openSources();
    const keeper = new TableKeeper(open);
    await keeper.read(request('A'));
    const release = hold();
    const asked = keeper.read(request('B'));
    await new Promise((done) => setTimeout(done, 5));
    sources[0]!.die();
    release();
    expect(gradeOf(await asked)).toBe('B');
    expect(sources).toHaveLength(2);
  });
  it('gives up after some starts, and says what to do', async () => {
    let starts = 0;
    const keeper = new TableKeeper(() => {
      starts++;
      const died = Promise.reject(new Error('no memory'));
      died.catch(() => undefined);
      return {
        read: () => new Promise(() => undefined),
        map: async () => [],
        forget: async () => undefined,
        close: () => undefined,
        died,
      };
    });
    await expect(keeper.read(request())).rejects.toThrow('Reload the page');
    expect(starts).toBe(3);
  });
  it('reads a project anew that was let go', async () => {
    const { open } = openSources();
    const keeper = new TableKeeper(open);
    const [before] = await keeper.read(request());
    keeper.forget('p');
    await new Promise((done) => setTimeout(done, 5));
    const [after] = await keeper.read(request());
    expect(after!.table).not.toBe(before!.table);
    expect(after!.table).toEqual(before!.table);
  });
  it('says who decides about what was read, and nothing of what was not', async () => {
    const keeper = new TableKeeper(openSources().open);
    const rule = { id: 'w', name: 'W', scope: { field: 'class', op: 'is', value: 'IfcWall' }, section: 's', item: 'X', driver: 'Length' } as const; // biome-ignore format: one rule
    expect(await keeper.map('p', [rule], [])).toEqual([]);
    await keeper.read(request());
    const [{ id, mapping }] = (await keeper.map('p', [rule], [])) as [Awaited<ReturnType<TableKeeper['map']>>[number]];
    expect([id, mapping.mapped.map((m) => [m.id, [...m.rows]])]).toEqual(['r1', [['w', [0, 1, 2]]]]);
  });
  it('keeps a project that is let go and asked for at once, as when its page is left for another', async () => {
    const keeper = new TableKeeper(openSources().open);
    const [before] = await keeper.read(request());
    keeper.forget('p');
    expect((await keeper.read(request()))[0]).toBe(before);
  });
});
