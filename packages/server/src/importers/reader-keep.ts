import type { Worker } from 'node:worker_threads';
import { startWorker } from '@tally/ifc';

/** Time after which a thread that nothing was asked of is ended. */
const IDLE_MS = 10 * 60_000;

/**
 * The thread that reads models, kept between files: one that has read a file before is three times as quick with a small one. One is kept,
 * for some minutes; a second file at the same time has a thread of its own.
 */
export class ReaderKeep {
  private idle: { readonly worker: Worker; readonly forget: () => void } | null = null;
  private isClosed = false;

  constructor(private readonly idleMs = IDLE_MS) {}

  /** A thread that waits for an order. Whoever takes it ends it or gives it back. */
  take(): Worker {
    const kept = this.idle;
    if (!kept) return startWorker(import.meta.url, './reading-worker', null);
    kept.forget();
    return kept.worker;
  }

  /** Takes back a thread that has done its order and has no listeners any more; ends it if there is one already. */
  async give(worker: Worker): Promise<void> {
    if (this.idle || this.isClosed || worker.threadId === -1) return void (await worker.terminate());
    // It may end, or fail, while nobody looks: then the next file has a new one.
    const forget = () => {
      clearTimeout(timer);
      worker.off('exit', forget);
      worker.off('error', forget);
      if (this.idle?.worker === worker) this.idle = null;
    };
    const timer = setTimeout(() => {
      forget();
      void worker.terminate();
    }, this.idleMs).unref();
    worker.on('exit', forget);
    worker.on('error', forget);
    worker.unref();
    this.idle = { worker, forget };
  }

  /** Ends the thread that is kept, and any that is given back from now on. */
  async close(): Promise<void> {
    this.isClosed = true;
    const kept = this.idle;
    kept?.forget();
    await kept?.worker.terminate();
  }
}
