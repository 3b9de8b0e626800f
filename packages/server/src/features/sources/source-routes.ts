import { existsSync, rmSync } from 'node:fs';
import { Router } from 'express';
import multer from 'multer';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, notFound, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import type { FileStore } from '../../importers/file-store.ts';
import { requireProject } from '../projects/require-project.ts';
import type { ImportService } from './import-service.ts';

const LARGEST_UPLOAD = 2 * 1024 ** 3;

/** Bringing model files, deciding about revisions, and the files that pages read. */
export function sourceRoutes(db: DbClient, store: FileStore, imports: ImportService): Router {
  const router = Router({ mergeParams: true });
  const upload = multer({
    storage: multer.diskStorage({ destination: (_req, _file, done) => done(null, `${store.root}/uploads`) }),
    limits: { fileSize: LARGEST_UPLOAD, files: 1 },
  });

  router.post(
    '/uploads',
    upload.single('file'),
    route(async (req, res) => {
      const projectId = String((req.params as Record<string, string>).projectId);
      const { file } = req;
      if (!file)
        throw new HttpProblem(400, {
          code: 'upload-refused',
          message: 'No file came with the request.',
          remedy: 'Choose one IFC file.',
        });
      try {
        await requireProject(db, projectId);
        const fileHash = await store.keepOriginal(file.path);
        const fileName = Buffer.from(file.originalname, 'latin1').toString('utf8');
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
          if (!res.writableFinished) void imports.stop(job.id).catch(() => undefined);
        };
        if (res.closed) stopIfLeft();
        else res.once('close', stopIfLeft);
        return job;
      } finally {
        rmSync(file.path, { force: true });
      }
    }),
  );

  router.post(
    '/jobs/:jobId/stop',
    route((req) => imports.stop(String(req.params.jobId))),
  );

  router.post(
    '/revisions/:revisionId/:decision',
    route(async (req) => {
      const { projectId, revisionId, decision } = req.params as Record<string, string>;
      const revision = await db.sources.findRevision(projectId!, revisionId!);
      if (!revision) throw notFound('revision');
      if (decision === 'count') await imports.letCount(revision, readAuthor(req.headers['x-author']));
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
