import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { lock } from 'proper-lockfile';

/** Who holds a data folder. */
interface Holder {
  readonly pid: number;
  /** When that process began, as the system tells it: a number can be given to another process later. Null if it does not tell. */
  readonly started: string | null;
  readonly host: string;
}

/** When a process began, in ticks since the machine did; null where the system does not say, undefined if there is none. */
function readStart(pid: number): string | null | undefined {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name in brackets may hold blanks; the 22nd field is the start.
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    try {
      process.kill(pid, 0);
      return null;
    } catch (error) {
      return (error as NodeJS.ErrnoException).code === 'ESRCH' ? undefined : null;
    }
  }
}

/** True if the holder is a process of this machine that is surely gone. */
export function isGone({ pid, started, host }: Holder): boolean {
  if (host !== hostname()) return false;
  const now = readStart(pid);
  return now === undefined || (now !== null && started !== null && now !== started);
}

function readHolder(path: string): Holder | null {
  try {
    return JSON.parse(readFileSync(path, 'utf8')) as Holder;
  } catch {
    return null;
  }
}

/** The lock was taken away: another process may have the folder, so this one ends before it writes any more. */
function onCompromised(error: Error): void {
  process.stderr.write(`Crisp Tally ends: the lock of the data folder is lost (${error.message}).\n`);
  process.exit(1);
}

/**
 * Takes the data folder for this process; a second one would lose rows silently. A lock whose process is surely dead is replaced at
 * once. Throws with what to do if another process has it.
 */
export async function lockData(folder: string): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true });
  const lockfilePath = join(folder, 'in-use.lock');
  const holderPath = join(folder, 'in-use.json');
  const acquire = () => lock(folder, { stale: 15_000, update: 5_000, lockfilePath, onCompromised });
  const release = await acquire().catch((error: { code?: string }) => {
    if (error.code !== 'ELOCKED') throw error;
    const holder = readHolder(holderPath);
    if (!holder || !isGone(holder))
      throw new Error(
        `The data folder ${folder} is in use by another Crisp Tally${holder ? ` (process ${holder.pid} on ${holder.host})` : ''}. Stop that one, or choose another folder with TALLY_DATA.`,
      );
    rmSync(lockfilePath, { recursive: true, force: true });
    return acquire();
  });
  const own: Holder = { pid: process.pid, started: readStart(process.pid) ?? null, host: hostname() };
  writeFileSync(holderPath, JSON.stringify(own));
  return async () => {
    rmSync(holderPath, { force: true });
    await release();
  };
}
