import fc from 'fast-check';
import { hostileRequests, judgeAnswer } from './testing/hostile-requests.ts';
import { TestServer } from './testing/run-server.ts';

const server = new TestServer();
beforeAll(() => server.start());
afterAll(() => server.stop());

describe('requests that no page of ours sends', () => {
  it('are refused in words, with a code, and never as our own fault', async () => {
    const id = await server.makeProject();
    const requests = fc.sample(hostileRequests(id), { seed: 11, numRuns: 600 });
    const faults: string[] = [];
    for (const request of requests) {
      const fault = await judgeAnswer(server.base, request);
      if (fault)
        faults.push(`${request.method} ${request.path.slice(0, 80)} ${request.body?.slice(0, 120) ?? ''} -> ${fault}`);
    }
    expect(faults).toEqual([]);
    expect((await server.state(id)).project.id).toBe(id);
  }, 240_000);
});
