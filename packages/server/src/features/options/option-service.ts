import { randomUUID } from 'node:crypto';
import {
  type ChangeDto,
  type EntryDiff,
  findOption,
  isEmptyDiff,
  makeOption,
  mergeOption,
  type OptionConflict,
  overlayOption,
  projectOf,
  type Result,
  readWorkspaceId,
  rebaseOption,
  removeOption,
  success,
} from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem } from '../../http/http-problem.ts';
import type { ChangeService } from '../changes/change-service.ts';
import { requireProject } from '../projects/require-project.ts';

/** Options: made, brought up to their base, merged into it, taken away. Each is one change of the project, and can be undone. */
export class OptionService {
  constructor(
    private readonly db: DbClient,
    private readonly changes: ChangeService,
  ) {}

  /** Makes an option of what one works in. Errors: 404, 422 for a name that is taken */
  async make(
    workspace: string,
    name: string,
    note: string | undefined,
    author: string,
  ): Promise<{ id: string; change: ChangeDto }> {
    await requireProject(this.db, workspace);
    const { projectId, option: parent } = readWorkspaceId(workspace);
    const entries = await this.db.projects.listEntries(projectId);
    const isTaken = entries.some((e) => e.kind === 'option' && (e.body as { name: string }).name.trim().toLowerCase() === name.trim().toLowerCase()); // biome-ignore format: one test
    if (isTaken)
      throw new HttpProblem(422, {
        code: 'option-named',
        message: `There is an option called ${name} already.`,
        remedy: 'Take another name.',
      });
    const id = randomUUID().slice(0, 8);
    const body = { name, ...(note ? { note } : {}), by: author, at: new Date().toISOString() };
    const change = await this.commit(projectId, `Option made: ${name}`, author, () => success(makeOption(entries, id, body, parent))); // biome-ignore format: one call
    return { id, change };
  }

  /** What the base has otherwise than when the option changed it. Errors: 404 */
  async listConflicts(workspace: string, id: string): Promise<readonly OptionConflict[]> {
    const entries = await this.db.projects.listEntries(projectOf(workspace));
    this.need(findOption(entries, id));
    return overlayOption(entries, id).conflicts;
  }

  /** Does what an option has otherwise to the base, and takes the option away. Errors: 404, 409 while something is in conflict */
  merge(workspace: string, id: string, author: string): Promise<ChangeDto> {
    return this.change(workspace, id, (name) => `Option merged: ${name}`, author, mergeOption);
  }

  /** Errors: 404 */
  remove(workspace: string, id: string, author: string): Promise<ChangeDto> {
    return this.change(workspace, id, (name) => `Option taken away: ${name}`, author, removeOption);
  }

  /** Says of what is in conflict whether the option's own counts. Errors: 404, 409 where nothing is */
  rebase(workspace: string, id: string, keepsOwn: ReadonlyMap<string, boolean>, author: string): Promise<ChangeDto> {
    return this.change(workspace, id, (name) => `Option brought up to the plan: ${name}`, author, (entries) => {
      const diff = rebaseOption(entries, id, keepsOwn);
      if (isEmptyDiff(diff))
        throw new HttpProblem(409, { code: 'change-conflict', message: 'Nothing of it is in conflict any more.' });
      return success(diff);
    });
  } // biome-ignore format: one step

  private async change(
    workspace: string,
    id: string,
    say: (name: string) => string,
    author: string,
    make: (entries: Parameters<typeof mergeOption>[0], id: string) => Result<EntryDiff>,
  ): Promise<ChangeDto> {
    const projectId = projectOf(workspace);
    const found = this.need(findOption(await this.db.projects.listEntries(projectId), id));
    return this.commit(projectId, say(found.body.name), author, (entries) => make(entries, id));
  }

  private async commit(
    projectId: string,
    cause: string,
    author: string,
    make: (entries: Parameters<typeof mergeOption>[0]) => Result<EntryDiff>,
  ): Promise<ChangeDto> {
    const { seq } = await requireProject(this.db, projectId);
    const diff = this.need(make(await this.db.projects.listEntries(projectId)));
    return this.changes.commit(projectId, { base: seq, author, cause, diff });
  }

  private need<T>(result: Result<T>): T {
    if (result.ok) return result.value;
    throw new HttpProblem(result.problem.code === 'option-unknown' ? 404 : 409, result.problem);
  }
}
