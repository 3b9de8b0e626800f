import { Router } from 'express';
import { z } from 'zod';
import { readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import { projectIdOf } from '../projects/require-project.ts';
import type { BaselineService } from './baseline-service.ts';

const freezeSchema = z.strictObject({
  name: z.string().trim().min(1, 'A baseline needs a name.').max(120),
  isContract: z.boolean().optional(),
});

/** Plans that are frozen; everything else about them is a change of entries. */
export function baselineRoutes(baselines: BaselineService): Router {
  const router = Router({ mergeParams: true });
  router.post(
    '/baselines',
    route((req) =>
      baselines.freeze(projectIdOf(req), readBody(freezeSchema, req), readAuthor(req.headers['x-author'])),
    ),
  );
  return router;
}
