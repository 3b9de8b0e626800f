import { HttpProblem } from '../http/http-problem.ts';

/** A preview that was ended before it was done: a change had to go first, or nobody waits for it any more. */
export class PreviewDropped extends HttpProblem {
  constructor() {
    super(503, {
      code: 'preview-dropped',
      message: 'Changes came first, again and again.',
      remedy: 'Try again in a moment.',
    });
  }
}

/** Times that something which gives way to changes begins at most. */
const MOST_TURNS = 8;

/**
 * Does something that gives way to changes again when one came first. Errors: its own; PreviewDropped when nobody waits any more, or after too
 * many turns. @param between awaited before it begins again
 */
export async function runUndisturbed<T>(
  run: () => Promise<T>,
  signal?: AbortSignal,
  between: () => Promise<unknown> = async () => undefined,
): Promise<T> {
  for (let turn = 1; ; turn++) {
    try {
      return await run();
    } catch (error) {
      if (!(error instanceof PreviewDropped) || signal?.aborted || turn >= MOST_TURNS) throw error;
      await between();
    }
  }
}

const [UPDATES, DROPPED] = [0, 1];

/** What the thread of a plan looks at while it works out a preview; shared with the one that asks. */
export class PreviewGate {
  private readonly words: Int32Array;

  constructor(readonly memory = new SharedArrayBuffer(8)) {
    this.words = new Int32Array(memory);
  }

  /** A change waits for the plan: previews end. Called again with -1 when it is in. */
  countUpdates(by: 1 | -1): void {
    Atomics.add(this.words, UPDATES, by);
  }

  /** Nobody waits for this preview any more. */
  drop(id: number): void {
    Atomics.store(this.words, DROPPED, id);
  }

  /** True if the preview of this id is to end. */
  isClosed(id: number): boolean {
    return Atomics.load(this.words, UPDATES) > 0 || Atomics.load(this.words, DROPPED) === id;
  }
}
