import type { Worker } from 'node:worker_threads';
import { startWorker } from '@tally/ifc';
import type {
  DrawingMessage,
  DrawingOrder,
  ListOrder,
  ReadingMessage,
  ReadingOrder,
} from '../../importers/import-messages.ts';
import type { ReaderKeep } from '../../importers/reader-keep.ts';

/** An import that said nothing for too long. */
export class ImportStalled extends Error {}

/** Time without a word after which an import is taken for stalled: some for any file, more for a large one. */
const PATIENCE_MS = 20_000;
const PATIENCE_MS_PER_MB = 4_000;

/** A thread that has read a larger file is not kept: what it holds of memory goes with it. */
const MOST_KEPT_BYTES = 8 * 1024 ** 2;

/** The workers of an import, each with what it is started with and what it says. */
export interface Workers {
  readonly reading: { readonly order: ReadingOrder; readonly message: ReadingMessage };
  readonly list: { readonly order: ListOrder; readonly message: ReadingMessage };
  readonly drawing: { readonly order: DrawingOrder; readonly message: DrawingMessage };
}

/** One run of a worker of an import: its messages are handled one after another, and whatever fails ends it. */
export class ImportRun<W extends keyof Workers = keyof Workers> {
  /** Ends when all messages are handled and the worker is gone, or kept. Rejects with the first failure: of the worker, or of handling. */
  readonly done: Promise<void>;
  private readonly worker: Worker;
  private timer: NodeJS.Timeout | null = null;
  private isStopped = false;
  private unlisten: () => void = () => undefined;

  constructor(
    private readonly keep: ReaderKeep,
    kind: W,
    order: Workers[W]['order'],
    fileBytes: number,
    handle: (message: Workers[W]['message']) => Promise<void>,
    patienceMs = PATIENCE_MS + (fileBytes / 1024 ** 2) * PATIENCE_MS_PER_MB,
  ) {
    const isReading = kind === 'reading';
    this.worker = isReading ? keep.take() : startWorker(import.meta.url, `../../importers/${kind}-worker`, order);
    if (isReading) this.worker.ref();
    this.done = this.follow(handle, patienceMs).then(
      () => this.leave(isReading && fileBytes <= MOST_KEPT_BYTES),
      async (error: unknown) => {
        await this.leave(false);
        throw error;
      },
    );
    // Whoever waits for it is told; nobody has to.
    this.done.catch(() => undefined);
    if (isReading) this.worker.postMessage(order);
  }

  private follow(handle: (message: Workers[W]['message']) => Promise<void>, patienceMs: number): Promise<void> {
    return new Promise((resolve, reject) => {
      let handled: Promise<void> = Promise.resolve();
      const watch = () => {
        if (this.timer) clearTimeout(this.timer);
        this.timer = setTimeout(
          () => reject(new ImportStalled(`The import made no headway for ${Math.round(patienceMs / 1000)} seconds.`)),
          patienceMs,
        );
      };
      watch();
      const end = () => handled.then(resolve, reject);
      const onMessage = (message: Workers[W]['message']) => {
        watch();
        handled = handled.then(() => handle(message));
        handled.catch(reject);
        // A thread that reads goes on living after its last word.
        if (message.kind === 'read' || message.kind === 'failed') end();
      };
      this.worker.on('message', onMessage).on('error', reject).on('exit', end);
      this.unlisten = () => void this.worker.off('message', onMessage).off('error', reject).off('exit', end);
    });
  }

  private async leave(isKept: boolean): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    if (!isKept || this.isStopped) return void (await this.worker.terminate());
    this.unlisten();
    await this.keep.give(this.worker);
  }

  /** Ends the worker; what it has said is still handled. */
  async stop(): Promise<void> {
    this.isStopped = true;
    await this.worker.terminate();
  }
}
