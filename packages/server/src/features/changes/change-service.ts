import {
  addsTyped,
  applyDiff,
  type ChangeDto,
  type CostItem,
  ENTRY_SLICES,
  type Entry,
  type EntryDiff,
  type EntrySlice,
  findRedoable,
  findTooAlike,
  findUndoable,
  invertDiff,
  listDiffSlices,
  listTakenBack,
  type MoveDto,
  type PastRate,
  type PlanManifestDto,
  type PlanSummaryDto,
  type PracticeRow,
  type ProjectEffectDto,
  projectOf,
  readContents,
  readRateHistory,
  readWorkspaceId,
  TOLERANCE,
} from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import type { EnginePool, PlanEngine } from '../../engine/engine-pool.ts';
import { writePlanManifest } from '../../engine/plan-manifest.ts';
import type { CheckedFindings } from '../../engine/plan-messages.ts';
import { PreviewDropped, runUndisturbed } from '../../engine/preview-gate.ts';
import { FILE_DAMAGED } from '../../engine/table-files.ts';
import { HttpProblem, notFound } from '../../http/http-problem.ts';
import { isFileWhole } from '../../importers/file-store.ts';
import type { FileStorePaths } from '../../importers/file-store-paths.ts';
import { BookShelf } from '../books/book-shelf.ts';
import type { EventHub } from '../events/event-hub.ts';
import type { ProjectRow } from '../projects/project-repository.ts';
import { requireProject } from '../projects/require-project.ts';
import type { SerialQueue } from '../projects/serial-queue.ts';
import type { RevisionRow } from '../sources/source-repository.ts';
import type { ListedChange, ProjectSources } from './change-repository.ts';
import { checkEntries } from './check-entries.ts';
import { orderState } from './order-state.ts';

export interface ChangeRequest {
  readonly base: number;
  readonly author: string;
  readonly cause: string;
  readonly diff: EntryDiff;
  readonly undoes?: number;
}

/** A plan in short, what it stands on, and what its revisions state otherwise than it was measured. */
interface CalculatedPlan {
  readonly summary: PlanSummaryDto;
  readonly manifest: PlanManifestDto;
  readonly checked: readonly CheckedFindings[];
}

/** Changes that a page that was away is told one by one. */
const MOST_MISSED = 500;
/** Changes without a move that are gone through one by one; older ones stay without. */
const MOST_UNMOVED = 20;

/** The way every change takes: commit, then engine, then push. What was committed is said to be committed. */
export class ChangeService {
  private readonly plans = new Map<string, CalculatedPlan>();
  /** Makes the table of a revision again; set where the server is wired together. */
  onDamagedTable: (revision: RevisionRow) => Promise<void> = async () => undefined;

  constructor(
    private readonly db: DbClient,
    private readonly engines: EnginePool,
    private readonly events: EventHub,
    private readonly queue: SerialQueue,
    private readonly shelf: BookShelf,
    private readonly store: FileStorePaths,
    private readonly log: (error: unknown) => void,
  ) {}

  /** Summary of a project's plan and what it stands on, calculated if it is not at hand. */
  async summarize(projectId: string): Promise<CalculatedPlan> {
    const known = this.plans.get(projectId);
    if (known) return known;
    await this.engines.withEngine(projectId, async () => undefined);
    const made = this.plans.get(projectId);
    if (made) return made;
    // Whatever it was that took it away again: the plan is calculated anew.
    this.engines.drop(projectId);
    await this.engines.withEngine(projectId, async () => undefined);
    return this.plans.get(projectId)!;
  }

