import type { EventDto } from '@tally/core';

const CHANNEL = 'crisp-tally/events';
const LOCK = 'crisp-tally/event-stream';

/**
 * Listens to the server. However many tabs are open, one of them holds the stream (a Web Lock) and passes events on to the
 * others; when it closes, the next takes over and resumes after the last change it knows.
 */
export function listenToEvents(onEvent: (event: EventDto) => void): () => void {
  const channel = new BroadcastChannel(CHANNEL);
  const end = new AbortController();
  let last: number | null = null;
  const receive = (event: EventDto) => {
    if (event.kind === 'change') last = event.change.id;
    onEvent(event);
  };
  channel.onmessage = (message: MessageEvent<EventDto>) => receive(message.data);
  const hold = () =>
    new Promise<void>((release) => {
      const source = new EventSource(last === null ? '/api/events' : `/api/events?after=${last}`);
      source.onmessage = (message: MessageEvent<string>) => {
        const event = JSON.parse(message.data) as EventDto;
        receive(event);
        channel.postMessage(event);
      };
      end.signal.addEventListener('abort', () => {
        source.close();
        release();
      });
    });
  navigator.locks.request(LOCK, { signal: end.signal }, hold).catch(() => undefined);
  return () => {
    end.abort();
    channel.close();
  };
}
