import { execFileSync, spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readdirSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const FOLDER = '/usr/lib/postgresql';

/** True if Debian's package of PostgreSQL is installed here. */
export const hasPostgres = (): boolean => existsSync(FOLDER) && readdirSync(FOLDER).length > 0;

/** A PostgreSQL of Debian's package on a free loopback port, with data of its own, as a user that is not root. */
export interface TestPostgres {
  readonly url: string;
  /** Starts it, and waits until it answers. */
  readonly start: () => Promise<void>;
  /** Ends it at once, as a crash would. */
  readonly stop: () => void;
}

export async function startPostgres(): Promise<TestPostgres> {
  const bin = join(FOLDER, readdirSync(FOLDER).sort().at(-1)!, 'bin');
  const folder = mkdtempSync(join(tmpdir(), 'tally-pg-'));
  chmodSync(folder, 0o777);
  const isRoot = process.getuid?.() === 0;
  const as = (command: string, args: string[]): [string, string[]] =>
    isRoot ? ['runuser', ['-u', 'postgres', '--', command, ...args]] : [command, args];
  const data = join(folder, 'data');
  const quiet = { stdio: 'ignore' as const, cwd: folder };
  execFileSync(...as(join(bin, 'initdb'), ['-D', data, '-U', 'tally', '-A', 'trust', '-N']), quiet);
  const port = await new Promise<number>((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port: free } = probe.address() as { port: number };
      probe.close(() => resolve(free));
    });
  });
  const start = async () => {
    spawn(...as(join(bin, 'postgres'), ['-D', data, '-p', String(port), '-h', '127.0.0.1', '-k', folder, '-F']), quiet);
    for (let i = 0; ; i++) {
      try {
        execFileSync(join(bin, 'pg_isready'), ['-h', '127.0.0.1', '-p', String(port)], { stdio: 'ignore' });
        return;
      } catch (error) {
        if (i > 100) throw error;
        await new Promise((r) => setTimeout(r, 100));
      }
    }
  };
  await start();
  return {
    url: `postgres://tally@127.0.0.1:${port}/postgres`,
    start,
    stop: () => execFileSync(...as(join(bin, 'pg_ctl'), ['-D', data, 'stop', '-m', 'immediate']), quiet),
  };
}