  /**
   * Brings an engine up to what the database says. Changes whose moves are not known, because the calculation failed or a stop came
   * between, are gone through one by one, and their moves are kept.
   */
  async loadEngine(projectId: string, engine: PlanEngine): Promise<void> {
    const project = await requireProject(this.db, projectId);
    const revisions = new Map((await this.db.sources.listRevisions(projectId)).map((r) => [r.id, r]));
    const names = new Map((await this.db.sources.list(projectId)).map((s) => [s.id, s.name]));
    const now = await this.db.projects.listEntries(projectId);
    const open = await this.db.changes.listUnmoved(projectId, MOST_UNMOVED);
    // States from the one before the oldest open change up to now; what the engine holds already is not gone through again.
    const from = Math.max(project.seq - open.length, engine.seq ?? 0);
    const states: Entry[][] = [now];
    for (let seq = project.seq; seq > from + (engine.seq === from ? 1 : 0); seq--) {
      const change = await this.db.changes.find(projectId, seq);
      if (!change) break;
      states.unshift(applyDiff(states[0]!, invertDiff(change.diff)));
    }
    for (const [i, entries] of states.entries()) {
      const seq = project.seq - (states.length - 1 - i);
      const made = await this.calculate(project, engine, entries, revisions, names);
      // A reading for others: that it cannot be kept is no fault of the plan.
      if (made.practice) await this.db.projects.savePractice(projectId, made.practice).catch(this.log);
      if (made.move && engine.seq === seq - 1) await this.db.changes.saveMove(projectId, seq, made.move);
      engine.seq = seq;
      this.plans.set(projectId, made.plan);
    }
    const { shortfall } = this.plans.get(projectId)!.summary;
    if (JSON.stringify(shortfall) !== JSON.stringify(project.shortfall))
      await this.db.projects.update(projectId, { shortfall });
  }

  private async calculate(
    project: ProjectRow,
    engine: PlanEngine,
    entries: readonly Entry[],
    revisions: ReadonlyMap<string, RevisionRow>,
    names: ReadonlyMap<string, string>,
  ): Promise<{
    readonly plan: CalculatedPlan;
    readonly move: MoveDto | null;
    readonly practice: readonly PracticeRow[] | null;
  }> {
    const contents = readContents(await this.shelf.complete(entries), project.currency);
    const { basis, tables, layer, counted } = orderState(contents, revisions, names, this.store);
    const { statedTolerance, overlapShare, belowStoreyM } = contents.settings;
    const { summary, move, checked, practice } = await engine
      .ask(
        'update',
        basis,
        tables,
        layer,
        { statedShare: statedTolerance ?? TOLERANCE.statedShare, overlapShare, belowStoreyM },
        contents.settings.keptOut,
      )
      .catch(async (error: { code?: string }) => {
        throw error.code === FILE_DAMAGED ? await this.tellDamaged(counted) : error;
      });
    const sources = counted.map(({ id, sourceId, tableHash, readerVersion }) => ({
      sourceId,
      revisionId: id,
      tableHash,
      readerVersion,
    }));
    const { quantityChoices, quantityOverrides } = contents.settings;
    const choices = { quantityChoices, quantityOverrides };
    const manifest = writePlanManifest(basis, sources, { layer: contents.layer, choices });
    return { plan: { summary, manifest, checked }, move, practice };
  }

  /** Lets damaged tables be made again from their files, and says so. */
  private async tellDamaged(revisions: readonly RevisionRow[]): Promise<HttpProblem> {
    const whole = await Promise.all(revisions.map((r) => isFileWhole(this.store.tablePath(r.tableHash))));
    const damaged = revisions.filter((_, i) => !whole[i]);
    for (const revision of damaged) this.onDamagedTable(revision).catch(this.log);
    return new HttpProblem(503, {
      code: 'table-damaged',
      message: `What is kept of ${damaged.map((r) => r.fileName).join(', ')} is damaged on the disk; it is made again from the file.`,
      remedy: 'Try again in a moment. If it stays, look whether the original file is still in the data folder.',
    });
  }

  /** Puts the plan of a project away, so that it is worked out anew when it is asked for. */
  forgetPlan(projectId: string): void {
    this.plans.delete(projectId);
    this.engines.drop(projectId);
  }

