import {
  markedSchema,
  outlineTableSchema,
  type PlanView,
  planViewSchema,
  readGroupField,
  stateRefSchema,
} from '@tally/core';
import { planToSheet, takeoffToSheet } from '@tally/files';
import express, { type Request, Router } from 'express';
import { z } from 'zod';
import type { DbClient } from '../../db/db-client.ts';
import type { EnginePool, PlanEngine } from '../../engine/engine-pool.ts';
import type { PackedReading } from '../../engine/plan-messages.ts';
import { abortOnClose, HttpProblem, notFound, readBody, route } from '../../http/http-problem.ts';
import { sendFile, XLSX_TYPE } from '../../http/send-file.ts';
import { writeSheetsApart } from '../../importers/write-sheets-apart.ts';
import type { CompareService } from '../changes/compare-service.ts';
import { projectIdOf, requireProject } from '../projects/require-project.ts';
import { sendReading } from './send-reading.ts';

const LARGEST_TABLE = '96mb';
const keysSchema = z.strictObject({ keys: z.array(z.number().int()).max(1_000_000) });
const compareSchema = z.object({
  from: stateRefSchema,
  to: stateRefSchema,
  by: z.string().max(200).default('section'),
});
const signSchema = z.strictObject({ things: z.array(markedSchema).min(1).max(2000) });
const idsSchema = z.string().max(2000);
/** Whole numbers of an address, as large as the database counts. */
const seqSchema = z.coerce
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);
const elementKeySchema = seqSchema;
/** Allowances and drawn rooms have negative keys. */
const keySchema = z.coerce.number().int();

/** How a plan is looked at, from the address: a view as JSON, or fields with commas between. Errors: 400 for one there is not. */
function readView({ query }: Request): PlanView {
  const { view, by } = query;
  const asked =
    typeof view === 'string' ? parseView(view) : { by: typeof by === 'string' && by !== '' ? by.split(',') : [] };
  const read = planViewSchema.safeParse(asked);
  if (read.success) return read.data;
  throw new HttpProblem(400, { code: 'request-invalid', message: read.error.issues[0]!.message });
}

function parseView(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new HttpProblem(400, { code: 'request-invalid', message: 'The view of the plan cannot be read.' });
  }
}

/** Readings of a project's plan. A change is answered when its plan is calculated, so what is read is never older than what was answered. */
export function planRoutes(engines: EnginePool, db: DbClient, compare: CompareService): Router {
  const router = Router({ mergeParams: true });
  const settled = async <T>(req: Request, task: (engine: PlanEngine) => Promise<T>): Promise<T> => {
    const projectId = projectIdOf(req);
    // A project with an engine is there; any other is looked for before an engine is made for it.
    if (!engines.has(projectId)) await requireProject(db, projectId);
    return engines.withEngine(projectId, task);
  };
  const reading = (ask: (engine: PlanEngine, req: Request) => Promise<PackedReading>) =>
    route(async (req, res) => sendReading(req, res, await settled(req, (engine) => ask(engine, req))));
  router.get(
    '/plan',
    reading((engine, req) => engine.read('group', readView(req))),
  );
  router.get(
    '/plan/elements',
    route((req) => settled(req, (engine) => engine.ask('groupElements', readView(req), idsSchema.parse(req.query.id)))),
  );
  router.get(
    '/plan/behind',
    route((req) => settled(req, (engine) => engine.ask('behind', readView(req), idsSchema.parse(req.query.id)))),
  );
  router.get(
    '/targets',
    reading((engine) => engine.read('targets')),
  );
  router.get(
    '/bands',
    reading((engine) => engine.read('bands')),
  );
  router.get(
    '/checked',
    reading((engine) => engine.read('checked')),
  );
  router.get(
    '/cutting',
    route((req) => settled(req, (engine) => engine.ask('cutItems'))),
  );
  router.get(
    '/cutting/:code',
    route(async (req) => {
      const cut = await settled(req, (engine) => engine.ask('cut', idsSchema.parse(req.params.code)));
      if (!cut.ok) throw new HttpProblem(cut.problem.code === 'item-unknown' ? 404 : 422, cut.problem);
      return { lists: cut.value };
    }),
  );
  // What is to be marked as checked may be long.
  router.post(
    '/plan/sign',
    route((req) => settled(req, (engine) => engine.ask('sign', readBody(signSchema, req).things))),
  );
  router.get(
    '/purchases',
    reading((engine) => engine.read('purchases')),
  );
  router.get(
    '/plan.csv',
    route(async (req, res) => {
      const project = await requireProject(db, projectIdOf(req));
      const csv = await settled(req, (engine) => engine.ask('csv', readView(req)));
      sendFile(res, 'text/csv', project.name, 'plan.csv', csv);
    }),
  );
  router.get(
    '/plan.xlsx',
    route(async (req, res) => {
      const project = await requireProject(db, projectIdOf(req));
      const [plan, digits] = await settled(
        req,
        async (engine) => [await engine.ask('groupWhole', readView(req)), await engine.ask('digits')] as const,
      );
      sendFile(res, XLSX_TYPE, project.name, 'plan.xlsx', await writeSheetsApart([planToSheet(plan, 'Plan', digits)]));
    }),
  );
  // The page has the table as it is shown: with its selection, its units and its rounding.
  router.post(
    '/takeoff.xlsx',
    express.json({ limit: LARGEST_TABLE }),
    route(async (req, res) => {
      const project = await requireProject(db, projectIdOf(req));
      const table = readBody(outlineTableSchema, req);
      sendFile(res, XLSX_TYPE, project.name, 'takeoff.xlsx', await writeSheetsApart([takeoffToSheet(table)]));
    }),
  );
  router.get(
    '/elements/states',
    reading((engine) => engine.read('states')),
  );
  // Of what is selected; a selection is too long for an address.
  router.post(
    '/elements/amount',
    route(async (req) => {
      const { keys } = readBody(keysSchema, req);
      return { amount: await settled(req, (engine) => engine.ask('amountOf', keys)) };
    }),
  );
  router.get(
    '/parts',
    reading((engine) => engine.read('parts')),
  );
  router.get(
    '/elements/:key/cost',
    route(async (req) => {
      const key = elementKeySchema.parse(req.params.key);
      const cost = await settled(req, (engine) => engine.ask('explain', key));
      if (!cost) throw notFound('element');
      return cost;
    }),
  );
  // Any state against any other: what moved, by group and element.
  router.get(
    '/compare',
    route(async (req, res) => {
      const { from, to, by } = compareSchema.parse(req.query);
      const field = readGroupField(by);
      if (!field) throw new HttpProblem(400, { code: 'request-invalid', message: `There is no field ${by}.` });
      return compare.compare(projectIdOf(req), from, to, field, abortOnClose(res));
    }),
  );
  router.get(
    '/compare/elements/:key',
    route(async (req) => {
      const { from, to } = compareSchema.parse(req.query);
      return compare.compareElement(projectIdOf(req), from, to, keySchema.parse(req.params.key));
    }),
  );
  return router;
}
