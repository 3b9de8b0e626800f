import { startWorker } from '@tally/ifc';
import { HttpProblem } from '../http/http-problem.ts';
import type { DbReply, DbRequest } from './db-worker.ts';
import type { DatabaseLocation } from './open-database.ts';
import { type Repositories, repositories } from './repositories.ts';

export interface DbClient extends Repositories {
  readonly close: () => Promise<void>;
}

/** The database does not answer: what was asked may be asked again. */
const databaseAway = (cause: string) =>
  new HttpProblem(503, {
    code: 'database-away',
    message: `The database does not answer: ${cause}`,
    remedy: 'Try again in a moment. If it stays, look whether it is running, and at the log of the server.',
  });

/** Codes of a PostgreSQL, or of the way to it, that say that it is not there now. */
const AWAY = /^(ECONN|EPIPE|ETIMEDOUT|ENOTFOUND|EHOSTUNREACH|08|57P0|53300)/;
/** A disk or folder that takes nothing more, as the system says it or in words of the embedded database. */
const FULL = /ENOSPC|No space left|could not (?:extend|write|fsync)|disk full/i;
const READ_ONLY = /EROFS|EACCES|EPERM|Read-only file system|read-only/i;

/** An error of the database as the rest of the server understands it. */
function toError({ message, code }: { message: string; code?: string }): Error {
  if (
    AWAY.test(code ?? '') ||
    /Connection terminated|timeout exceeded when trying to connect|is not queryable|Client was closed/.test(message)
  )
    return databaseAway(message);
  if (FULL.test(message) || code === '53100')
    return new HttpProblem(507, {
      code: 'disk-full',
      message: 'The disk of the data folder is full; the change was not saved.',
      remedy: 'Make room on it, then try again; nothing needs to be started anew.',
    });
  if (READ_ONLY.test(message))
    return new HttpProblem(507, {
      code: 'folder-read-only',
      message: 'The data folder cannot be written; the change was not saved.',
      remedy: 'Let the server write there, then try again.',
    });
  return Object.assign(new Error(message), { code });
}

/**
 * Starts the database thread and returns its repositories. Rejects with a clear message if it cannot be opened.
 * @param onGone called once if the thread ends by itself: from then on everything asked fails at once
 */
export async function startDatabase(location: DatabaseLocation, onGone: (cause: Error) => void): Promise<DbClient> {
  const worker = startWorker(import.meta.url, 'db-worker', location);
  const waiting = new Map<number, { resolve: (value: never) => void; reject: (error: Error) => void }>();
  let last = 0;
  let gone: Error | null = null;
  let isClosing = false;
  worker.on('message', (reply: DbReply) => {
    const promise = waiting.get(reply.id);
    waiting.delete(reply.id);
    if ('error' in reply) promise?.reject(toError(reply.error));
    else promise?.resolve(reply.value as never);
  });
  const end = (cause: string) => {
    if (gone) return;
    gone = databaseAway(cause);
    for (const { reject } of waiting.values()) reject(gone);
    waiting.clear();
    if (!isClosing) onGone(gone);
  };
  worker.on('error', (error) => end(error.message));
  worker.on('exit', (code) => end(`its thread ended (${code})`));
  await new Promise<void>((resolve, reject) => waiting.set(0, { resolve, reject }));
  const call = (repository: string, method: string, args: unknown[]) =>
    new Promise((resolve, reject) => {
      if (gone) return reject(gone);
      const id = ++last;
      waiting.set(id, { resolve, reject });
      worker.postMessage({ id, repository, method, args } satisfies DbRequest);
    });
  const bound = Object.entries(repositories).map(([name, repository]) => [
    name,
    Object.fromEntries(
      Object.keys(repository).map((method) => [method, (...args: unknown[]) => call(name, method, args)]),
    ),
  ]);
  const close = async () => {
    isClosing = true;
    if (!gone) await call('', 'close', []);
    await worker.terminate();
  };
  return { ...(Object.fromEntries(bound) as Repositories), close };
}
