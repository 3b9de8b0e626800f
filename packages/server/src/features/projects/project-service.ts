import { randomUUID } from 'node:crypto';
import { constants, copyFileSync, existsSync, mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import {
  diffTemplate,
  type Entry,
  fitTemplate,
  forgetResolved,
  joinSettings,
  nameCurrency,
  type ProjectListDto,
  readContents,
  readTemplate,
  TEMPLATE_FORMAT,
  type Template,
  type TemplateFit,
  templateToEntries,
} from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem } from '../../http/http-problem.ts';
import type { FileStore } from '../../importers/file-store.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ChangeService } from '../changes/change-service.ts';
import type { EventHub } from '../events/event-hub.ts';
import type { RevisionRow } from '../sources/source-repository.ts';
import type { ProjectRow } from './project-repository.ts';
import { requireProject } from './require-project.ts';

/** Templates that come along: that of the demo, and the rough rules for any building. */
export type ShippedTemplate = 'template' | 'starter';

/** Making, naming, copying and putting away projects; templates out of one and into another. */
export class ProjectService {
  /** Draws a revision of a copy whose picture was not whole yet. */
  onUndrawn: (revision: RevisionRow, author: string) => Promise<unknown> = async () => undefined;

  constructor(
    private readonly db: DbClient,
    private readonly store: FileStore,
    private readonly changes: ChangeService,
    private readonly shelf: BookShelf,
    private readonly events: EventHub,
    /** Reads the template that comes with the application. */
    readonly readShipped: (name: ShippedTemplate) => unknown,
  ) {}

  /** All projects with their totals, what of them is priced, and their last change. */
  async list(): Promise<ProjectListDto[]> {
    const totals = new Map((await this.db.projects.listTotals()).map((t) => [t.projectId, t.total]));
    const last = new Map((await this.db.projects.listLastChanges()).map((c) => [c.projectId, c]));
    return (await this.db.projects.list()).map((row) => {
      const change = last.get(row.id);
      return {
        id: row.id,
        name: row.name,
        currency: row.currency,
        seq: row.seq,
        createdAt: row.createdAt,
        putAwayAt: row.putAwayAt,
        total: totals.get(row.id) ?? null,
        shortfall: row.shortfall,
        lastChange: change ? { at: change.at, author: change.author, cause: change.cause } : null,
      };
    });
  }

  /**
   * Makes a project with its settings, and with what of a template there is, in one change: a project that is there is whole.
   * @param template as it came; null for a project that begins empty. Errors: 400 naming what of it cannot be read
   * @param more entries it begins with beside them
   */
  async create(
    id: string,
    name: string,
    currency: string,
    author: string,
    template: unknown,
    more: readonly Entry[] = [],
  ): Promise<ProjectRow> {
    const read = template === null ? null : requireTemplate(template);
    const bare = { currency, units: 'metric' as const };
    const body = read ? joinSettings(bare, read.settings) : bare;
    const settings: Entry = { kind: 'settings', id: 'project', body };
    const added = [settings, ...(read ? listPricing(read, currency) : []), ...more];
    const cause = read ? `Project made, with template ${read.name}` : 'Project made';
    await this.changes.createProject(
      { id, name, currency },
      { author, cause, diff: { added, updated: [], removed: [] } },
    );
    this.events.publish({ kind: 'projects', projectId: id });
    return requireProject(this.db, id);
  }

  /** A template as entries of a project: its orders after what the project has of its own, of its settings what the project has not set. */
  private async openTemplate(projectId: string, value: unknown) {
    const template = requireTemplate(value);
    const project = await requireProject(this.db, projectId);
    const own = await this.db.projects.listEntries(projectId);
    const { orders, settings } = readContents(own, project.currency);
    // What a client wants to spend is of one project: only a new one takes it over.
    const pricing = listPricing(template, project.currency).filter((e) => e.kind !== 'target');
    const wanted = pricing.map((e) =>
      e.kind === 'order' ? joinOrder(e, orders[e.id as keyof typeof orders] ?? []) : e,
    );
    const joined = joinSettings(settings, template.settings);
    if (joined !== settings) wanted.push({ kind: 'settings', id: 'project', body: joined });
    return { template, project, own, wanted };
  }

  /** What taking a template would do to a project, and what of it would not work there; with the template as it was read. */
  async checkTemplate(
    projectId: string,
    value: unknown,
  ): Promise<{ readonly fit: TemplateFit; readonly template: Template }> {
    const { template, project, own, wanted } = await this.openTemplate(projectId, value);
    return { fit: fitTemplate(template, await this.shelf.complete(own), wanted, project.currency), template };
  }

  /** Adds a template's items, assemblies and rules to a project and updates those of the same code. What else is there stays. */
  async applyTemplate(projectId: string, value: unknown, author: string): Promise<void> {
    const { template, project, own, wanted } = await this.openTemplate(projectId, value);
    const diff = diffTemplate(own, wanted);
    if (diff.added.length + diff.updated.length === 0)
      throw new HttpProblem(409, {
        code: 'template-applied',
        message: 'Everything of this template is in the project already.',
      });
    const cause = `Template applied: ${template.name}`;
    await this.changes.commit(projectId, { base: project.seq, author, cause, diff });
  }

