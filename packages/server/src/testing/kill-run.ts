import { type ChildProcess, spawn } from 'node:child_process';
import { resolve } from 'node:path';
import type { ChangeDto, ProjectListDto, ProjectSourcesDto } from '@tally/core';
import { readState } from './read-state.ts';

const root = resolve(import.meta.dirname, '../../../..');

/** What a run of kills found. All but `kills` and the times are to be 0. */
export interface KillFindings {
  kills: number;
  /** Changes that were answered as done and are not there. */
  lost: number;
  /** The same content as two revisions of one source. */
  doubled: number;
  /** Projects whose total in the list is not that of their plan. */
  stale: number;
  /** Changes that stay without a move. */
  unmoved: number;
  /** Pictures that are under way while nothing draws them. */
  unfinished: number;
  /** Starts that failed. */
  failedStarts: number;
  /** What the server logged as an unhandled rejection or an error of its own. */
  logged: string[];
  /** Milliseconds from the start of the process to its address: of the first, undisturbed start, and of the slowest after a kill. */
  firstStartMs: number;
  slowestStartMs: number;
}

/** A server that is started, killed and started again on one data folder. */
export class KilledServer {
  private child: ChildProcess | null = null;
  base = '';
  readonly logged: string[] = [];

  constructor(
    readonly data: string,
    private readonly env: Record<string, string> = {},
  ) {}

  /** Starts the server; milliseconds until it says its address. Rejects if it ends before. */
  async start(): Promise<number> {
    const since = performance.now();
    const child = spawn(process.execPath, ['packages/server/dist/main.js'], {
      cwd: root,
      env: { ...process.env, NODE_OPTIONS: '', TALLY_DATA: this.data, TALLY_DEMO: '', PORT: '0', ...this.env },
    });
    this.child = child;
    let output = '';
    await new Promise<void>((done, failed) => {
      const read = (part: Buffer) => {
        output += part;
        for (const line of String(part).split('\n'))
          if (/"level":(50|60)/.test(line)) this.logged.push(line.slice(0, 400));
        const address = /http:\/\/localhost:\d+/.exec(output);
        if (!address) return;
        this.base = `${address[0]}/api`;
        done();
      };
      child.stdout.on('data', read);
      child.stderr.on('data', read);
      child.on('exit', (code) => failed(new Error(`The server ended (${code}): ${output.slice(-400)}`)));
    });
    return performance.now() - since;
  }

  get pid(): number {
    return this.child!.pid!;
  }

  async kill(signal: 'SIGKILL' | 'SIGTERM' = 'SIGKILL'): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null) return;
    const ended = new Promise((done) => child.once('exit', done));
    child.kill(signal);
    await ended;
  }

  async call<T>(path: string, body?: unknown): Promise<T> {
    const res = await fetch(this.base + path, {
      method: body === undefined ? 'GET' : 'POST',
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    const answer = (await res.json()) as T;
    if (!res.ok) throw Object.assign(new Error(JSON.stringify(answer)), { status: res.status });
    return answer;
  }
}

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/**
 * Edits prices and brings revisions while the server is killed again and again, at moments that chance gives; then looks whether
 * everything that was answered is there, once.
 * @param models texts of model files, each brought until it is there
 */
export async function runKills(
  data: string,
  kills: number,
  models: readonly string[],
  chance: () => number,
): Promise<KillFindings> {
  const server = new KilledServer(data);
  const firstStartMs = await server.start();
  const { id } = await server.call<{ id: string }>('/projects', {
    name: 'Killed',
    currency: 'EUR',
    withTemplate: true,
  });
  const answered: { seq: number; cause: string }[] = [];
  const found: KillFindings = {
    kills: 0, lost: 0, doubled: 0, stale: 0, unmoved: 0, unfinished: 0, failedStarts: 0, logged: [], firstStartMs, slowestStartMs: 0,
  }; // biome-ignore format: all of them
  let n = 0;
  const edit = async () => {
    const state = await readState((path) => server.call(path), id);
    const from = state.basis.items.find((i) => i.code === 'M-LOCK')!;
    const cause = `edit ${++n}`;
    const to = { ...from, rate: `${100 + n}.00` };
    const change = await server.call<ChangeDto>(`/projects/${id}/changes`, {
      base: state.project.seq,
      cause,
      diff: { added: [], updated: [{ kind: 'item', id: 'M-LOCK', from, to }], removed: [] },
    });
    answered.push({ seq: change.seq, cause });
  };
  const bring = async () => {
    const name = `m${Math.floor(chance() * models.length)}`;
    const form = new FormData();
    form.append('file', new Blob([models[Number(name.slice(1))]!]), `boat ${name}.ifc`);
    await fetch(`${server.base}/projects/${id}/uploads`, { method: 'POST', body: form });
  };
  for (let kill = 0; kill < kills; kill++) {
    let isGone = false;
    const work = (async () => {
      while (!isGone) await (chance() < 0.3 ? bring() : edit());
    })().catch(() => undefined);
    await wait(50 + chance() * 2500);
    isGone = true;
    await server.kill();
    found.kills++;
    await work;
    try {
      found.slowestStartMs = Math.max(found.slowestStartMs, await server.start());
    } catch (error) {
      found.failedStarts++;
      found.logged.push(String(error));
      await wait(2000);
      await server.start();
    }
  }
  await settle(server, id);
  const changes = await server.call<ChangeDto[]>(`/projects/${id}/changes?limit=500`);
  const there = new Map(changes.map((c) => [c.seq, c.cause]));
  const oldest = Math.min(...there.keys());
  found.lost = answered.filter((a) => a.seq >= oldest && there.get(a.seq) !== a.cause).length;
  found.unmoved = changes.filter((c) => c.move === null).length;
  const state = await readState((path) => server.call(path), id);
  for (const source of state.sources) {
    const names = source.revisions.map((r) => r.fileName);
    found.doubled += names.length - new Set(names).size;
    found.unfinished += source.revisions.filter((r) => r.geometryState === 'running').length;
  }
  const listed = (await server.call<ProjectListDto[]>('/projects')).find((p) => p.id === id);
  if (listed?.total !== state.summary.total) found.stale++;
  found.logged.push(...server.logged.filter((l) => /isUnhandled|"status":500/.test(l)));
  await server.kill('SIGTERM');
  return found;
}

/** Waits until no import is under way. */
async function settle(server: KilledServer, id: string): Promise<void> {
  for (let turn = 0; turn < 600; turn++) {
    const { jobs } = await server.call<ProjectSourcesDto>(`/projects/${id}/sources`);
    if (jobs.every((j) => j.state !== 'queued' && j.state !== 'running')) return;
    await wait(200);
  }
}
