import { parentPort, workerData } from 'node:worker_threads';
import { type DatabaseLocation, openDatabase } from './open-database.ts';
import { bindRepositories } from './repositories.ts';

/** Runs in a thread of its own: the embedded database blocks while it works, and must not block the server. */
export interface DbRequest {
  readonly id: number;
  readonly repository: string;
  readonly method: string;
  readonly args: readonly unknown[];
}
export type DbReply =
  | { readonly id: number; readonly value: unknown }
  | { readonly id: number; readonly error: { message: string; code?: string } };

async function run(): Promise<void> {
  const { db, close } = await openDatabase(workerData as DatabaseLocation);
  const bound = bindRepositories(db) as unknown as Record<
    string,
    Record<string, (...args: unknown[]) => Promise<unknown>>
  >;
  parentPort!.on('message', async (request: DbRequest) => {
    try {
      const value =
        request.method === 'close' ? await close() : await bound[request.repository]![request.method]!(...request.args);
      parentPort!.postMessage({ id: request.id, value } satisfies DbReply);
    } catch (error) {
      const { message, code, cause } = error as Error & { code?: string; cause?: { code?: string; message?: string } };
      parentPort!.postMessage({
        id: request.id,
        // An error of the way to a server has no words of its own, only a code.
        error: { message: cause?.message || message || String(code), code: cause?.code ?? code },
      } satisfies DbReply);
    }
  });
  parentPort!.postMessage({ id: 0, value: 'open' } satisfies DbReply);
}

run().catch((error: Error) => parentPort!.postMessage({ id: 0, error: { message: error.message } } satisfies DbReply));
