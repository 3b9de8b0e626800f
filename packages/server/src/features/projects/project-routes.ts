import { randomUUID } from 'node:crypto';
import {
  changeSchema,
  createProjectSchema,
  type EntryDiff,
  keepConsequential,
  LIVE_CODES,
  type ProjectDto,
  type ProjectStateDto,
  previewSchema,
  type RevisionDto,
  renameProjectSchema,
} from '@tally/core';
import { Router } from 'express';
import { z } from 'zod';
import type { DbClient } from '../../db/db-client.ts';
import type { CheckedFindings } from '../../engine/plan-messages.ts';
import { readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import { sendFile } from '../../http/send-file.ts';
import type { BookService } from '../books/book-service.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ChangeRequest, ChangeService } from '../changes/change-service.ts';
import type { ImportService } from '../sources/import-service.ts';
import type { RevisionService } from '../sources/revision-service.ts';
import type { ProjectRow } from './project-repository.ts';
import type { ProjectService } from './project-service.ts';
import { readProject } from './read-project.ts';
import { requireProject } from './require-project.ts';

const limitSchema = z.coerce.number().int().min(1).max(500).default(100);
/** A template that comes along, or the one of the demo. */
const templateRequestSchema = z.strictObject({ demo: z.boolean().optional(), template: z.unknown().optional() });

export interface ProjectServices {
  readonly db: DbClient;
  readonly projects: ProjectService;
  readonly changes: ChangeService;
  readonly imports: ImportService;
  readonly revisions: RevisionService;
  readonly shelf: BookShelf;
  readonly books: BookService;
}

function toDto({ id, name, currency, seq, createdAt }: ProjectRow): ProjectDto {
  return { id, name, currency, seq, createdAt };
}

/** A revision with what the checks find as the project sees it, without findings that nothing is priced by. */
function replaceChecked(revision: RevisionDto, checked: readonly CheckedFindings[]): RevisionDto {
  const own = checked.find((c) => c.revisionId === revision.id);
  if (!own) return revision;
  const findings = [...revision.findings.filter((f) => !LIVE_CODES.has(f.code)), ...own.findings];
  return { ...revision, findings: own.consequences ? keepConsequential(findings, own.consequences) : findings };
}

export function projectRoutes(services: ProjectServices): Router {
  const { db, projects, changes, imports, revisions, shelf, books } = services;
  const router = Router();

  router.get(
    '/',
    route(() => projects.list()),
  );

  router.post(
    '/',
    route(async (req) => {
      const { name, currency, withTemplate, templateOf } = readBody(createProjectSchema, req);
      const author = readAuthor(req.headers['x-author']);
      const template =
        templateOf !== undefined
          ? await projects.readTemplate(templateOf)
          : withTemplate
            ? projects.readDemoTemplate()
            : null;
      return toDto(await projects.create(randomUUID(), name, currency, author, template));
    }),
  );

  router.post(
    '/:projectId/rename',
    route(async (req) => {
      await projects.rename(String(req.params.projectId), readBody(renameProjectSchema, req).name);
      return { isDone: true };
    }),
  );
  router.post(
    '/:projectId/duplicate',
    route(async (req) => {
      const { name } = readBody(renameProjectSchema, req);
      return toDto(await projects.duplicate(String(req.params.projectId), name, readAuthor(req.headers['x-author'])));
    }),
  );
  router.post(
    '/:projectId/put-away',
    route(async (req) => {
      await projects.putAway(String(req.params.projectId));
      return { isDone: true };
    }),
  );
  router.post(
    '/:projectId/bring-back',
    route(async (req) => {
      await projects.bringBack(String(req.params.projectId));
      return { isDone: true };
    }),
  );
  router.get(
    '/:projectId/template.json',
    route(async (req, res) => {
      const template = await projects.readTemplate(String(req.params.projectId));
      sendFile(res, 'application/json', template.name, 'template.json', `${JSON.stringify(template, null, 1)}\n`);
    }),
  );

  router.get(
    '/:projectId',
    route(async (req): Promise<ProjectStateDto> => {
      const projectId = String(req.params.projectId);
      const { project, own, contents } = await readProject(db, shelf, projectId);
      const { basis, counting, orders, settings, layer, accepted, views, priceSheets, listProfiles, classifications } =
        contents;
      const { currency: _, factors: __, exchange: ___, classification: ____, ...lists } = basis;
      const [{ summary, manifest, checked }, sources, jobs] = await Promise.all([
        changes.summarize(projectId),
        revisions.listSources(projectId, counting),
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
        listProfiles,
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
      const [projectId, author] = [String(req.params.projectId), readAuthor(req.headers['x-author'])];
      await projects.applyTemplate(projectId, body.demo ? projects.readDemoTemplate() : body.template, author);
      return { isDone: true };
    }),
  );
  return router;
}
