import type { EventDto } from '@tally/core';
import type { Response } from 'express';

const KEEP_ALIVE_MS = 25_000;

/** Pushes events to every open stream. Change events carry the id of the log, so that a stream resumes where it broke off. */
export class EventHub {
  private readonly streams = new Set<Response>();
  private readonly timer = setInterval(() => this.write(': here\n\n'), KEEP_ALIVE_MS).unref();

  publish(event: EventDto): void {
    this.write(formatEvent(event));
  }

  /** Opens a stream: first what was missed, then everything new. */
  open(res: Response, missed: readonly EventDto[]): void {
    res.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store, no-transform',
      'x-accel-buffering': 'no',
    });
    res.write('retry: 1500\n\n');
    for (const event of missed) res.write(formatEvent(event));
    this.streams.add(res);
    res.on('close', () => this.streams.delete(res));
  }

  close(): void {
    clearInterval(this.timer);
    for (const res of this.streams) res.end();
  }

  private write(text: string): void {
    for (const res of this.streams) res.write(text);
  }
}

function formatEvent(event: EventDto): string {
  const id = event.kind === 'change' ? `id: ${event.change.id}\n` : '';
  return `${id}data: ${JSON.stringify(event)}\n\n`;
}
