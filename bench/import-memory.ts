import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ProjectSourcesDto } from '@tally/core';
import { writeWallModel } from '@tally/demo';
import { KilledServer } from '../packages/server/src/testing/kill-run.ts';

const WALLS = 20_000;
const MOST_GB = 1.2;

/** Memory of the server while it takes a large model, against that of the server at rest. Needs `npm run build`. */
export async function benchImportMemory(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'tally-bench-import-'));
  const server = new KilledServer(data);
  try {
    await server.start();
    const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1024;
    const atRest = memory();
    const { id } = await server.call<{ id: string }>('/projects', {
      name: 'Large',
      currency: 'EUR',
      withTemplate: true,
    });
    const form = new FormData();
    form.append('file', new Blob([writeWallModel(WALLS)]), 'walls.ifc');
    await fetch(`${server.base}/projects/${id}/uploads`, { method: 'POST', body: form });
    const peaks = new Map<string, number>();
    for (let isDone = false; !isDone; await new Promise((done) => setTimeout(done, 50))) {
      const job = (await server.call<ProjectSourcesDto>(`/projects/${id}/sources`)).jobs[0];
      const stage = job?.stage ?? '';
      peaks.set(stage, Math.max(peaks.get(stage) ?? 0, memory()));
      if (job?.state === 'failed') throw new Error(job.problem?.message);
      isDone = job?.state === 'done';
    }
    for (const [stage, mb] of peaks)
      console.log(`${stage || 'queued'}: ${mb.toFixed(0)} MB, ${(mb / atRest).toFixed(1)} x at rest`);
    const most = Math.max(...peaks.values()) / 1024;
    console.log(`import of ${WALLS} walls: ${most.toFixed(2)} GB at most (at most ${MOST_GB})`);
  } finally {
    await server.kill();
    rmSync(data, { recursive: true, force: true });
  }
}