  /** Commits a change of entries. Errors: 400 for entries that are not valid, 404, 409 with what others changed. */
  async commit(projectId: string, request: ChangeRequest): Promise<ChangeDto> {
    await checkEntries(request.diff);
    await this.checkBook(request.diff);
    return this.queue.run(projectOf(projectId), () => this.commitNow(projectId, request));
  }

  /** Makes a project; its first change sets it up. */
  async createProject(
    row: { id: string; name: string; currency: string; nextKey?: number },
    first: Pick<ChangeRequest, 'author' | 'cause' | 'diff'>,
    from?: ProjectSources,
  ): Promise<void> {
    await checkEntries(first.diff);
    await this.queue.run(row.id, async () => {
      const { made, move } = await this.beforeTold(async () => {
        const made = await this.db.changes.createProject(row, first, from);
        return { made, move: await this.recalculate(row.id, made.seq) };
      });
      this.events.publish({
        kind: 'change',
        projectId: row.id,
        change: toChangeDto(made, move, false),
        slices: ENTRY_SLICES,
      });
    });
  }

  /** Makes a change; until it is told, streams that break off resume before it. */
  private async beforeTold<T>(make: () => Promise<T>): Promise<T> {
    const done = this.events.reserve();
    try {
      return await make();
    } finally {
      done();
    }
  }

  /** Commits while no other change of the project is under way. */
  private async commitNow(projectId: string, request: ChangeRequest): Promise<ChangeDto> {
    await this.checkCodes(projectId, request.diff);
    await this.checkIdentities(projectId, request.diff);
    // What an option moves is told from what it was: it has no other record of that.
    if (projectOf(projectId) !== projectId) await this.engines.withEngine(projectId, async () => undefined);
    const { outcome, move } = await this.beforeTold(async () => {
      const outcome = await this.db.changes.commit({ projectId, ...request });
      const isDone = outcome.kind === 'done';
      return { outcome, move: isDone ? await this.recalculate(projectId, outcome.change.seq) : null };
    });
    if (outcome.kind === 'missing') throw notFound('project');
    if (outcome.kind === 'misfit')
      throw new HttpProblem(409, {
        code: 'change-conflict',
        message: outcome.reason,
        remedy: 'Look at the newest state and try again.',
      });
    if (outcome.kind === 'conflict') {
      const by = [...new Set(outcome.changes.map((c) => c.author))].join(', ');
      throw new HttpProblem(
        409,
        {
          code: 'change-conflict',
          message: `${by} changed the same thing meanwhile: ${outcome.changes.at(-1)!.cause}.`,
          remedy: 'Look at the newest state and try again.',
        },
        outcome.changes.map((c) => toChangeDto(c, null, false)),
      );
    }
    const change = toChangeDto(outcome.change, move, false);
    await this.follow(projectId, change.seq);
    const project = projectOf(projectId);
    // What an option has otherwise is an entry of its project too.
    const touched = new Set<EntrySlice>([...listDiffSlices(request.diff), ...(project === projectId ? [] : (['notes'] as const))]); // biome-ignore format: one set
    const slices = ENTRY_SLICES.filter((slice) => touched.has(slice));
    this.events.publish({ kind: 'change', projectId: project, change: { ...change, projectId: project }, slices });
    return change;
  }

  /** Brings the other plans of a project that are ready (of itself, of its options) up to a change. */
  private async follow(projectId: string, seq: number): Promise<void> {
    const project = projectOf(projectId);
    // What was stays as it was.
    for (const other of this.engines.listIds())
      if (other !== projectId && projectOf(other) === project && readWorkspaceId(other).past === null)
        await this.recalculate(other, seq);
  }

  /**
   * How the total moved by a change that is committed. It stays so whatever fails here: then the move is null, and comes when the plan
   * is calculated the next time.
   */
  private async recalculate(projectId: string, seq: number): Promise<MoveDto | null> {
    try {
      await this.engines.withEngine(projectId, async (engine) => {
        if (engine.seq !== seq) await this.loadEngine(projectId, engine);
      });
      return await this.db.changes.findMove(projectId, seq);
    } catch (error) {
      this.log(error);
      this.forgetPlan(projectId);
      return null;
    }
  }

