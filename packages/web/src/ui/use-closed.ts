import { useCallback, useMemo } from 'react';
import { useKept } from './kept-state.ts';

const NONE: readonly string[] = [];

/** Groups of a table that are closed, by their ids, and how one is opened or closed; kept under the name of the table. */
export function useClosed(name: string): {
  readonly closed: ReadonlySet<string>;
  readonly toggle: (id: string) => void;
  readonly openAll: () => void;
} {
  const [kept, keep] = useKept(`${name}/closed`, NONE);
  const closed = useMemo(() => new Set(kept), [kept]);
  const toggle = useCallback(
    (id: string) => keep((before) => (before.includes(id) ? before.filter((other) => other !== id) : [...before, id])),
    [keep],
  );
  const openAll = useCallback(() => keep(NONE), [keep]);
  return { closed, toggle, openAll };
}
