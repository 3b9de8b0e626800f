import { createHash } from 'node:crypto';
import {
  applyDiff,
  type BaselineBody,
  type ComparedElementDto,
  type ComparisonDto,
  type Entry,
  findOption,
  type GroupField,
  invertDiff,
  overlayOption,
  projectOf,
  readContents,
} from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import type { EnginePool } from '../../engine/engine-pool.ts';
import type { StateOrder } from '../../engine/plan-messages.ts';
import { runUndisturbed } from '../../engine/preview-gate.ts';
import { HttpProblem, notFound } from '../../http/http-problem.ts';
import { isFileWhole } from '../../importers/file-store.ts';
import type { FileStorePaths } from '../../importers/file-store-paths.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ProjectRow } from '../projects/project-repository.ts';
import { requireProject } from '../projects/require-project.ts';
import { orderState } from './order-state.ts';

/** States of a project beside the plan of now, and how any two differ. */
export class CompareService {
  constructor(
    private readonly db: DbClient,
    private readonly engines: EnginePool,
    private readonly shelf: BookShelf,
    private readonly store: FileStorePaths,
  ) {}

  /**
   * How one state of a project differs from another. Errors: 404 for one that there is not, 422 where they are in different currencies.
   * Changes go first: one that comes between makes it begin again.
   * @param from @param to as `stateRefSchema` names them
   * @param signal aborted when nobody waits for it any more
   */
  async compare(
    projectId: string,
    from: string,
    to: string,
    by: GroupField,
    signal?: AbortSignal,
  ): Promise<ComparisonDto> {
    const found = await runUndisturbed(async () => {
      const project = await requireProject(this.db, projectId);
      const [a, b] = [await this.order(project, from), await this.order(project, to)];
      return this.engines.withEngine(projectId, (engine) => engine.compare([a, b, by], signal));
    }, signal);
    if (!found.ok) throw new HttpProblem(422, found.problem);
    return found.value;
  }

  /** What an element costs in two states. Errors: as of `compare` */
  async compareElement(projectId: string, from: string, to: string, key: number): Promise<ComparedElementDto> {
    const project = await requireProject(this.db, projectId);
    const [a, b] = [await this.order(project, from), await this.order(project, to)];
    return this.engines.withEngine(projectId, (engine) => engine.ask('compareElement', a, b, key));
  }

  /** What a state is calculated of; null for the plan of now. Errors: 404 */
  async order(project: ProjectRow, ref: string): Promise<StateOrder | null> {
    const at = ref.indexOf(':');
    const [kind, id] = at < 0 ? [ref, ''] : [ref.slice(0, at), ref.slice(at + 1)];
    const now = await this.db.projects.listEntries(project.id);
    if (kind === 'live') return null;
    if (kind === 'seq') return this.orderEntries(project, await this.rewind(project, now, Number(id)));
    if (kind === 'revision') return this.orderEntries(project, await this.count(project.id, now, id));
    if (kind === 'option') return this.orderEntries(project, await this.overlay(project.id, id));
    if (kind === 'base') return this.orderEntries(project, await this.db.projects.listEntries(projectOf(project.id)));
    if (kind === 'baseline') return this.openFrozen(now, id);
    throw notFound('state');
  }

  /** A frozen plan. Errors: 404, 410 where its file is gone */
  private async openFrozen(now: readonly Entry[], id: string): Promise<StateOrder> {
    const found = now.find((e) => e.kind === 'baseline' && e.id === id);
    if (!found) throw notFound('baseline');
    const { file, name } = found.body as BaselineBody;
    const path = this.store.baselinePath(file);
    if (!(await isFileWhole(path)))
      throw new HttpProblem(410, {
        code: 'baseline-damaged',
        message: `The file of the baseline ${name} is gone or damaged.`,
        remedy: `Put the file ${file}.gz back from a copy of the data folder.`,
      });
    return { key: file, frozen: path };
  }

  /** Entries as they were after a change. Errors: 404 for one that is not yet */
  private async rewind(project: ProjectRow, now: readonly Entry[], seq: number): Promise<readonly Entry[]> {
    if (seq > project.seq) throw notFound('change');
    let entries = now;
    for (let at = project.seq; at > seq; at--) {
      const change = await this.db.changes.find(project.id, at);
      if (!change) throw notFound('change');
      entries = applyDiff(entries, invertDiff(change.diff));
    }
    return entries;
  }

  /** Entries as an option has them. Errors: 404 */
  private async overlay(projectId: string, option: string): Promise<readonly Entry[]> {
    const base = await this.db.projects.listEntries(projectOf(projectId));
    if (!findOption(base, option).ok) throw notFound('option');
    return overlayOption(base, option).entries;
  }

  /** Entries with a revision counting in place of the one of its source. Errors: 404 */
  private async count(projectId: string, now: readonly Entry[], revisionId: string): Promise<readonly Entry[]> {
    const revision = await this.db.sources.findRevision(projectId, revisionId);
    if (!revision) throw notFound('revision');
    const others = now.filter((e) => e.kind !== 'counting' || e.id !== revision.sourceId);
    return [...others, { kind: 'counting', id: revision.sourceId, body: { revision: revisionId } }];
  }

  private async orderEntries(project: ProjectRow, entries: readonly Entry[]): Promise<StateOrder> {
    const contents = readContents(await this.shelf.complete(entries), project.currency);
    const revisions = new Map((await this.db.sources.listRevisions(project.id)).map((r) => [r.id, r]));
    const names = new Map((await this.db.sources.list(project.id)).map((s) => [s.id, s.name]));
    const { basis, tables, layer } = orderState(contents, revisions, names, this.store);
    const text = JSON.stringify([basis, tables.map((t) => [t.path, t.pictures !== null]), contents.layer, contents.settings]); // biome-ignore format: what it is of
    return { key: createHash('sha256').update(text).digest('base64url'), basis, tables, layer };
  }
}