  /** Calculates the projects whose last changes have no move yet, one after another. */
  async settleMoves(): Promise<void> {
    for (const projectId of await this.db.changes.listUnmovedProjects())
      await this.queue.run(projectId, () => this.engines.withEngine(projectId, async () => undefined)).catch(this.log);
  }

  /** Refuses codes and names that nobody could tell from others of their list. */
  private async checkCodes(projectId: string, diff: EntryDiff): Promise<void> {
    if (!addsTyped(diff)) return;
    const entries = await this.shelf.complete(await this.db.projects.listEntries(projectId));
    const alike = findTooAlike(entries, diff);
    if (!alike) return;
    const { kind, id } = alike.added;
    throw new HttpProblem(400, {
      code: 'code-too-alike',
      message: `${kind} ${id} is too much like ${alike.other}, which is there already.`,
      remedy: 'Give it another code; capital letters alone do not tell two codes apart.',
    });
  }

  /** Refuses that two elements are said to be the same one of before: whoever says the second is asked. */
  private async checkIdentities(projectId: string, diff: EntryDiff): Promise<void> {
    const isSaid = [...diff.added, ...diff.updated].some((e) => e.kind === 'identity');
    if (!isSaid) return;
    const claims = new Map<number, string>();
    for (const { kind, id, body } of tryDiff(await this.db.projects.listEntries(projectId), diff)) {
      const { was } = body as { was: number | null };
      if (kind !== 'identity' || was === null) continue;
      const other = claims.get(was);
      if (other !== undefined)
        throw new HttpProblem(409, {
          code: 'identity-claimed',
          message: `Two elements (${other} and ${id}) would be the same one of before (${was}).`,
          remedy: 'Say of one of them that it is another.',
        });
      claims.set(was, id);
    }
  }

  /** Refuses a book version that is not there. */
  private async checkBook(diff: EntryDiff): Promise<void> {
    const entries = [...diff.added, ...diff.updated.map((u) => ({ ...u, body: u.to }))];
    const pinned = BookShelf.pinnedOf(entries);
    if (pinned) await this.shelf.read(pinned);
  }

  /**
   * How a change of items, assemblies, rules, pins or sections would move the plan; nothing is kept. It has a lane of its own: changes go
   * first, and one that came between makes it begin again. Errors as of `commit`.
   * @param signal aborted when nobody waits for it any more
   */
  async preview(projectId: string, diff: EntryDiff, signal?: AbortSignal): Promise<MoveDto> {
    await checkEntries(diff);
    return runUndisturbed(
      () => this.previewOnce(projectId, diff, signal),
      signal,
      // Until the change that came first is in the plan.
      () => this.queue.run(projectOf(projectId), () => this.engines.withEngine(projectId, async () => undefined)),
    );
  }

  private async previewOnce(projectId: string, diff: EntryDiff, signal?: AbortSignal): Promise<MoveDto> {
    const project = await requireProject(this.db, projectId);
    const entries = await this.db.projects.listEntries(projectId);
    const { basis } = readContents(await this.shelf.complete(tryDiff(entries, diff)), project.currency);
    // Entries that are newer than the number are of a change that came between.
    if ((await requireProject(this.db, projectId)).seq !== project.seq) throw new PreviewDropped();
    return this.engines.withEngine(projectId, (engine) => engine.preview(basis, project.seq, signal));
  }

  /**
   * The same for a project that nobody may be looking at. What cannot be calculated there is told and stops nothing.
   * @param prices how many prices the change moves
   */
  async previewElsewhere(project: ProjectRow, prices: number, diff: EntryDiff): Promise<ProjectEffectDto> {
    const { id: projectId, name, seq, currency } = project;
    const about = { projectId, name, seq, currency, prices, diff };
    try {
      const move = await this.preview(projectId, diff);
      return { ...about, move, problem: null };
    } catch (error) {
      return { ...about, move: null, problem: error instanceof Error ? error.message : String(error) };
    }
  }

