import { startWorker } from '@tally/ifc';
import type { DbReply, DbRequest } from './db-worker.ts';
import type { DatabaseLocation } from './open-database.ts';
import { type Repositories, repositories } from './repositories.ts';

export interface DbClient extends Repositories {
  readonly close: () => Promise<void>;
}

/** Starts the database thread and returns its repositories. Rejects with a clear message if it cannot be opened. */
export async function startDatabase(location: DatabaseLocation): Promise<DbClient> {
  const worker = startWorker(import.meta.url, 'db-worker', location);
  const waiting = new Map<number, { resolve: (value: never) => void; reject: (error: Error) => void }>();
  let last = 0;
  worker.on('message', (reply: DbReply) => {
    const promise = waiting.get(reply.id);
    waiting.delete(reply.id);
    if ('error' in reply) promise?.reject(Object.assign(new Error(reply.error.message), { code: reply.error.code }));
    else promise?.resolve(reply.value as never);
  });
  worker.on('error', (error) => {
    for (const { reject } of waiting.values()) reject(error);
    waiting.clear();
  });
  await new Promise<void>((resolve, reject) => waiting.set(0, { resolve, reject }));
  const call = (repository: string, method: string, args: unknown[]) =>
    new Promise((resolve, reject) => {
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
    await call('', 'close', []);
    await worker.terminate();
  };
  return { ...(Object.fromEntries(bound) as Repositories), close };
}