  /** What of a project prices any other: its items, assemblies, rules and settings. */
  async readTemplate(projectId: string): Promise<Template> {
    const project = await requireProject(this.db, projectId);
    const entries = await this.shelf.complete(await this.db.projects.listEntries(projectId));
    const { settings, classifications, basis } = readContents(entries, project.currency);
    const { sections, items, assemblies, values, scales, scopes, expected, bands } = basis;
    const rules = forgetResolved(basis.rules);
    const lists = { sections, items, assemblies, values, scales, classifications, rules, scopes, expected, bands };
    const read = readTemplate({ format: TEMPLATE_FORMAT, name: project.name, settings, ...lists });
    if (!read.ok) throw new HttpProblem(409, read.problem);
    return read.value;
  }

  async rename(projectId: string, name: string): Promise<void> {
    await requireProject(this.db, projectId);
    await this.db.projects.update(projectId, { name });
    this.events.publish({ kind: 'projects', projectId });
  }

  /** Puts a project away: it leaves the list and the drop folders, and comes back whole by one click. Nothing of it is ever deleted. */
  async putAway(projectId: string): Promise<void> {
    await requireProject(this.db, projectId);
    await this.db.projects.update(projectId, { putAwayAt: new Date().toISOString() });
    this.events.publish({ kind: 'projects', projectId });
  }

  async bringBack(projectId: string): Promise<void> {
    await requireProject(this.db, projectId);
    await this.db.projects.update(projectId, { putAwayAt: null });
    this.events.publish({ kind: 'projects', projectId });
  }

  /** A project with everything another has: prices, rules, decisions, sources with their revisions and pictures. Its past stays there. */
  async duplicate(projectId: string, name: string, author: string): Promise<ProjectRow> {
    const from = await requireProject(this.db, projectId);
    const entries = await this.db.projects.listEntries(projectId);
    const id = randomUUID();
    const sources = await this.db.sources.list(projectId);
    const revisions = await this.db.sources.listRevisions(projectId);
    // Of what is being drawn just now the copy draws a picture of its own: its elements are there.
    const undrawn = new Set(revisions.filter((r) => r.geometryState === 'running').map((r) => r.id));
    const sourceIds = new Map(sources.map((s) => [s.id, randomUUID()]));
    const revisionIds = new Map(revisions.map((r) => [r.id, randomUUID()]));
    for (const { id: old, chunks } of revisions.filter((r) => !undrawn.has(r.id)))
      for (let n = 0; n < chunks; n++) {
        const path = this.store.picturePath(old, n);
        if (existsSync(path)) this.copyPicture(path, this.store.picturePath(revisionIds.get(old)!, n));
      }
    const added = entries.flatMap((e): Entry[] => {
      if (e.kind !== 'counting') return [e];
      const revision = revisionIds.get((e.body as { revision: string }).revision);
      const source = sourceIds.get(e.id);
      return revision && source ? [{ kind: e.kind, id: source, body: { revision } }] : [];
    });
    const copied = {
      sources: sources.map((s) => ({ ...s, id: sourceIds.get(s.id)!, projectId: id })),
      revisions: revisions.map((r) => ({
        ...r,
        id: revisionIds.get(r.id)!,
        projectId: id,
        sourceId: sourceIds.get(r.sourceId)!,
        ...(undrawn.has(r.id) ? { geometryState: 'failed' as const, chunks: 0 } : {}),
      })),
    };
    await this.changes.createProject(
      { id, name, currency: from.currency, nextKey: from.nextKey },
      { author, cause: `Copied from ${from.name}`, diff: { added, updated: [], removed: [] } },
      copied,
    );
    this.events.publish({ kind: 'projects', projectId: id });
    // Made as it is: a picture that cannot be drawn now is drawn by hand later.
    for (const old of undrawn) {
      const revision = copied.revisions.find((r) => r.id === revisionIds.get(old))!;
      await this.onUndrawn(revision, author).catch(() => undefined);
    }
    return requireProject(this.db, id);
  }

  private copyPicture(from: string, to: string): void {
    mkdirSync(dirname(to), { recursive: true });
    copyFileSync(from, to, constants.COPYFILE_FICLONE);
  }
}

function requireTemplate(value: unknown): Template {
  const template = readTemplate(value);
  if (!template.ok) throw new HttpProblem(400, template.problem);
  return template.value;
}

/** What a template prices with; the settings of a project are its own. */
const listPricing = (template: Template, currency: string): Entry[] =>
  templateToEntries(nameCurrency(template, currency)).filter((e) => e.kind !== 'settings');

/** The order of a template after what the project has of its own: its own rules go first. */
function joinOrder(order: Entry, present: readonly string[]): Entry {
  const ids = order.body as readonly string[];
  return { ...order, body: [...present.filter((id) => !ids.includes(id)), ...ids] };
}
