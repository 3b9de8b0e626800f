import { type Query, type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useCallback, useSyncExternalStore } from 'react';
import { isUnreachable } from './client.ts';
import { describeError } from './use-commit.ts';

declare module '@tanstack/react-query' {
  interface Register {
    /** `isTold`: the page itself says why it could not be read. */
    queryMeta: { readonly isTold?: boolean };
  }
}

/** Something on screen that could not be read, although the server answers: what is shown there is missing, or older than the rest. */
const isUnread = (query: Query): boolean =>
  query.state.status === 'error' &&
  query.isActive() &&
  // A page that tells why it is empty says nothing of what it shows from before.
  !(query.meta?.isTold === true && query.state.data === undefined) &&
  !isUnreachable(query.state.error);

/** Why things on screen could not be read, each reason once. */
const listUnread = (client: QueryClient): string[] => [
  ...new Set(
    client
      .getQueryCache()
      .findAll({ predicate: isUnread })
      .map((query) => describeError(query.state.error)),
  ),
];

/** Readings that failed and that no page tells of, and a way to do them again. */
export function useUnread(): { readonly reasons: readonly string[]; readonly readAgain: () => void } {
  const client = useQueryClient();
  const listen = useCallback((tell: () => void) => client.getQueryCache().subscribe(tell), [client]);
  const text = useSyncExternalStore(listen, () => JSON.stringify(listUnread(client)));
  const readAgain = () => void client.refetchQueries({ predicate: isUnread });
  return { reasons: JSON.parse(text) as string[], readAgain };
}
