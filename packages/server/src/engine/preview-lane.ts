import { HttpProblem } from '../http/http-problem.ts';
import { PreviewDropped } from './preview-gate.ts';

/** Previews that wait at most; more are refused rather than kept. */
const MOST_WAITING = 20;

interface Waiting {
  readonly begin: () => void;
}

/**
 * Lets one preview after another run, and none that nobody waits for any more: one that is given up while it waits never begins, one that
 * is given up while it runs is told to end. Errors: 503 if too many wait.
 */
export class PreviewLane {
  private readonly waiting: Waiting[] = [];
  private isBusy = false;

  /** @param run begins the preview; @param end is called when the one that runs is given up */
  async runNext<T>(run: () => Promise<T>, end: () => void, signal?: AbortSignal): Promise<T> {
    if (this.isBusy) await this.wait(signal);
    this.isBusy = true;
    signal?.addEventListener('abort', end);
    try {
      if (signal?.aborted) throw new PreviewDropped();
      return await run();
    } finally {
      signal?.removeEventListener('abort', end);
      this.isBusy = false;
      this.waiting.shift()?.begin();
    }
  }

  private wait(signal?: AbortSignal): Promise<void> {
    if (this.waiting.length >= MOST_WAITING)
      throw new HttpProblem(503, {
        code: 'server-busy',
        message: 'Too many previews wait for this project.',
        remedy: 'Try again in a moment.',
      });
    return new Promise((resolve, reject) => {
      const giveUp = () => {
        this.waiting.splice(this.waiting.indexOf(own), 1);
        reject(new PreviewDropped());
      };
      const own: Waiting = {
        begin: () => {
          signal?.removeEventListener('abort', giveUp);
          // Busy at once: whoever comes before this goes on waits.
          this.isBusy = true;
          resolve();
        },
      };
      signal?.addEventListener('abort', giveUp, { once: true });
      this.waiting.push(own);
    });
  }
}
