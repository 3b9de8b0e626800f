import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { ProjectStateDto } from '@tally/core';

import { readState } from './read-state.ts';

const root = resolve(__dirname, '../../../..');

/** The server as it is shipped, with its workers, in a process and with data of its own. */
export class TestServer {
  readonly data = mkdtempSync(join(tmpdir(), 'tally-app-'));
  private child: ChildProcess | null = null;
  /** Address of the interface, with `/api`. */
  base = '';

  /** Starts another process on the same data; its output up to the address, or to its end. */
  spawn(): Promise<{ process: ChildProcess; output: string }> {
    const child = spawn(process.execPath, ['packages/server/dist/main.js'], {
      cwd: root,
      env: { ...process.env, NODE_OPTIONS: '', TALLY_DATA: this.data, TALLY_DEMO: '', PORT: '0' },
    });
    return new Promise((done) => {
      let output = '';
      const read = (part: Buffer) => {
        output += part;
        if (/http:\/\/localhost:\d+/.test(output)) done({ process: child, output });
      };
      child.stdout.on('data', read);
      child.stderr.on('data', read);
      child.on('exit', () => done({ process: child, output }));
    });
  }

  async start(): Promise<void> {
    const { process: child, output } = await this.spawn();
    this.child = child;
    this.base = `${/http:\/\/localhost:\d+/.exec(output)![0]}/api`;
  }

  async stop(): Promise<void> {
    this.child!.kill('SIGTERM');
    await new Promise((done) => this.child!.once('exit', done));
  }

  call = async <T>(
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; body: T }> => {
    const res = await fetch(this.base + path, {
      method: body === undefined ? 'GET' : 'POST',
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
    return { status: res.status, body: (await res.json()) as T };
  };

  /** Sends a file as a page does. */
  send = async <T>(
    path: string,
    name: string,
    content: string | Uint8Array,
    fields: Record<string, string> = {},
  ): Promise<{ status: number; body: T }> => {
    const form = new FormData();
    for (const [key, value] of Object.entries(fields)) form.append(key, value);
    form.append('file', new Blob([content as string]), name);
    const res = await fetch(this.base + path, { method: 'POST', body: form, headers: { 'x-author': 'Ann' } });
    return { status: res.status, body: (await res.json()) as T };
  };

  state = (project: string): Promise<ProjectStateDto> =>
    readState(async <T>(path: string) => (await this.call<T>(path)).body, project);

  makeProject = async (withTemplate = true): Promise<string> =>
    (await this.call<{ id: string }>('/projects', { name: 'Own', currency: 'EUR', withTemplate })).body.id;
}
