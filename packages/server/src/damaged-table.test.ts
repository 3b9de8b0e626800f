import { readdirSync, truncateSync } from 'node:fs';
import { join } from 'node:path';
import type { ElementStatesDto, JobDto, ListFileDto, ProblemDto } from '@tally/core';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import { TestServer } from './testing/run-server.ts';

const server = new TestServer();
afterAll(() => server.stop());
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

it('makes damaged tables again from their files, of models and of lists, with the keys its elements had', async () => {
  await server.start();
  const id = await server.makeProject();
  const bring = async (revision: keyof typeof REVISIONS) => {
    const job = await server.send<JobDto>(
      `/projects/${id}/uploads`,
      `boat-${revision}.ifc`,
      writeBoathouse(REVISIONS[revision]),
    );
    for (;;) {
      const state = await server.state(id);
      if (state.jobs.find((j) => j.id === job.body.id)?.state === 'done') return state;
      await wait(200);
    }
  };
  await bring('R1');
  const { total } = (await bring('R2')).summary;
  const list = await server.send<ListFileDto>(
    `/projects/${id}/lists`,
    'yard.csv',
    'Code;Text;Qty;Unit\nM-LOCK;Locker;3;each\n',
  );
  const { profile, fileHash, fileName, name } = list.body;
  await server.call(`/projects/${id}/lists/${fileHash}/take`, { profile, sourceId: null, name, fileName });
  // Three lockers more, 128.00 each.
  let { summary } = await server.state(id);
  for (; summary.total !== total + 38_400; summary = (await server.state(id)).summary) await wait(100);
  const read = async () => (await server.call<ElementStatesDto[]>(`/projects/${id}/elements/states`)).body;
  const before = await read();
  await server.stop();
  // A disk that lost the ends of all tables.
  const tables = join(server.data, 'files/tables');
  for (const name of readdirSync(tables)) truncateSync(join(tables, name), 500);
  await server.start();
  const refused = await server.call<ProblemDto>(`/projects/${id}`);
  expect([refused.status, refused.body.code]).toEqual([503, 'table-damaged']);
  let state = await server.call<{ summary: { total: number } }>(`/projects/${id}`);
  for (let turn = 0; state.status !== 200 && turn < 200; turn++) {
    await wait(200);
    state = await server.call(`/projects/${id}`);
  }
  expect(state.body.summary.total).toBe(summary.total);
  expect(await read()).toEqual(before);
  // The older one is made again when a file is matched with it, or it is to count.
  expect((await bring('R3')).jobs[0]!.problem).toBeNull();
}, 120_000);
