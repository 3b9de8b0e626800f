import type { EntryDiff, ProjectPractice } from '@tally/core';
import { writeLodgeModel } from '@tally/demo';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
beforeAll(() => server.start(), 60_000);
afterAll(() => server.stop());

const make = async (name: string) =>
  (await server.call<{ id: string }>('/projects', { name, currency: 'EUR' })).body.id;
const read = async (id: string) =>
  (await server.call<{ projects: ProjectPractice[] }>(`/projects/${id}/practice`)).body.projects;
async function commit(id: string, cause: string, diff: Partial<EntryDiff>): Promise<void> {
  const { project } = await server.state(id);
  const body = { base: project.seq, cause, diff: { added: [], updated: [], removed: [], ...diff } };
  const { status } = await server.call(`/projects/${id}/changes`, body);
  expect(status).toBe(200);
}
async function untilCounting(id: string): Promise<void> {
  for (let n = 0; n < 600; n++) {
    const { counts } = (await server.state(id)).summary;
    if (counts.unpriced + counts.priced > 10) return;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('The model never counted.');
}

describe('what earlier projects did', () => {
  it('is told to others while the project is in use and not kept out, and follows what is decided', async () => {
    const [earlier, later] = [await make('Earlier'), await make('Later')];
    await server.send(`/projects/${earlier}/uploads`, 'lodge.ifc', writeLodgeModel());
    await untilCounting(earlier);
    expect(await read(later)).toEqual([]);
    const rule = { id: 'doors', name: 'Doors', scope: { field: 'class', op: 'is', value: 'IfcDoor' }, section: 'fit', item: 'DOOR', driver: 'Count' }; // biome-ignore format: one rule
    await commit(earlier, 'Doors priced', {
      added: [
        { kind: 'section', id: 'fit', body: { id: 'fit', name: 'Fit-out' } },
        { kind: 'item', id: 'DOOR', body: { code: 'DOOR', description: 'Door', kind: 'material', unit: 'each', rate: '400' } },
        { kind: 'rule', id: 'doors', body: rule },
      ],
    }); // biome-ignore format: an entry a line
    const [told] = await read(later);
    expect([told!.name, Date.parse(told!.at) > 0]).toEqual(['Earlier', true]);
    expect(told!.rows.every((r) => r.ifcClass === 'IfcDoor' && r.code === 'DOOR' && r.section === 'Fit-out')).toBe(
      true,
    );
    expect(told!.rows.reduce((n, r) => n + r.elements, 0)).toBeGreaterThan(0);
    // Not to itself.
    expect(await read(earlier)).toEqual([]);
    const settings = { currency: 'EUR', units: 'metric' };
    const settle = (from: object, to: object) => commit(earlier, 'Kept out', { updated: [{ kind: 'settings', id: 'project', from, to }] }); // biome-ignore format: one line
    await settle(settings, { ...settings, keptOut: true });
    expect(await read(later)).toEqual([]);
    await settle({ ...settings, keptOut: true }, settings);
    expect(await read(later)).toHaveLength(1);
    await commit(earlier, 'Rule removed', { removed: [{ kind: 'rule', id: 'doors', body: rule }] });
    expect(await read(later)).toEqual([]);
  }, 90_000);
  it('of a project that is put away is not told', async () => {
    const all = await server.call<{ id: string; name: string }[]>('/projects');
    const earlier = all.body.find((p) => p.name === 'Earlier')!.id;
    await commit(earlier, 'Undone', {
      added: [
        { kind: 'rule', id: 'all', body: { id: 'all', name: 'All', scope: { all: [] }, section: 'fit', item: 'DOOR', driver: 'Count' } },
      ],
    }); // biome-ignore format: an entry a line
    const later = await make('Latest');
    expect(await read(later)).toHaveLength(1);
    await server.call(`/projects/${earlier}/put-away`, {});
    expect(await read(later)).toEqual([]);
    expect((await server.call('/projects/nobody/practice')).status).toBe(404);
  }, 60_000);
});
