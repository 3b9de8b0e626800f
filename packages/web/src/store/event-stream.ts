import type { EventDto } from '@tally/core';
import { connection } from './connection.ts';

const CHANNEL = 'crisp-tally/events';
const LOCK = 'crisp-tally/event-stream';

/** What tabs tell each other: an event of the stream, the projects that a tab looks at, the question for them. */
type Message =
  | { readonly kind: 'event'; readonly event: EventDto; readonly place: string }
  | { readonly kind: 'wants'; readonly tab: string; readonly projects: readonly string[] }
  | { readonly kind: 'who' };

/** All projects: a page that lists them. */
export const ALL_PROJECTS = '*';

/**
 * Listens to the server. However many tabs are open, one of them holds the stream (a Web Lock), of the projects that any of them looks at,
 * and passes events on to the others; when it closes, the next takes over and resumes after the last change it knows.
 * @param projects those whose events are wanted; `ALL_PROJECTS` for all
 */
export function listenToEvents(projects: readonly string[], onEvent: (event: EventDto) => void): () => void {
  const channel = new BroadcastChannel(CHANNEL);
  const end = new AbortController();
  const tab = crypto.randomUUID();
  const wanted = new Map<string, readonly string[]>([[tab, projects]]);
  /** Place in the log up to which everything was told. */
  let place: string | null = null;
  let reopen: (() => void) | null = null;
  const say = (message: Message) => channel.postMessage(message);
  const listWanted = () => [...new Set([...wanted.values()].flat())].sort();
  channel.onmessage = ({ data }: MessageEvent<Message>) => {
    if (data.kind === 'event') {
      place = data.place;
      onEvent(data.event);
    } else if (data.kind === 'who') say({ kind: 'wants', tab, projects });
    else {
      const before = listWanted().join();
      if (data.projects.length > 0) wanted.set(data.tab, data.projects);
      else wanted.delete(data.tab);
      if (listWanted().join() !== before) reopen?.();
    }
  };
  const hold = () =>
    new Promise<void>((release) => {
      let source: EventSource | null = null;
      const open = () => {
        source?.close();
        const query = new URLSearchParams(place === null ? {} : { after: place });
        const names = listWanted();
        if (!names.includes(ALL_PROJECTS)) query.set('projects', names.join());
        source = new EventSource(`/api/events?${query}`);
        source.onopen = () => connection.set(true);
        source.onerror = () => connection.set(false);
        source.onmessage = (message: MessageEvent<string>) => {
          const event = JSON.parse(message.data) as EventDto;
          if (message.lastEventId !== '') place = message.lastEventId;
          onEvent(event);
          if (place !== null) say({ kind: 'event', event, place });
        };
      };
      reopen = open;
      open();
      say({ kind: 'who' });
      end.signal.addEventListener('abort', () => {
        source?.close();
        release();
      });
    });
  say({ kind: 'wants', tab, projects });
  navigator.locks.request(LOCK, { signal: end.signal }, hold).catch(() => undefined);
  const leave = () => say({ kind: 'wants', tab, projects: [] });
  window.addEventListener('pagehide', leave);
  return () => {
    window.removeEventListener('pagehide', leave);
    leave();
    end.abort();
    channel.close();
  };
}
