import type { EntrySlice } from '@tally/core';
import type { QueryClient } from '@tanstack/react-query';
import { refreshSlices } from './slices.ts';

/** Changes that are remembered as told. */
const MOST_KNOWN = 200;
/** What was read again for a change: whether its move was known by then, and which slices. */
interface Told {
  readonly isMoved: boolean;
  readonly slices: ReadonlySet<EntrySlice>;
}
const known = new WeakMap<QueryClient, Map<string, Told>>();

/**
 * Reads again what a change made otherwise, once: it is told by the answer to who made it and by the stream of events, whichever comes
 * first. One that comes again with its move, which was not known before, is told again; of one that comes again with slices that were not
 * told before (what is changed in an option is an entry of its project too, which only the server knows) these are read.
 */
export function tellChange(
  client: QueryClient,
  change: { readonly projectId: string; readonly seq: number; readonly move: unknown },
  slices: readonly EntrySlice[],
): Promise<unknown> {
  const told = known.get(client) ?? new Map<string, Told>();
  known.set(client, told);
  const name = `${change.projectId}/${change.seq}`;
  const before = told.get(name);
  const isMoved = change.move !== null || before?.isMoved === true;
  const isNews = before?.isMoved !== isMoved;
  const missed = isNews ? slices : slices.filter((slice) => !before.slices.has(slice));
  if (!isNews && missed.length === 0) return Promise.resolve();
  told.set(name, { isMoved, slices: new Set([...(before?.slices ?? []), ...slices]) });
  if (told.size > MOST_KNOWN) told.delete(told.keys().next().value!);
  return refreshSlices(client, change.projectId, missed);
}
