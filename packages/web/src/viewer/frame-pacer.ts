/** What comes by itself is drawn so seldom that it takes no more than a fifth of the time. */
const PAUSE_PER_COST = 4;
/** Nobody waits longer than this for what has come, ms. */
const LONGEST_PAUSE = 6000;
/** A frame that takes longer than this holds up who turns the view, ms. */
const SLOW = 120;

/**
 * How often a view can be drawn, by what its frames cost: a large building on a machine without a graphics card takes seconds for each, and
 * the page stands still meanwhile. What somebody does is drawn at once; what comes by itself (parts of the picture as they are read) waits
 * until there has been time for other things.
 */
export class FramePacer {
  private costMs = 0;
  private endedAt = Number.NEGATIVE_INFINITY;

  /** A frame was drawn, from its begin until the page could do anything else again, ms. */
  note(beganAt: number, endedAt: number): void {
    this.costMs = endedAt - beganAt;
    this.endedAt = endedAt;
  }

  /** How long what comes by itself waits from now on, ms. */
  pauseAt(now: number): number {
    return Math.max(0, Math.min(LONGEST_PAUSE, this.costMs * PAUSE_PER_COST) - (now - this.endedAt));
  }

  /** Frames take so long that less is drawn while the view moves. */
  get isSlow(): boolean {
    return this.costMs > SLOW;
  }
}
