import { ENTRY_SLICES, type EventDto } from '@tally/core';
import type { Response } from 'express';

const KEEP_ALIVE_MS = 25_000;
/** Bytes that may wait for a slow listener; then its stream ends, and it comes again from where it was. */
const MOST_WAITING = 1_000_000;
/** Events that are held while what was missed is read; with more everything is read again. */
const MOST_HELD = 1000;

/** One open stream. */
interface Stream {
  readonly res: Response;
  /** Only of these projects; of all if null. */
  readonly projects: ReadonlySet<string> | null;
  /** Events that came while what was missed is read; null when that is done. */
  held: EventDto[] | null;
}

/** What a stream begins with: the changes after `from`, the last one that the listener knows or need not be told. */
export interface Missed {
  readonly from: number;
  /** Null if they are too many to be told one by one. */
  readonly events: readonly ChangeEvent[] | null;
}

type ChangeEvent = Extract<EventDto, { kind: 'change' }>;

/**
 * Pushes events to every open stream. With a change goes the place in the log from which a stream resumes: all changes up to it have been
 * told, those of other projects that are still being calculated too. So no change is left out; one that was calculated meanwhile may be
 * told again, with its move.
 */
export class EventHub {
  private readonly streams = new Set<Stream>();
  /** Places in the log before the changes that are being made and are not told yet. */
  private readonly floors = new Map<symbol, number>();
  /** The last place in the log that was heard of. */
  private known = 0;
  private readonly timer = setInterval(() => this.writeAll(': here\n\n'), KEEP_ALIVE_MS).unref();

  /** To be called before a change is made, and what it gives when the change has been told or has failed. */
  reserve(): () => void {
    const ticket = Symbol();
    this.floors.set(ticket, this.known);
    return () => void this.floors.delete(ticket);
  }

  publish(event: EventDto): void {
    if (event.kind === 'change') this.known = Math.max(this.known, event.change.id);
    for (const stream of this.streams) {
      if (stream.held) stream.held.push(event);
      else this.send(stream, event);
    }
  }

  /**
   * Opens a stream: first what was missed, then everything new.
   * @param projects those that are looked at; null for all
   * @param readMissed reads what was missed; what happens meanwhile is told after it
   */
  async open(res: Response, projects: ReadonlySet<string> | null, readMissed: () => Promise<Missed>): Promise<void> {
    const stream: Stream = { res, projects, held: [] };
    this.streams.add(stream);
    res.on('close', () => this.streams.delete(stream));
    try {
      const { from, events } = await readMissed();
      res.writeHead(200, {
        'content-type': 'text/event-stream',
        'cache-control': 'no-store, no-transform',
        'x-accel-buffering': 'no',
      });
      const held = stream.held ?? [];
      stream.held = null;
      this.known = Math.max(this.known, from);
      res.write('retry: 1500\n\n');
      this.send(stream, { kind: 'here', projectId: null, after: from });
      if (events === null || held.length > MOST_HELD) this.send(stream, { kind: 'readAgain', projectId: null });
      for (const event of events ?? []) this.send(stream, event);
      const told = events?.at(-1)?.change.id ?? from;
      for (const event of held) if (event.kind !== 'change' || event.change.id > told) this.send(stream, event);
    } catch (error) {
      this.streams.delete(stream);
      throw error;
    }
  }

  close(): void {
    clearInterval(this.timer);
    for (const { res } of this.streams) res.end();
  }

  private send(stream: Stream, event: EventDto): void {
    const { projects, res } = stream;
    if (projects !== null && event.projectId !== null && !projects.has(event.projectId)) return;
    res.write(this.format(event));
    if (res.writableLength > MOST_WAITING) {
      this.streams.delete(stream);
      res.destroy();
    }
  }

  private writeAll(text: string): void {
    for (const stream of this.streams) if (!stream.held) stream.res.write(text);
  }

  private format(event: EventDto): string {
    const id = event.kind === 'change' ? event.change.id : event.kind === 'here' ? event.after : null;
    const place = id === null ? '' : `id: ${Math.min(id, ...this.floors.values())}\n`;
    return `${place}data: ${JSON.stringify(event)}\n\n`;
  }
}

/** Changes as events of a stream that was away: which slices they touched is not kept. */
export const toChangeEvent = (change: ChangeEvent['change']): ChangeEvent => ({
  kind: 'change',
  projectId: change.projectId,
  change,
  slices: ENTRY_SLICES,
});
