import { useCallback, useSyncExternalStore } from 'react';

const PREFIX = 'tally/kept/';
/** Values that are kept at most; the one that was written longest ago goes first. */
const MOST_KEPT = 400;
/** Signs of one value at most: what is longer is kept until the page is left, not after. */
const MOST_SIGNS = 400_000;

/**
 * What a person has set up, by name: how wide panes are, what is folded, where one stood. It is there after a page is left and after a
 * reload. A browser that keeps nothing (or no more) keeps it until the page is closed.
 */
export class KeptState {
  private readonly values = new Map<string, unknown>();
  private readonly listeners = new Set<() => void>();

  constructor(private readonly storage: Storage | null) {}

  /** The kept value of a name; `initial` where nothing of its kind is kept. The same object until it is written. */
  read<T>(name: string, initial: T): T {
    if (!this.values.has(name)) this.values.set(name, this.parse(name, initial) ?? initial);
    return this.values.get(name) as T;
  }

  write<T>(name: string, value: T): void {
    if (this.values.has(name) && Object.is(this.values.get(name), value)) return;
    this.values.set(name, value);
    try {
      this.storage?.removeItem(PREFIX + name);
      const text = JSON.stringify(value);
      if (text.length <= MOST_SIGNS) this.storage?.setItem(PREFIX + name, text);
      this.forgetOldest(name);
    } catch {
      // The browser keeps no more: it stays until the page is closed.
    }
    for (const tell of this.listeners) tell();
  }

  listen = (tell: () => void): (() => void) => {
    this.listeners.add(tell);
    return () => void this.listeners.delete(tell);
  };

  private parse<T>(name: string, initial: T): T | null {
    try {
      const kept = JSON.parse(this.storage?.getItem(PREFIX + name) ?? 'null') as T | null;
      const isAlike = typeof kept === typeof initial && Array.isArray(kept) === Array.isArray(initial);
      return kept !== null && (isAlike || initial === null) ? kept : null;
    } catch {
      return null;
    }
  }

  /** Keeps names in the order in which they were written. */
  private forgetOldest(written: string): void {
    const order = this.parse<string[]>('order', []) ?? [];
    const next = [...order.filter((name) => name !== written), written];
    for (const name of next.splice(0, Math.max(0, next.length - MOST_KEPT))) this.storage?.removeItem(PREFIX + name);
    this.storage?.setItem(`${PREFIX}order`, JSON.stringify(next));
  }
}

const kept = new KeptState(typeof localStorage === 'undefined' ? null : localStorage);

/** A value that stays when its page is left or read anew. `name` tells it from all others, so it holds the project where it is of one. */
export function useKept<T>(name: string, initial: T): [T, (next: T | ((now: T) => T)) => void] {
  const value = useSyncExternalStore(kept.listen, () => kept.read(name, initial));
  const write = useCallback(
    (next: T | ((now: T) => T)) =>
      kept.write(name, typeof next === 'function' ? (next as (now: T) => T)(kept.read(name, initial)) : next),
    [name, initial],
  );
  return [value, write];
}
