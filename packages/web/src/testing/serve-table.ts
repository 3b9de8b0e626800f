import { type ElementTable, encodeElementTable, type RevisionDto, type SourceDto } from '@tally/core';

/** A source whose only revision, `r1`, counts. */
export const sampleSource = {
  id: 's',
  name: 'Model',
  revisions: [{ id: 'r1', sourceId: 's', state: 'counting', geometryState: 'done', chunks: 0 } as RevisionDto],
} as unknown as SourceDto;

/** Lets the made-up server answer with a table when the elements of that revision are asked for. */
export function serveTable(table: ElementTable): void {
  const answer = globalThis.fetch;
  globalThis.fetch = (async (path: string, init?: RequestInit) => {
    if (!path.endsWith('/revisions/r1/elements')) return answer(path, init);
    const bytes = encodeElementTable(table);
    return { ok: true, status: 200, arrayBuffer: async () => bytes.slice().buffer };
  }) as typeof fetch;
}
