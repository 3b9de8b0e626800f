import type { FindingsPageDto, ProjectSummaryDto } from '@tally/core';
import { writeLodgeModel } from '@tally/demo';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
beforeAll(() => server.start(), 60_000);
afterAll(() => server.stop());

const begin = async (currency: string): Promise<string> => {
  const { body } = await server.call<{ id: string }>('/projects', { name: 'Lodge', currency, withStarter: true });
  await server.send(`/projects/${body.id}/uploads`, 'lodge.ifc', writeLodgeModel());
  return body.id;
};
/** The summary once the model counts. */
async function summaryOf(project: string): Promise<ProjectSummaryDto['summary']> {
  for (let n = 0; n < 600; n++) {
    const { body } = await server.call<ProjectSummaryDto>(`/projects/${project}`);
    const { counts } = body.summary;
    if (counts.priced + counts.unpriced + counts.partly > 10) return body.summary;
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('The model never counted.');
}

describe('a project that begins with the starter', () => {
  it('prices a foreign building whole, and says nothing of rules that are made for others', async () => {
    const id = await begin('EUR');
    const summary = await summaryOf(id);
    expect([summary.counts.unpriced, summary.counts.partly, summary.unknownLines]).toEqual([0, 0, 0]);
    expect(summary.total).toBeGreaterThan(0);
    const { body } = await server.call<FindingsPageDto>(`/projects/${id}/findings`);
    expect(body.findings.filter((f) => /^rule-|^double|^price-/.test(f.finding.code))).toEqual([]);
  }, 90_000);
  it('in another currency has no total of figures in EUR: they are unknown until there is an exchange', async () => {
    const summary = await summaryOf(await begin('USD'));
    expect([summary.total, summary.currency]).toEqual([0, 'USD']);
    expect(summary.unknownLines).toBeGreaterThan(50);
    expect(summary.shortfall).not.toBeNull();
  }, 90_000);
  it('is not begun twice: what is there already is told', async () => {
    const { body } = await server.call<{ id: string }>('/projects', { name: 'Twice', currency: 'EUR', withStarter: true }); // biome-ignore format: one line
    const again = await server.call<{ code: string }>(`/projects/${body.id}/template`, { starter: true });
    expect([again.status, again.body.code]).toEqual([409, 'template-applied']);
  });
  it('is made with a template as it came, or not at all', async () => {
    const make = (template: unknown) => server.call<{ id: string; code: string; detail: string }>('/projects', { name: 'By file', currency: 'EUR', template }); // biome-ignore format: one call
    const count = async () => (await server.call<unknown[]>('/projects')).body.length;
    const before = await count();
    const item = { code: 'M-1', description: 'Bollard', kind: 'material', unit: 'each', rate: '310.00' };
    const settings = { currency: 'EUR', units: 'metric' };
    const { unit: _, ...bare } = item;
    const whole = {
      format: 'crisp-tally-template/1',
      name: 'Ours',
      settings,
      items: [item],
      assemblies: [],
      sections: [],
      rules: [],
    };
    const broken = await make({ ...whole, items: [bare] });
    expect(broken.status).toBe(400);
    expect(broken.body.detail).toMatch(/item.*unit/i);
    expect(await count()).toBe(before);
    const made = await make(whole);
    expect(made.status).toBe(200);
    const { entries } = (
      await server.call<{ entries: { id: string; body: unknown }[] }>(`/projects/${made.body.id}/slices/book`)
    ).body;
    expect(entries.find((e) => e.id === 'M-1')!.body).toMatchObject(item);
  });
});
