import { useSyncExternalStore } from 'react';

/** Whether the server answers, as the last request or the stream of events had it. */
export class Connection {
  private isUp = true;
  private readonly listeners = new Set<() => void>();

  set(isUp: boolean): void {
    if (isUp === this.isUp) return;
    this.isUp = isUp;
    for (const tell of this.listeners) tell();
  }

  read = (): boolean => this.isUp;

  listen = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };
}

export const connection = new Connection();

/** Whether the server answers; what is on screen may be old while it does not. */
export const useIsConnected = (): boolean => useSyncExternalStore(connection.listen, connection.read);
