import { useCallback, useState } from 'react';

/** Groups of a table that are closed, by their ids, and how one is opened or closed. */
export function useClosed(): {
  readonly closed: ReadonlySet<string>;
  readonly toggle: (id: string) => void;
  readonly openAll: () => void;
} {
  const [closed, setClosed] = useState<ReadonlySet<string>>(new Set());
  const toggle = useCallback(
    (id: string) =>
      setClosed((before) => {
        const next = new Set(before);
        if (!next.delete(id)) next.add(id);
        return next;
      }),
    [],
  );
  const openAll = useCallback(() => setClosed(new Set()), []);
  return { closed, toggle, openAll };
}
