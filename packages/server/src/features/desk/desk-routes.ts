import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deskSchema, projectOf, readWorkspaceId } from '@tally/core';
import { type BoathouseParameters, checkParameters, REVISIONS, writeBoathouse } from '@tally/demo';
import { Router } from 'express';
import type { DbClient } from '../../db/db-client.ts';
import { HttpProblem, readBody, route } from '../../http/http-problem.ts';
import type { DropWatcher } from '../../importers/drop-watcher.ts';
import { requireProject } from '../projects/require-project.ts';

/** Writes a design into a project's drop folder as its designers' program would: under another name first, then whole. */
export function issueDesign(
  folder: string,
  fileName: string,
  parameters: BoathouseParameters,
  timestamp: string,
): void {
  const draft = join(folder, `.${fileName}.part`);
  writeFileSync(draft, writeBoathouse(parameters, { fileName, timestamp }));
  renameSync(draft, join(folder, fileName));
}

interface DeskState {
  /** Revisions issued for the project, in its options too. */
  readonly issued: number;
  /** The design that was issued last: an option has its own once one was issued in it. */
  readonly parameters: BoathouseParameters;
}

/** The design desk: a small stand-in for the designers of Heron Wharf, who issue revisions of their model. */
export function deskRoutes(
  db: DbClient,
  watcher: DropWatcher,
  folder: string,
  /** Brings a file to a workspace. */
  bring: (workspace: string, fileName: string, content: string) => Promise<void>,
): Router {
  const router = Router({ mergeParams: true });
  mkdirSync(folder, { recursive: true });
  const statePath = (workspace: string) => join(folder, `${workspace}.json`);
  const readOwn = (workspace: string): DeskState | null =>
    existsSync(statePath(workspace)) ? JSON.parse(readFileSync(statePath(workspace), 'utf8')) : null;
  const read = (workspace: string): DeskState => {
    const project = readOwn(projectOf(workspace)) ?? { issued: 1, parameters: REVISIONS.R1 };
    return { ...project, parameters: readOwn(workspace)?.parameters ?? project.parameters };
  };
  const find = async (params: unknown) => (await requireProject(db, (params as { projectId: string }).projectId)).id;

  router.get(
    '/desk',
    route(async (req) => ({ ...read(await find(req.params)), revisions: REVISIONS })),
  );

  router.post(
    '/desk',
    route(async (req) => {
      const projectId = await find(req.params);
      const parameters = readBody(deskSchema, req);
      const fault = checkParameters(parameters);
      if (fault)
        throw new HttpProblem(400, { code: 'design-impossible', message: fault, remedy: 'Change the figure.' });
      const issued = read(projectId).issued + 1;
      const fileName = `heron-wharf-R${issued}.ifc`;
      const at = new Date().toISOString().slice(0, 19);
      // What is tried in an option, or while a slider is moved, is brought at once; the designers' folder is the project's.
      if (readWorkspaceId(projectId).option === null && req.query.now === undefined)
        issueDesign(watcher.projectFolder(projectId), fileName, parameters, at);
      else await bring(projectId, fileName, writeBoathouse(parameters, { fileName, timestamp: at }));
      writeFileSync(statePath(projectId), JSON.stringify({ issued, parameters }));
      // Files are numbered through, whichever workspace they are for.
      const project = projectOf(projectId);
      if (project !== projectId) writeFileSync(statePath(project), JSON.stringify({ ...read(project), issued }));
      return { issued, fileName };
    }),
  );
  return router;
}
