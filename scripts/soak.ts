/**
 * Tries the server hard for some minutes: `npm run soak -- --minutes 20`, or one part of it: `--only kills`. Kills at any moment, damaged files, requests from a
 * generator, 20 projects at once, many readers beside writers, a full disk where rights allow, a PostgreSQL that is restarted where there
 * is one. Prints figures and fails on one lost change, crash, hang, error of the server's own, or plan that differs from one from scratch.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { Agent, get } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ChangeDto, JobDto, ProjectSourcesDto } from '@tally/core';
import { REVISIONS, writeBoathouse, writeWallModel } from '@tally/demo';
import fc from 'fast-check';
import { damageStep, makeChance } from '../packages/ifc/src/testing/damage-file.ts';
import { hostileRequests, judgeAnswer } from '../packages/server/src/testing/hostile-requests.ts';
import { KilledServer, runKills } from '../packages/server/src/testing/kill-run.ts';
import { hasPostgres, startPostgres } from '../packages/server/src/testing/postgres.ts';
import { readState } from '../packages/server/src/testing/read-state.ts';

const minutesAt = process.argv.indexOf('--minutes');
const minutes = minutesAt > 0 ? Number(process.argv[minutesAt + 1]) : 5;
const onlyAt = process.argv.indexOf('--only');
const only = onlyAt > 0 ? process.argv[onlyAt + 1]! : null;
const seed = Date.now() % 100_000;
const chance = makeChance(seed);
const faults: string[] = [];
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
const say = (text: string) => process.stdout.write(`${text}\n`);
const folder = (name: string) => mkdtempSync(join(tmpdir(), `tally-soak-${name}-`));
/** When a part that has a share of the time is over; alone it has all of it. */
const part = (share: number) => Date.now() + minutes * 60_000 * (only ? 1 : share);
const R1 = writeBoathouse(REVISIONS.R1);
const SMALL = writeWallModel(12);

async function upload(server: KilledServer, id: string, name: string, text: string): Promise<JobDto> {
  const form = new FormData();
  form.append('file', new Blob([text]), name);
  return (await (
    await fetch(`${server.base}/projects/${id}/uploads`, { method: 'POST', body: form })
  ).json()) as JobDto;
}

async function jobDone(server: KilledServer, id: string, jobId: string, longestMs: number): Promise<JobDto | null> {
  for (const end = Date.now() + longestMs; Date.now() < end; await wait(100)) {
    const job = (await server.call<ProjectSourcesDto>(`/projects/${id}/sources`)).jobs.find((j) => j.id === jobId);
    if (job && job.state !== 'queued' && job.state !== 'running') return job;
  }
  return null;
}

/** Changes the price of an item of the demo's book; milliseconds until it was answered. */
async function edit(server: KilledServer, id: string, rate: string): Promise<number> {
  const since = performance.now();
  const state = await readState((path) => server.call(path), id);
  const from = state.basis.items.find((i) => i.code === 'M-LARCH')!;
  await server.call<ChangeDto>(`/projects/${id}/changes`, {
    base: state.project.seq,
    cause: `larch at ${rate}`,
    diff: { added: [], updated: [{ kind: 'item', id: from.code, from, to: { ...from, rate } }], removed: [] },
  });
  return performance.now() - since;
}

const makeProject = (server: KilledServer, name: string) =>
  server.call<{ id: string }>('/projects', { name, currency: 'EUR', withTemplate: true }).then((p) => p.id);

async function kills(): Promise<void> {
  const models = [REVISIONS.R1, REVISIONS.R2, REVISIONS.R3].map((r) => writeBoathouse(r));
  let all = 0;
  for (const end = part(0.4); Date.now() < end; ) {
    const found = await runKills(folder('kills'), 20, models, chance);
    all += found.kills;
    const { lost, doubled, stale, unmoved, unfinished, failedStarts, logged, firstStartMs, slowestStartMs } = found;
    const bad = lost + doubled + stale + unmoved + unfinished + failedStarts + logged.length;
    if (bad > 0) faults.push(`kills: ${JSON.stringify(found)}`);
    if (slowestStartMs > firstStartMs + 3000)
      faults.push(`a start after a kill took ${slowestStartMs} ms, unbroken ${firstStartMs} ms`);
    say(
      `kills ${all}: ${lost} lost, ${doubled} doubled, ${stale} stale, slowest start ${Math.round(slowestStartMs)} ms (first ${Math.round(firstStartMs)} ms)`,
    );
  }
}

