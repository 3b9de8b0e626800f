import type { EntrySlice } from '@tally/core';
import type { QueryClient } from '@tanstack/react-query';
import { refreshSlices } from './slices.ts';

/** Changes that are remembered as told. */
const MOST_KNOWN = 200;
const known = new WeakMap<QueryClient, Map<string, boolean>>();

/**
 * Reads again what a change made otherwise, once: it is told by the answer to who made it and by the stream of events, whichever comes
 * first. One that comes again with its move, which was not known before, is told again.
 */
export function tellChange(
  client: QueryClient,
  change: { readonly projectId: string; readonly seq: number; readonly move: unknown },
  slices: readonly EntrySlice[],
): Promise<unknown> {
  const told = known.get(client) ?? new Map<string, boolean>();
  known.set(client, told);
  const name = `${change.projectId}/${change.seq}`;
  const isMoved = change.move !== null;
  if (told.get(name) === true || told.get(name) === isMoved) return Promise.resolve();
  told.set(name, isMoved);
  if (told.size > MOST_KNOWN) told.delete(told.keys().next().value!);
  return refreshSlices(client, change.projectId, slices);
}