  /** True if the project asks for figures that only the shapes of its elements give. */
  async measuresShapes(projectId: string): Promise<boolean> {
    const { layer } = readContents(await this.db.projects.listEntries(projectId), '');
    return layer.limits.length > 0 || Object.keys(layer.chosenFaces).length > 0;
  }

  /** Calculates anew after shapes have come that the project measures; does nothing if it measures none. */
  async measureAgain(projectId: string): Promise<void> {
    if (!(await this.measuresShapes(projectId))) return;
    await this.queue.run(projectOf(projectId), () =>
      this.engines.withEngine(projectId, (engine) => this.loadEngine(projectId, engine)),
    );
  }

  /** Takes back the author's last change, or puts the last one taken back in force again. */
  undo(projectId: string, author: string, direction: 'undo' | 'redo'): Promise<ChangeDto> {
    // Chosen and done in one: two at once take back two changes.
    return this.queue.run(projectOf(projectId), () => this.undoNow(projectId, author, direction));
  }

  private async undoNow(projectId: string, author: string, direction: 'undo' | 'redo'): Promise<ChangeDto> {
    await requireProject(this.db, projectId);
    const rows = await this.db.changes.listByAuthor(projectId, author);
    const target = direction === 'undo' ? findUndoable(rows) : findRedoable(rows);
    if (!target)
      throw new HttpProblem(409, {
        code: 'nothing-to-undo',
        message: direction === 'undo' ? 'There is nothing of yours left to undo.' : 'There is nothing to redo.',
      });
    const original = direction === 'undo' ? target : (rows.find((r) => r.seq === target.undoes) ?? target);
    const cause = `${direction === 'undo' ? 'Undone' : 'Redone'}: ${original.cause}`;
    const { diff } = (await this.db.changes.find(projectId, target.seq))!;
    const inverse = invertDiff(diff);
    return this.commitNow(projectId, { base: target.seq, author, cause, diff: inverse, undoes: target.seq });
  }

  /** Changes of a project, newest first. */
  async list(projectId: string, limit: number): Promise<ChangeDto[]> {
    const rows = await this.db.changes.list(projectId, limit);
    const takenBack = listTakenBack(rows.map((r) => r.change));
    return rows.map(({ change, move }) => toChangeDto(change, move, takenBack.has(change.seq)));
  }

  /** Rates an item had, oldest first. */
  async listRates(projectId: string, code: string): Promise<PastRate[]> {
    const rows = await this.db.changes.listOfEntry(projectId, 'item', code);
    return readRateHistory(
      rows.map(({ createdAt, author, cause, body }) => ({ at: createdAt, author, cause, item: body as CostItem })),
    );
  }

  /** Changes of all projects after a place in the log; null if they are too many to be told one by one. */
  async listAfter(id: number): Promise<ChangeDto[] | null> {
    const rows = await this.db.changes.listAfter(id, MOST_MISSED + 1);
    return rows.length > MOST_MISSED ? null : rows.map(({ change, move }) => toChangeDto(change, move, false));
  }
}

/** Entries after a diff. Errors: 409 if it does not fit them. */
function tryDiff(entries: readonly Entry[], diff: EntryDiff): Entry[] {
  try {
    return applyDiff(entries, diff);
  } catch (error) {
    throw new HttpProblem(409, {
      code: 'change-conflict',
      message: error instanceof Error ? error.message : String(error),
      remedy: 'Look at the newest state and try again.',
    });
  }
}

export function toChangeDto(
  { id, projectId, seq, author, cause, undoes, createdAt, entryCount, isRevision, option }: ListedChange,
  move: MoveDto | null,
  isUndone: boolean,
): ChangeDto {
  return { id, projectId, seq, author, cause, undoes, isUndone, at: createdAt, entryCount, isRevision, option, move };
}
