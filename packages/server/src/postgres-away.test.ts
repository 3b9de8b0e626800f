import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { KilledServer } from './testing/kill-run.ts';
import { hasPostgres, startPostgres, type TestPostgres } from './testing/postgres.ts';

const folder = () => mkdtempSync(join(tmpdir(), 'tally-pga-'));

(hasPostgres() ? describe : describe.skip)('a PostgreSQL beside the server', () => {
  let postgres: TestPostgres;
  let server: KilledServer;
  beforeAll(async () => {
    postgres = await startPostgres();
    server = new KilledServer(folder(), { DATABASE_URL: postgres.url });
    await server.start();
  }, 60_000);
  afterAll(async () => {
    await server.kill('SIGTERM');
    try {
      postgres.stop();
    } catch {
      // It was away already.
    }
  });

  it('is held by one server; a second one is refused clearly', async () => {
    const second = new KilledServer(folder(), { DATABASE_URL: postgres.url });
    await expect(second.start()).rejects.toThrow('The database of DATABASE_URL is in use by another Crisp Tally');
  }, 60_000);
  it('that goes away fails requests at once and clearly; when it is back they go, and nothing is lost', async () => {
    const make = (name: string) => server.call<{ id: string }>('/projects', { name, currency: 'EUR' });
    const { id } = await make('Before');
    postgres.stop();
    const since = Date.now();
    await expect(make('While')).rejects.toMatchObject({
      status: 503,
      message: expect.stringContaining('database-away'),
    });
    expect(Date.now() - since).toBeLessThan(10_000);
    await postgres.start();
    let made: { id: string } | null = null;
    for (let turn = 0; turn < 50 && !made; turn++) {
      made = await make('After').catch(() => null);
      if (!made) await new Promise((done) => setTimeout(done, 200));
    }
    const projects = await server.call<{ id: string; name: string }[]>('/projects');
    expect(projects.map((p) => p.name)).toEqual(expect.arrayContaining(['Before', 'After']));
    expect(projects.some((p) => p.id === id)).toBe(true);
    // The lock is held again.
    await new Promise((done) => setTimeout(done, 1500));
    const second = new KilledServer(folder(), { DATABASE_URL: postgres.url });
    await expect(second.start()).rejects.toThrow('in use by another');
  }, 120_000);
});
