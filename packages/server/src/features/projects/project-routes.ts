import { randomUUID } from 'node:crypto';
import {
  changeSchema,
  createProjectSchema,
  diffEntries,
  type Entry,
  type EntryDiff,
  keepConsequential,
  LIVE_CODES,
  type ProjectDto,
  type ProjectStateDto,
  previewSchema,
  type RevisionDto,
  readTemplate,
  templateToEntries,
} from '@tally/core';
import { Router } from 'express';
import { z } from 'zod';
import type { DbClient } from '../../db/db-client.ts';
import type { CheckedFindings } from '../../engine/plan-messages.ts';
import { HttpProblem, readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import type { BookService } from '../books/book-service.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ChangeRequest, ChangeService } from '../changes/change-service.ts';
import type { ImportService } from '../sources/import-service.ts';
import type { ProjectRow } from './project-repository.ts';
import { readContents } from './read-basis.ts';
import { requireProject } from './require-project.ts';

const limitSchema = z.coerce.number().int().min(1).max(500).default(100);
/** A template that comes along, or the one of the demo. */
const templateRequestSchema = z.strictObject({ demo: z.boolean().optional(), template: z.unknown().optional() });

export interface ProjectServices {
  readonly db: DbClient;
  readonly changes: ChangeService;
  readonly imports: ImportService;
  readonly shelf: BookShelf;
  readonly books: BookService;
  /** The template that comes with the application. */
  readonly demoTemplate: () => unknown;
}

function toDto({ id, name, currency, seq, createdAt }: ProjectRow): ProjectDto {
  return { id, name, currency, seq, createdAt };
}

/** Makes a project; its settings are its first entry. */
export async function createProject(
  services: ProjectServices,
  id: string,
  name: string,
  currency: string,
  author: string,
): Promise<ProjectRow> {
  const project = await services.db.projects.create({ id, name, currency });
  const settings: Entry = { kind: 'settings', id: 'project', body: { currency, units: 'metric' } };
  await services.changes.commit(id, {
    base: 0,
    author,
    cause: 'Project made',
    diff: { added: [settings], updated: [], removed: [] },
  });
  return project;
}

/** Adds a template's items, assemblies and rules to a project and updates those of the same code. What else is there stays. */
export async function applyTemplate(
  { db, changes }: ProjectServices,
  projectId: string,
  value: unknown,
  author: string,
): Promise<void> {
  const template = readTemplate(value);
  if (!template.ok) throw new HttpProblem(400, template.problem);
  const project = await requireProject(db, projectId);
  const present = await db.projects.listEntries(projectId);
  const { orders } = readContents(present, project.currency);
  const wanted = templateToEntries(template.value)
    .filter((e) => e.kind !== 'settings')
    .map((e) => (e.kind === 'order' ? joinOrder(e, orders[e.id as keyof typeof orders] ?? []) : e));
  const names = new Set(wanted.map((e) => `${e.kind}/${e.id}`));
  const diff: EntryDiff = diffEntries(
    present.filter((e) => names.has(`${e.kind}/${e.id}`)),
    wanted,
  );
  if (diff.added.length + diff.updated.length === 0)
    throw new HttpProblem(409, {
      code: 'template-applied',
      message: 'Everything of this template is in the project already.',
    });
  await changes.commit(projectId, {
    base: project.seq,
    author,
    cause: `Template applied: ${template.value.name}`,
    diff,
  });
}

/** The order of a template after what the project has of its own: its own rules go first. */
function joinOrder(order: Entry, present: readonly string[]): Entry {
  const ids = order.body as readonly string[];
  return { ...order, body: [...present.filter((id) => !ids.includes(id)), ...ids] };
}

/** A revision with what the checks find as the project sees it, without findings that nothing is priced by. */
function replaceChecked(revision: RevisionDto, checked: readonly CheckedFindings[]): RevisionDto {
  const own = checked.find((c) => c.revisionId === revision.id);
  if (!own) return revision;
  const findings = [...revision.findings.filter((f) => !LIVE_CODES.has(f.code)), ...own.findings];
  return { ...revision, findings: own.consequences ? keepConsequential(findings, own.consequences) : findings };
}

export function projectRoutes(services: ProjectServices): Router {
  const { db, changes, imports, shelf, books } = services;
  const router = Router();

  router.get(
    '/',
    route(async () => {
      const totals = new Map((await db.projects.listTotals()).map((t) => [t.projectId, t.total]));
      return (await db.projects.list()).map((row) => ({ ...toDto(row), total: totals.get(row.id) ?? null }));
    }),
  );

  router.post(
    '/',
    route(async (req) => {
      const { name, currency, withTemplate } = readBody(createProjectSchema, req);
      const author = readAuthor(req.headers['x-author']);
      const project = await createProject(services, randomUUID(), name, currency, author);
      if (withTemplate) await applyTemplate(services, project.id, services.demoTemplate(), author);
      return toDto((await db.projects.find(project.id))!);
    }),
  );

  router.get(
    '/:projectId',
    route(async (req): Promise<ProjectStateDto> => {
      const projectId = String(req.params.projectId);
      const project = await requireProject(db, projectId);
      const own = await db.projects.listEntries(projectId);
      const contents = readContents(await shelf.complete(own), project.currency);
      const { basis, counting, orders, settings, layer, accepted, views, priceSheets, classifications } = contents;
      const { currency: _, factors: __, exchange: ___, classification: ____, ...lists } = basis;
      const [{ summary, manifest, checked }, sources, jobs] = await Promise.all([
        changes.summarize(projectId),
        imports.listSources(projectId, counting),
        db.jobs.list(projectId),
      ]);
      return {
        project: toDto(project),
        summary,
        manifest,
        basis: { ...lists, settings } as ProjectStateDto['basis'],
        layer,
        classifications,
        accepted,
        views,
        priceSheets,
        book: await books.describe(own),
        orders,
        sources: sources.map((s) => ({ ...s, revisions: s.revisions.map((r) => replaceChecked(r, checked)) })),
        jobs: jobs.map((j) => imports.toDto(j)),
      };
    }),
  );

  router.get(
    '/:projectId/changes',
    route(async (req) => {
      const { id } = await requireProject(db, String(req.params.projectId));
      return changes.list(id, limitSchema.parse(req.query.limit));
    }),
  );

  router.get(
    '/:projectId/items/:code/rates',
    route((req) => changes.listRates(String(req.params.projectId), String(req.params.code))),
  );

  router.post(
    '/:projectId/changes',
    route((req) =>
      changes.commit(String(req.params.projectId), {
        ...readBody(changeSchema, req),
        author: readAuthor(req.headers['x-author']),
      } as ChangeRequest),
    ),
  );

  router.post(
    '/:projectId/preview',
    route((req) => changes.preview(String(req.params.projectId), readBody(previewSchema, req).diff as EntryDiff)),
  );

  for (const direction of ['undo', 'redo'] as const) {
    router.post(
      `/:projectId/${direction}`,
      route((req) => changes.undo(String(req.params.projectId), readAuthor(req.headers['x-author']), direction)),
    );
  }

  router.post(
    '/:projectId/template',
    route(async (req) => {
      const body = readBody(templateRequestSchema, req);
      await applyTemplate(
        services,
        String(req.params.projectId),
        body.demo ? services.demoTemplate() : body.template,
        readAuthor(req.headers['x-author']),
      );
      return { isDone: true };
    }),
  );
  return router;
}
