import { type Request, Router } from 'express';
import { z } from 'zod';
import { readBody, route } from '../../http/http-problem.ts';
import { readAuthor } from '../../http/local-only.ts';
import { projectIdOf } from '../projects/require-project.ts';
import type { OptionService } from './option-service.ts';

const makeSchema = z.strictObject({
  name: z.string().trim().min(1, 'An option needs a name.').max(80),
  note: z.string().max(1000).optional(),
});
const rebaseSchema = z.strictObject({
  /** By `kind/id` of what is in conflict, whether the option's own counts. */
  keepsOwn: z.record(z.string().max(300), z.boolean()),
});

/** Options of a project. What is changed in one goes the way of every change, to its workspace. */
export function optionRoutes(options: OptionService): Router {
  const router = Router({ mergeParams: true });
  const idOf = (req: Request) => String((req.params as Record<string, string>).optionId);
  const who = (req: Request) => readAuthor(req.headers['x-author']);
  router.post(
    '/options',
    route((req) => {
      const { name, note } = readBody(makeSchema, req);
      return options.make(projectIdOf(req), name, note, who(req));
    }),
  );
  router.get(
    '/options/:optionId/conflicts',
    route((req) => options.listConflicts(projectIdOf(req), idOf(req))),
  );
  router.post(
    '/options/:optionId/merge',
    route((req) => options.merge(projectIdOf(req), idOf(req), who(req))),
  );
  router.post(
    '/options/:optionId/rebase',
    route((req) => {
      const { keepsOwn } = readBody(rebaseSchema, req);
      return options.rebase(projectIdOf(req), idOf(req), new Map(Object.entries(keepsOwn)), who(req));
    }),
  );
  router.post(
    '/options/:optionId/remove',
    route((req) => options.remove(projectIdOf(req), idOf(req), who(req))),
  );
  return router;
}
