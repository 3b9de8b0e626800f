import { type PricingBasis, type ProjectAdditions, type ProjectContents, readAdditions } from '@tally/core';
import type { CountingTable, StoredRevision } from '../../engine/plan-messages.ts';
import type { FileStorePaths } from '../../importers/file-store-paths.ts';
import type { RevisionRow } from '../sources/source-repository.ts';

/** Everything that a plan is calculated of, as its thread takes it, with the revisions that count. */
export interface OrderedState {
  readonly basis: PricingBasis;
  readonly tables: readonly CountingTable[];
  readonly layer: ProjectAdditions;
  readonly counted: readonly RevisionRow[];
}

/** A state of a project by what it is made of. Revisions that are gone do not count. */
export function orderState(
  { basis, counting, layer, settings }: Pick<ProjectContents, 'basis' | 'counting' | 'layer' | 'settings'>,
  revisions: ReadonlyMap<string, RevisionRow>,
  names: ReadonlyMap<string, string>,
  store: FileStorePaths,
): OrderedState {
  const counted = [...counting].flatMap(([sourceId, revisionId]) => {
    const revision = revisions.get(revisionId);
    return revision ? [{ sourceId, revisionId, revision }] : [];
  });
  const tables = counted.map(({ revision, ...of }) => ({
    ...of,
    sourceName: names.get(of.sourceId) ?? '',
    ...findStored(revision, store),
    before: findBefore(revision, revisions, store),
    samePlaces: revision.findings.filter((f) => f.code === 'coincident'),
  }));
  return { basis, tables, layer: readAdditions(layer, settings), counted: counted.map((c) => c.revision) };
}

/** Where the files of a revision lie. */
export function findStored(
  { id, tableHash, geometryState, chunks }: RevisionRow,
  store: FileStorePaths,
): StoredRevision {
  const pictures = Array.from({ length: chunks }, (_, n) => store.picturePath(id, n));
  return { path: store.tablePath(tableHash), pictures: geometryState === 'done' ? pictures : null };
}

/** The newest revision of a source that may count and is older than one. */
function findBefore(
  { sourceId, number }: RevisionRow,
  revisions: ReadonlyMap<string, RevisionRow>,
  store: FileStorePaths,
): StoredRevision | null {
  const older = [...revisions.values()].filter((r) => r.sourceId === sourceId && r.number < number && r.state === 'ready'); // biome-ignore format: one test
  const [last] = older.sort((a, b) => b.number - a.number);
  return last ? findStored(last, store) : null;
}
