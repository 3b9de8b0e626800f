import { EventEmitter } from 'node:events';
import type { ChangeDto, EventDto } from '@tally/core';
import type { Response } from 'express';
import { EventHub, type Missed, toChangeEvent } from './event-hub.ts';

/** A listener that keeps what it is sent. */
class Listener extends EventEmitter {
  text = '';
  writableLength = 0;
  isDestroyed = false;
  writeHead = () => this;
  write = (text: string) => {
    this.text += text;
    return true;
  };
  end = () => this.emit('close');
  destroy = () => {
    this.isDestroyed = true;
    this.emit('close');
  };
  /** What it was sent: place in the log and kind of event. */
  get told(): [string | null, string][] {
    return this.text
      .split('\n\n')
      .filter((part) => part.includes('data: '))
      .map((part) => {
        const event = JSON.parse(/data: (.*)/.exec(part)![1]!) as EventDto;
        return [
          /id: (\d+)/.exec(part)?.[1] ?? null,
          event.kind === 'change' ? `change ${event.change.id}` : event.kind,
        ];
      });
  }
}
const change = (id: number, projectId = 'p') => toChangeEvent({ id, projectId, seq: id, move: null } as ChangeDto);
const fresh = (last: number) => async (): Promise<Missed> => ({ from: last, events: [] });

describe('the streams of events', () => {
  let hub: EventHub;
  beforeEach(() => {
    hub = new EventHub();
  });
  afterEach(() => hub.close());
  const open = (listener: Listener, missed: () => Promise<Missed>, projects: string[] | null = null) =>
    hub.open(listener as unknown as Response, projects && new Set(projects), missed);

  it('tell first what was missed, then what happened while that was read, each once', async () => {
    const listener = new Listener();
    let give: (missed: Missed) => void = () => undefined;
    const opened = open(listener, () => new Promise((resolve) => { give = resolve; })); // biome-ignore format: one call
    hub.publish(change(5));
    hub.publish(change(6));
    give({ from: 3, events: [change(4), change(5)] });
    await opened;
    hub.publish(change(7));
    expect(listener.told).toEqual([['3', 'here'], ['4', 'change 4'], ['5', 'change 5'], ['6', 'change 6'], ['7', 'change 7']]); // biome-ignore format: one list
  });
  it('say that all is to be read again where too much was missed', async () => {
    const listener = new Listener();
    await open(listener, async () => ({ from: 900, events: null }));
    expect(listener.told).toEqual([['900', 'here'], [null, 'readAgain']]); // biome-ignore format: one list
  });
  it('resume before a change that is still being made, however many others are told meanwhile', async () => {
    const listener = new Listener();
    await open(listener, fresh(10));
    hub.publish(change(11));
    const done = hub.reserve();
    // Change 12 of another project is made and calculated while 13 and 14 are told.
    hub.publish(change(13));
    hub.publish(change(14));
    done();
    hub.publish(change(12));
    hub.publish(change(15));
    expect(listener.told.map(([place]) => place)).toEqual(['10', '11', '11', '11', '12', '15']);
  });
  it('tell a page of the projects that it looks at, and what concerns all', async () => {
    const listener = new Listener();
    await open(listener, fresh(0), ['p']);
    hub.publish(change(1, 'other'));
    hub.publish({ kind: 'prices', projectId: null });
    hub.publish(change(2, 'p'));
    expect(listener.told.slice(1)).toEqual([[null, 'prices'], ['2', 'change 2']]); // biome-ignore format: one list
  });
  it('end for a listener that does not keep up, and forget one that has gone', async () => {
    const [slow, gone] = [new Listener(), new Listener()];
    await open(slow, fresh(0));
    await open(gone, fresh(0));
    gone.emit('close');
    slow.writableLength = 2_000_000;
    hub.publish(change(1));
    hub.publish(change(2));
    expect([slow.isDestroyed, slow.told.length, gone.told.length]).toEqual([true, 2, 1]);
  });
  it('are forgotten when what was missed cannot be read', async () => {
    const listener = new Listener();
    await expect(open(listener, () => Promise.reject(new Error('away')))).rejects.toThrow('away');
    hub.publish(change(1));
    expect(listener.text).toBe('');
  });
});
