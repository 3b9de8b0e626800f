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
