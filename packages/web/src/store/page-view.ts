import { useCallback, useEffect } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { useKept } from '../ui/kept-state.ts';

/** How one looks at a page, by name: what can be sent as a link. */
export type PageView = Readonly<Record<string, string>>;

/** The view of a page: what the address says, else what one had set up, else as it begins. */
export function readPageView<T extends PageView>(params: URLSearchParams, kept: Partial<T>, initial: T): T {
  const names = Object.keys(initial);
  return Object.fromEntries(names.map((name) => [name, params.get(name) ?? kept[name] ?? initial[name]])) as T;
}

/** The address with a view in it; what is as it begins is left out, what else stands there stays. */
export function writePageView<T extends PageView>(params: URLSearchParams, view: T, initial: T): URLSearchParams {
  const next = new URLSearchParams(params);
  for (const [name, value] of Object.entries(view)) {
    if (value === initial[name]) next.delete(name);
    else next.set(name, value);
  }
  return next;
}

const NOTHING = {};

/**
 * How one looks at a page of a project. It is the same on return and after a reload, and stands in the address, so that it can be sent.
 * @param initial the view as it begins; must be the same object each time
 */
export function usePageView<T extends PageView>(page: string, initial: T): [T, (change: Partial<T>) => void] {
  const { projectId } = useParams() as { projectId: string };
  const [params, setParams] = useSearchParams();
  const [kept, keep] = useKept<Partial<T>>(`${projectId}/${page}/view`, NOTHING);
  const view = readPageView(params, kept, initial);
  const address = writePageView(params, view, initial).toString();
  const isWritten = address === params.toString();
  useEffect(() => {
    if (!isWritten) setParams(new URLSearchParams(address), { replace: true });
  }, [address, isWritten, setParams]);
  const text = JSON.stringify(view);
  const said = params.toString();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what comes as a link is one's own from then on, once
  useEffect(() => {
    if (Object.keys(initial).some((name) => new URLSearchParams(said).has(name))) keep(JSON.parse(text) as T);
  }, [said]);
  const change = useCallback(
    (part: Partial<T>) => {
      const next = { ...(JSON.parse(text) as T), ...part };
      keep(next);
      setParams((now) => writePageView(now, next, initial), { replace: true });
    },
    [text, keep, setParams, initial],
  );
  return [view, change];
}
