import type { ProjectSourcesDto } from '@tally/core';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
beforeAll(() => server.start(), 60_000);
afterAll(() => server.stop());

const readRevision = async (project: string) =>
  (await server.call<ProjectSourcesDto>(`/projects/${project}/sources`)).body.sources[0]?.revisions[0];
/** Waits until the only revision of a project is as it is asked for. */
async function waitFor(project: string, states: readonly string[]): Promise<void> {
  for (let n = 0; n < 1200; n++) {
    const revision = await readRevision(project);
    if (revision && states.includes(revision.geometryState)) return;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error(`The revision never came to ${states.join(' or ')}.`);
}
const totalOf = async (project: string) => (await server.state(project)).summary.total;

it('a project that is copied while its model is drawn has the model, its total, and in the end its picture', async () => {
  const project = await server.makeProject();
  await server.send(`/projects/${project}/uploads`, 'R1.ifc', writeBoathouse(REVISIONS.R1));
  await waitFor(project, ['running']);
  const { status, body } = await server.call<{ id: string }>(`/projects/${project}/duplicate`, { name: 'Copy' });
  expect(status).toBe(200);
  const total = await totalOf(project);
  expect(total).toBeGreaterThan(0);
  expect(await totalOf(body.id)).toBe(total);
  await waitFor(project, ['done']);
  await waitFor(body.id, ['done']);
  expect((await readRevision(body.id))!.chunks).toBe((await readRevision(project))!.chunks);
}, 120_000);
