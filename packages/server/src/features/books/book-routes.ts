import { diffEntries, publishBookSchema } from '@tally/core';
import { Router } from 'express';
import { z } from 'zod';
import type { DbClient } from '../../db/db-client.ts';
import { notFound, readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import type { BookService } from './book-service.ts';

const numberSchema = z.coerce
  .number()
  .int()
  .min(1)
  .max(2 ** 31 - 1);

/** Shared books: the list, their versions, and what changed between two. */
export function bookRoutes(db: DbClient): Router {
  const router = Router();
  router.get(
    '/',
    route(() => db.books.list()),
  );
  router.get(
    '/:bookId/versions',
    route((req) => db.books.listVersions(String(req.params.bookId))),
  );
  router.get(
    '/:bookId/compare',
    route(async (req) => {
      const read = async (number: unknown) => {
        const version = await db.books.findVersion(String(req.params.bookId), numberSchema.parse(number));
        if (!version) throw notFound('version of the book');
        return version.entries;
      };
      return diffEntries(await read(req.query.from), await read(req.query.to));
    }),
  );
  return router;
}

/** Sharing the prices of a project. */
export function projectBookRoutes(books: BookService): Router {
  const router = Router({ mergeParams: true });
  router.post(
    '/book/publish',
    route((req) =>
      books.publish(
        String((req.params as Record<string, string>).projectId),
        readAuthor(req.headers['x-author']),
        readBody(publishBookSchema, req) as { name?: string; note: string },
      ),
    ),
  );
  router.get(
    '/book/:bookId/effects',
    route((req) => {
      const { projectId, bookId } = req.params as Record<string, string>;
      return books.listEffects(projectId!, bookId!, numberSchema.parse(req.query.version));
    }),
  );
  return router;
}
