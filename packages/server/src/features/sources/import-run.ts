import { startWorker } from '@tally/ifc';
import type {
  DrawingMessage,
  DrawingOrder,
  ListOrder,
  ReadingMessage,
  ReadingOrder,
} from '../../importers/import-messages.ts';

/** An import that said nothing for too long. */
export class ImportStalled extends Error {}

/** Time without a word after which an import is taken for stalled: some for any file, more for a large one. */
const PATIENCE_MS = 20_000;
const PATIENCE_MS_PER_MB = 4_000;

/** The workers of an import, each with what it is started with and what it says. */
export interface Workers {
  readonly reading: { readonly order: ReadingOrder; readonly message: ReadingMessage };
  readonly list: { readonly order: ListOrder; readonly message: ReadingMessage };
  readonly drawing: { readonly order: DrawingOrder; readonly message: DrawingMessage };
}

/** One run of a worker of an import: its messages are handled one after another, and whatever fails ends it. */
export class ImportRun<W extends keyof Workers = keyof Workers> {
  /** Ends when all messages are handled and the worker is gone. Rejects with the first failure: of the worker, or of handling. */
  readonly done: Promise<void>;
  private readonly worker;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    kind: W,
    order: Workers[W]['order'],
    fileBytes: number,
    handle: (message: Workers[W]['message']) => Promise<void>,
    patienceMs = PATIENCE_MS + (fileBytes / 1024 ** 2) * PATIENCE_MS_PER_MB,
  ) {
    this.worker = startWorker(import.meta.url, `../../importers/${kind}-worker`, order);
    this.done = this.follow(handle, patienceMs).finally(async () => {
      if (this.timer) clearTimeout(this.timer);
      await this.worker.terminate();
    });
    // Whoever waits for it is told; nobody has to.
    this.done.catch(() => undefined);
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
      this.worker.on('message', (message: Workers[W]['message']) => {
        watch();
        handled = handled.then(() => handle(message));
        handled.catch(reject);
      });
      this.worker.on('error', reject);
      this.worker.on('exit', () => handled.then(resolve, reject));
    });
  }

  /** Ends the worker; what it has said is still handled. */
  async stop(): Promise<void> {
    await this.worker.terminate();
  }
}
