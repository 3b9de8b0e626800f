import { randomUUID } from 'node:crypto';
import {
  changeSchema,
  createProjectSchema,
  ENTRY_SLICES,
  type EntryDiff,
  giveAttributeSchema,
  previewSchema,
  renameProjectSchema,
} from '@tally/core';
import { Router } from 'express';
import { z } from 'zod';
import type { DbClient } from '../../db/db-client.ts';
import type { EnginePool } from '../../engine/engine-pool.ts';
import { abortOnClose, notFound, readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import { sendFile } from '../../http/send-file.ts';
import type { ChangeRequest, ChangeService } from '../changes/change-service.ts';
import { giveAttribute } from '../changes/give-attribute.ts';
import type { ProjectReader } from './project-reader.ts';
import { toProjectDto } from './project-repository.ts';
import type { ProjectService } from './project-service.ts';
import { requireProject } from './require-project.ts';

const sliceSchema = z.enum(ENTRY_SLICES);
const sinceSchema = z.coerce
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);
const fromSchema = z.coerce.number().int().min(0).max(1_000_000).default(0);
const findingsLimitSchema = z.coerce.number().int().min(1).max(2000).default(500);
const limitSchema = z.coerce.number().int().min(1).max(500).default(100);
/** Rules of a template that are tried on the models before it is taken, at most. */
const MOST_ASKED = 500;
/** Earlier projects that are asked what they did, at most. */
const MOST_PRACTICES = 50;
/** A template that comes along, or the one of the demo. */
const templateRequestSchema = z.strictObject({
  demo: z.boolean().optional(),
  starter: z.boolean().optional(),
  template: z.unknown().optional(),
  /** Another project, whose rules and book are taken. */
  templateOf: z.string().optional(),
});

export interface ProjectServices {
  readonly db: DbClient;
  readonly projects: ProjectService;
  readonly changes: ChangeService;
  readonly reader: ProjectReader;
  readonly engines: EnginePool;
}

export function projectRoutes(services: ProjectServices): Router {
  const { db, projects, changes, reader, engines } = services;
  const router = Router();

  router.get(
    '/',
    route(() => projects.list()),
  );

  router.post(
    '/',
    route(async (req) => {
      const {
        name,
        currency,
        withTemplate,
        withStarter,
        templateOf,
        template: own,
      } = readBody(createProjectSchema, req);
      const author = readAuthor(req.headers['x-author']);
      const template =
        own ??
        (templateOf !== undefined
          ? await projects.readTemplate(templateOf)
          : withTemplate
            ? projects.readShipped('template')
            : withStarter
              ? projects.readShipped('starter')
              : null);
      return toProjectDto(await projects.create(randomUUID(), name, currency, author, template));
    }),
  );

  router.get(
    '/:projectId/practice',
    route(async (req) => {
      const { id } = await requireProject(db, String(req.params.projectId));
      return { projects: await db.projects.listPractices(id, MOST_PRACTICES) };
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
      return toProjectDto(
        await projects.duplicate(String(req.params.projectId), name, readAuthor(req.headers['x-author'])),
      );
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
    route((req) => reader.summarize(String(req.params.projectId))),
  );
  router.get(
    '/:projectId/slices/:slice',
    route((req) =>
      reader.readSlice(
        String(req.params.projectId),
        sliceSchema.parse(req.params.slice),
        req.query.since === undefined ? null : sinceSchema.parse(req.query.since),
      ),
    ),
  );
  router.get(
    '/:projectId/sources',
    route((req) => reader.readSources(String(req.params.projectId))),
  );
  router.get(
    '/:projectId/findings',
    route((req) =>
      reader.readFindings(
        String(req.params.projectId),
        fromSchema.parse(req.query.from),
        findingsLimitSchema.parse(req.query.limit),
      ),
    ),
  );
  router.get(
    '/:projectId/revisions/:revisionId/findings',
    route(async (req) => {
      const found = await reader.readRevisionFindings(String(req.params.projectId), String(req.params.revisionId));
      if (!found) throw notFound('revision');
      return found;
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
    '/:projectId/attributes',
    route((req) =>
      giveAttribute(
        services,
        String(req.params.projectId),
        readBody(giveAttributeSchema, req),
        readAuthor(req.headers['x-author']),
      ),
    ),
  );

  router.post(
    '/:projectId/preview',
    route((req, res) =>
      changes.preview(String(req.params.projectId), readBody(previewSchema, req).diff as EntryDiff, abortOnClose(res)),
    ),
  );

  for (const direction of ['undo', 'redo'] as const) {
    router.post(
      `/:projectId/${direction}`,
      route((req) => changes.undo(String(req.params.projectId), readAuthor(req.headers['x-author']), direction)),
    );
  }

  const readAsked = ({ demo, starter, template, templateOf }: z.infer<typeof templateRequestSchema>): unknown =>
    demo
      ? projects.readShipped('template')
      : starter
        ? projects.readShipped('starter')
        : templateOf !== undefined
          ? projects.readTemplate(templateOf)
          : template;
  router.post(
    '/:projectId/template',
    route(async (req) => {
      const [projectId, author] = [String(req.params.projectId), readAuthor(req.headers['x-author'])];
      await projects.applyTemplate(projectId, await readAsked(readBody(templateRequestSchema, req)), author);
      return { isDone: true };
    }),
  );
  router.post(
    '/:projectId/template/check',
    route(async (req) => {
      const projectId = String(req.params.projectId);
      const { fit, template } = await projects.checkTemplate(
        projectId,
        await readAsked(readBody(templateRequestSchema, req)),
      );
      const asked = template.rules.filter((r) => !r.mayBeIdle && !r.isOff).slice(0, MOST_ASKED);
      const idle = await engines.withEngine(projectId, async (engine) => {
        const found: string[] = [];
        for (const rule of asked) if ((await engine.ask('findKeys', rule.scope)).length === 0) found.push(rule.name);
        return found;
      });
      return { ...fit, idle };
    }),
  );
  return router;
}