async function damagedFiles(server: KilledServer): Promise<void> {
  const outcomes: Record<string, number> = {};
  let n = 0;
  const end = part(0.2);
  const sendSome = async () => {
    const id = await makeProject(server, 'Damaged');
    while (Date.now() < end) {
      const name = `damaged ${n++}.ifc`;
      // Many small ones, and now and then a whole building.
      const job = await upload(server, id, name, damageStep(chance() < 0.15 ? R1 : SMALL, chance));
      if (!job.id) continue;
      const since = Date.now();
      const done = await jobDone(server, id, job.id, 60_000);
      const outcome = done ? (done.problem?.code ?? done.state) : 'no answer';
      outcomes[outcome] = (outcomes[outcome] ?? 0) + 1;
      if (!done || Date.now() - since > 30_000 || outcome === 'import-failed')
        faults.push(
          `${name} of seed ${seed}: ${outcome} after ${Date.now() - since} ms ${done?.problem?.message ?? ''}`,
        );
    }
  };
  await Promise.all([sendSome(), sendSome()]);
  say(`damaged files ${n}: ${JSON.stringify(outcomes)}`);
}

async function hostile(server: KilledServer): Promise<void> {
  const id = await makeProject(server, 'Hostile');
  let n = 0;
  for (const end = part(0.1); Date.now() < end; )
    for (const request of fc.sample(hostileRequests(id), 200)) {
      const fault = await judgeAnswer(server.base, request);
      if (fault)
        faults.push(`${request.method} ${request.path.slice(0, 100)} ${request.body?.slice(0, 200) ?? ''}: ${fault}`);
      n++;
    }
  say(`hostile requests ${n}`);
}

/** Twenty projects edited and read at once; then every plan is compared with that of a server started anew. */
async function manyProjects(server: KilledServer): Promise<void> {
  const ids: string[] = [];
  for (let i = 0; i < 20; i++) {
    const id = await makeProject(server, `Many ${i}`);
    const job = await upload(server, id, 'm.ifc', R1);
    await jobDone(server, id, job.id, 120_000);
    ids.push(id);
  }
  let edits = 0;
  for (const end = part(0.1); Date.now() < end; ) {
    const done = await Promise.allSettled(
      ids.flatMap((id) => [
        edit(server, id, `${(30 + chance() * 20).toFixed(2)}`),
        server.call(`/projects/${id}/plan?by=storey`),
      ]),
    );
    for (const d of done) if (d.status === 'rejected') faults.push(`20 projects: ${d.reason}`);
    edits += ids.length;
  }
  const read = async () => Promise.all(ids.map((id) => server.call<object>(`/projects/${id}/plan?by=storey,kind`)));
  const live = JSON.stringify(await read());
  await server.kill('SIGTERM');
  await server.start();
  if (JSON.stringify(await read()) !== live) faults.push('a live plan differs from one from scratch');
  say(`20 projects at once: ${edits} edits`);
}

async function readersAndWriters(server: KilledServer): Promise<void> {
  const id = await makeProject(server, 'Read');
  const job = await upload(server, id, 'm.ifc', R1);
  await jobDone(server, id, job.id, 120_000);
  const p99 = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length * 0.99)] ?? 0;
  const agent = new Agent({ keepAlive: true, maxSockets: 60 });
  // To the last byte; what the reader does with it is its own.
  const read = (isAgain = false): Promise<void> =>
    new Promise<void>((done, failed) => {
      const headers = { 'accept-encoding': 'gzip' };
      const asked = get(`${server.base}/projects/${id}/plan?by=storey`, { agent, headers }, (res) => {
        if (res.statusCode !== 200) faults.push(`a reader: ${res.statusCode}`);
        res.resume().on('end', done).on('error', failed);
      });
      // A connection that was kept may be closed by the server just as it is used again: whoever reads asks once more, as browsers do.
      asked.on('error', (error) => (asked.reusedSocket && !isAgain ? read(true).then(done, failed) : failed(error)));
    });
  const readFor = async (ms: number): Promise<number[]> => {
    const times: number[] = [];
    for (const end = Date.now() + ms; Date.now() < end; ) {
      const since = performance.now();
      await read();
      times.push(performance.now() - since);
      await wait(100 + chance() * 200);
    }
    return times;
  };
  const alone = p99(await readFor(5_000));
  const ms = Math.max(10_000, minutes * 60_000 * 0.08);
  const writers = Array.from({ length: 5 }, async () => {
    for (const end = Date.now() + ms; Date.now() < end; await wait(400))
      await edit(server, id, (30 + chance() * 20).toFixed(2)).catch((e: { status?: number }) => {
        if (e.status !== 409) faults.push(`a writer: ${e}`);
      });
  });
  const many = p99(
    (
      await Promise.all([...Array.from({ length: 50 }, () => readFor(ms)), ...writers.map(() => [] as number[])])
    ).flat(),
  );
  await Promise.all(writers);
  if (many > alone * 5) say(`readers: slower beside writers than 5 x alone`);
  say(
    `readers: p99 ${Math.round(alone)} ms alone, ${Math.round(many)} ms of 50 beside 5 writers (${(many / alone).toFixed(1)} x)`,
  );
}

