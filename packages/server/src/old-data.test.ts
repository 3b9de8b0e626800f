import { cpSync, readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { ChangeDto, ElementStatesDto } from '@tally/core';
import { TestServer } from './testing/run-server.ts';

const kept = resolve(__dirname, 'testing/old-data');
const migrations = resolve(__dirname, '../migrations');
type Rows = Readonly<Record<string, readonly object[]>>;

/** Lays down the data folder of an older version: its tables as they were made then, the rows and files it wrote. */
async function layDown(folder: string): Promise<void> {
  const rows = JSON.parse(readFileSync(join(kept, 'rows.json'), 'utf8')) as Rows;
  const db = await PGlite.create(join(folder, 'database'));
  const made = rows['drizzle.__drizzle_migrations']!.length;
  for (const name of readdirSync(migrations)
    .filter((f) => f.endsWith('.sql'))
    .sort()
    .slice(0, made))
    await db.exec(readFileSync(join(migrations, name), 'utf8'));
  await db.exec('create schema drizzle; create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)'); // biome-ignore format: one statement
  // What others refer to comes first.
  for (const table of ['drizzle.__drizzle_migrations', 'public.projects', 'public.sources', ...Object.keys(rows)]) {
    const list = JSON.stringify(rows[table]);
    await db.query(`insert into ${table} select * from json_populate_recordset(null::${table}, $1) on conflict do nothing`, [list]); // biome-ignore format: one statement
  }
  for (const table of ['change_log', 'drizzle.__drizzle_migrations'])
    await db.exec(`select setval(pg_get_serial_sequence('${table}', 'id'), (select max(id) from ${table}))`);
  await db.close();
  cpSync(join(kept, 'files'), join(folder, 'files'), { recursive: true });
}

describe('the data folder of an older version', () => {
  const server = new TestServer();
  beforeAll(async () => {
    await layDown(server.data);
    await server.start();
  }, 120_000);
  afterAll(() => server.stop());

  it('opens with its figures, its keys and its way back', async () => {
    const [project] = (await server.call<{ id: string; name: string; total: number }[]>('/projects')).body;
    expect(project).toMatchObject({ name: 'Slipway shed', total: 157_388 });
    const { id } = project!;
    const state = await server.state(id);
    // Walls of 10.32 and 10.92 m2: 10 blocks at 3.40 with 5 % waste and 0.8 h at 48.00 are 74.10 a m2. The one of 10.62 m2 is left out.
    expect(state.summary).toMatchObject({ total: 157_388, counts: { priced: 2, unpriced: 3, leftOut: 1 } });
    expect(state.sources).toMatchObject([
      { kind: 'model', revisions: [{ number: 1, state: 'counting', elements: 6 }] },
    ]);
    expect(state.layer).toMatchObject({ attributes: { 1: { Grade: 'A' } }, leftOut: { 3: 'Stays' } });
    const [states] = (await server.call<ElementStatesDto[]>(`/projects/${id}/elements/states`)).body;
    expect(states!.keys).toEqual([1, 2, 3, 4, 5, 6]);
    const changes = (await server.call<ChangeDto[]>(`/projects/${id}/changes`)).body;
    expect(changes.map((c) => [c.seq, c.author, c.move?.after ?? null])).toEqual([
      [5, 'Ann', 157_388],
      [4, 'Ann', 150_698],
      [3, 'Ann', 226_047],
      [2, 'Ann', 0],
      [1, 'Ann', 0],
    ]);
    // 21.24 m2 at 70.95.
    const undone = await server.call<ChangeDto>(`/projects/${id}/undo`, {}, { 'x-author': 'Ann' });
    expect(undone.body.move).toMatchObject({ before: 157_388, after: 150_698, move: -6_690 });
  }, 60_000);
});
