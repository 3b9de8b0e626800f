import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { type DropFolderDto, listOrderSchema } from '@tally/core';
import { Router } from 'express';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound, readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import { receiveUpload } from '../../http/receive-upload.ts';
import type { DropWatcher } from '../../importers/drop-watcher.ts';
import type { FileStore } from '../../importers/file-store.ts';
import { projectIdOf, requireProject } from '../projects/require-project.ts';
import type { ImportService } from './import-service.ts';
import type { ListService } from './list-service.ts';
import type { RevisionService } from './revision-service.ts';

const LARGEST_UPLOAD = 2 * 1024 ** 3;
const LARGEST_LIST = 150 * 1024 ** 2;

export interface SourceServices {
  readonly imports: ImportService;
  readonly revisions: RevisionService;
  readonly lists: ListService;
  readonly watcher: DropWatcher;
}

/** Bringing model files and lists, deciding about revisions, and the files that pages read. */
export function sourceRoutes(db: DbClient, store: FileStore, services: SourceServices): Router {
  const { imports, revisions, lists, watcher } = services;
  const router = Router({ mergeParams: true });
  router.post(
    '/uploads',
    ...receiveUpload(`${store.root}/uploads`, LARGEST_UPLOAD, 'one IFC file', async ({ path, fileName }, req, res) => {
      const projectId = String((req.params as Record<string, string>).projectId);
      await requireProject(db, projectId);
      const fileHash = await store.keepOriginal(path);
      const sourceId = typeof req.body.sourceId === 'string' && req.body.sourceId !== '' ? req.body.sourceId : null;
      const job = await imports.enqueue({
        projectId,
        fileName,
        fileHash,
        author: readAuthor(req.headers['x-author']),
        sourceId,
      });
      // Whoever stops the upload at its very end, when all of it has come, means the import too.
      const stopIfLeft = () => {
        if (!res.writableFinished) void imports.stop(projectId, job.id).catch(() => undefined);
      };
      if (res.closed) stopIfLeft();
      else res.once('close', stopIfLeft);
      return job;
    }),
  );

  router.post(
    '/lists',
    ...receiveUpload(`${store.root}/uploads`, LARGEST_LIST, 'one XLSX or CSV file', ({ path, fileName }, req) =>
      lists.describe(projectIdOf(req), path, fileName),
    ),
  );
  router.post(
    '/lists/:hash/preview',
    route((req) => lists.preview(projectIdOf(req), String(req.params.hash), readBody(listOrderSchema, req))),
  );
  router.post(
    '/lists/:hash/take',
    route((req) =>
      lists.takeList(
        projectIdOf(req),
        String(req.params.hash),
        readBody(listOrderSchema, req),
        readAuthor(req.headers['x-author']),
      ),
    ),
  );

  router.get(
    '/drop-folder',
    route(async (req): Promise<DropFolderDto> => {
      const { id } = await requireProject(db, String((req.params as Record<string, string>).projectId));
      return {
        path: resolve(watcher.projectFolder(id)),
        troubles: watcher.listTroubles(id),
        unknownFolders: await watcher.listUnknownFolders(),
      };
    }),
  );

  router.post(
    '/jobs/:jobId/stop',
    route((req) => {
      const { projectId, jobId } = req.params as Record<string, string>;
      return imports.stop(projectId!, jobId!);
    }),
  );
  router.post(
    '/jobs/:jobId/start',
    route((req) => {
      const { projectId, jobId } = req.params as Record<string, string>;
      return imports.startAgain(projectId!, jobId!);
    }),
  );

  router.post(
    '/revisions/:revisionId/:decision',
    route(async (req) => {
      const { projectId, revisionId, decision } = req.params as Record<string, string>;
      const revision = await db.sources.findRevision(projectId!, revisionId!);
      if (!revision) throw notFound('revision');
      if (decision === 'draw') return imports.drawAgain(revision, readAuthor(req.headers['x-author']));
      if (decision === 'count') await revisions.letCount(revision, readAuthor(req.headers['x-author']));
      else if (decision === 'reject' && revision.state === 'waiting')
        await db.sources.setState(revision.id, 'rejected');
      else throw new HttpProblem(400, { code: 'request-invalid', message: 'Only a waiting revision can be rejected.' });
      return { isDone: true };
    }),
  );

  const sendPacked = (path: string) =>
    route((_req, res) => {
      if (!existsSync(path)) throw notFound('file');
      // Named by content or by revision, they never change.
      res.setHeader('cache-control', 'private, max-age=31536000, immutable');
      res.setHeader('content-encoding', 'gzip');
      res.type('application/octet-stream').sendFile(path, { dotfiles: 'allow' });
    });

  router.get('/revisions/:revisionId/elements', async (req, res, next) => {
    const { projectId, revisionId } = req.params as unknown as Record<string, string>;
    const revision = await db.sources.findRevision(projectId!, revisionId!);
    if (!revision) return next(notFound('revision'));
    return sendPacked(store.tablePath(revision.tableHash))(req, res, next);
  });

  router.get('/revisions/:revisionId/picture/:chunk', async (req, res, next) => {
    const { projectId, revisionId, chunk } = req.params as unknown as Record<string, string>;
    const revision = await db.sources.findRevision(projectId!, revisionId!);
    if (!revision || !/^\d{1,6}$/.test(chunk!)) return next(notFound('revision'));
    return sendPacked(store.picturePath(revision.id, Number(chunk)))(req, res, next);
  });
  return router;
}