/** A data folder on a disk of a few megabytes that is filled up: said in words, and gone on with when there is room again. */
async function fullDisk(): Promise<void> {
  const disk = folder('disk');
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=220m', 'tmpfs', disk], { stdio: 'ignore' });
  } catch {
    say('full disk: not tried, a disk cannot be mounted here');
    return;
  }
  const server = new KilledServer(join(disk, 'data'));
  try {
    await server.start();
    const id = await makeProject(server, 'Full');
    const ballast = join(disk, 'ballast');
    for (let size = 200 * 1024 ** 2; size > 1024; size = Math.floor(size / 2))
      try {
        mkdirSync(ballast, { recursive: true });
        writeFileSync(join(ballast, String(size)), Buffer.alloc(size));
      } catch {
        // As much as there is room for.
      }
    const res = await upload(server, id, 'm.ifc', R1.repeat(3)).catch((e: unknown) => ({ code: String(e) }));
    const told = (res as { code?: string }).code ?? '';
    if (told !== 'disk-full') faults.push(`full disk: answered ${JSON.stringify(res).slice(0, 200)}`);
    rmSync(ballast, { recursive: true, force: true });
    const job = await upload(server, id, 'm.ifc', R1);
    if ((await jobDone(server, id, job.id, 120_000))?.state !== 'done')
      faults.push('full disk: nothing goes when there is room again');
    await edit(server, id, '41.00');
    say(`full disk: told ${told}, went on when there was room`);
  } finally {
    await server.kill();
    execFileSync('umount', [disk], { stdio: 'ignore' });
  }
}

/** A PostgreSQL that is ended again and again under writers: what was answered is there, what was not is told as 503. */
async function postgresRestarts(): Promise<void> {
  if (!hasPostgres()) {
    say('PostgreSQL: not tried, there is none here');
    return;
  }
  const postgres = await startPostgres();
  const server = new KilledServer(folder('postgres'), { DATABASE_URL: postgres.url });
  await server.start();
  const id = await makeProject(server, 'Away');
  const answered = new Set<string>();
  let isOver = false;
  let n = 0;
  const writers = Array.from({ length: 3 }, async () => {
    while (!isOver) {
      const rate = (30 + ++n / 100).toFixed(2);
      await edit(server, id, rate).then(
        () => answered.add(`larch at ${rate}`),
        (e: { status?: number }) => {
          if (e.status !== 409 && e.status !== 503) faults.push(`PostgreSQL away: ${e}`);
        },
      );
      await wait(50);
    }
  });
  let restarts = 0;
  for (const end = part(0.08); Date.now() < end; restarts++) {
    await wait(1000 + chance() * 3000);
    postgres.stop();
    await wait(chance() * 2000);
    await postgres.start();
  }
  isOver = true;
  await Promise.all(writers);
  // It answers again some seconds after its database does.
  const read = () => server.call<ChangeDto[]>(`/projects/${id}/changes?limit=500`);
  let changes: ChangeDto[] | null = null;
  for (const end = Date.now() + 20_000; !changes && Date.now() < end; await wait(500))
    changes = await read().catch(() => null);
  if (!changes) {
    faults.push('PostgreSQL is back, and the server does not answer');
    changes = [];
  }
  const there = new Set(changes.map((c) => c.cause));
  const newest = [...answered].slice(-400);
  const lost = newest.filter((cause) => !there.has(cause));
  if (lost.length > 0) faults.push(`PostgreSQL away: ${lost.length} answered changes are gone`);
  say(`PostgreSQL restarted ${restarts} times under 3 writers: ${answered.size} changes answered, ${lost.length} lost`);
  await server.kill('SIGTERM');
  postgres.stop();
}

const onServer = (task: (server: KilledServer) => Promise<void>) => async () => {
  const server = new KilledServer(folder('main'));
  await server.start();
  await task(server);
  faults.push(...server.logged.filter((l) => /isUnhandled/.test(l)));
  await server.kill('SIGTERM');
};
const PARTS: Readonly<Record<string, () => Promise<void>>> = {
  kills,
  damaged: onServer(damagedFiles),
  hostile: onServer(hostile),
  projects: onServer(manyProjects),
  readers: onServer(readersAndWriters),
  disk: fullDisk,
  postgres: postgresRestarts,
};
say(`soak for ${minutes} minutes, seed ${seed}`);
for (const [name, run] of Object.entries(PARTS)) if (only === null || only === name) await run();
for (const fault of faults) say(`FAULT ${fault}`);
say(faults.length === 0 ? 'no fault' : `${faults.length} faults`);
process.exit(faults.length === 0 ? 0 : 1);
