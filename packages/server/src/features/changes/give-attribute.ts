import { type ChangeDto, changeAttribute, type GiveAttributeRequest, isEmptyDiff, readContents } from '@tally/core';
import type { DbClient } from '../../db/db-client.ts';
import type { EnginePool } from '../../engine/engine-pool.ts';
import { HttpProblem } from '../../http/http-problem.ts';
import { requireProject } from '../projects/require-project.ts';
import type { ChangeService } from './change-service.ts';

/** Entries of changes that came between and are looked through; with more the page is too far behind. */
const MOST_BETWEEN = 200_000;

/** Refuses to write over what came since the state that the request was made on. */
async function refuseMoved(
  db: DbClient,
  projectId: string,
  base: number,
  { name, value, keys }: { readonly name: string; readonly value: unknown; readonly keys: ReadonlySet<string> },
): Promise<void> {
  const since = await db.changes.listDiffsSince(projectId, base, MOST_BETWEEN);
  const read = (body: unknown): unknown => (body as Record<string, unknown> | undefined)?.[name] ?? null;
  const isOwn = (e: { kind: string; id: string }) => e.kind === 'attributes' && keys.has(e.id);
  /** What it was on each element then, and is now, where something came between. */
  const moved = new Map<string, { readonly was: unknown; is: unknown }>();
  const note = (id: string, from: unknown, to: unknown) => {
    const known = moved.get(id);
    if (known) known.is = to;
    else moved.set(id, { was: from, is: to });
  };
  for (const { diff } of since ?? []) {
    for (const e of diff.added.filter(isOwn)) note(e.id, null, read(e.body));
    for (const e of diff.removed.filter(isOwn)) note(e.id, read(e.body), null);
    for (const e of diff.updated.filter(isOwn)) note(e.id, read(e.from), read(e.to));
  }
  const lost = [...moved.values()].find(({ was, is }) => was !== is && is !== value);
  if (since && !lost) return;
  throw new HttpProblem(409, {
    code: 'change-conflict',
    message: lost
      ? `${name} of one of these elements was ${lost.is === null ? 'taken away' : `set to ${lost.is}`} meanwhile.`
      : 'Too much has changed since this was read.',
    remedy: 'Look at the newest state and try again.',
  });
}

/**
 * Gives one attribute to many elements as one change, taken back by one undo; what has it already is left alone.
 * Errors: 400 where there is nothing to change or a scope catches nothing, 404, 409 with what others changed.
 */
export async function giveAttribute(
  { db, engines, changes }: { readonly db: DbClient; readonly engines: EnginePool; readonly changes: ChangeService },
  projectId: string,
  { base, name, value, of }: GiveAttributeRequest,
  author: string,
): Promise<ChangeDto> {
  const project = await requireProject(db, projectId);
  const keys =
    'keys' in of ? of.keys : await engines.withEngine(projectId, (engine) => engine.ask('findKeys', of.scope));
  if (keys.length === 0)
    throw new HttpProblem(400, {
      code: 'scope-catches-nothing',
      message: `No element is caught that ${name} could be given to.`,
      remedy: 'Look at the condition in the takeoff: it shows what is caught.',
    });
  await refuseMoved(db, projectId, base, { name, value, keys: new Set(keys.map(String)) });
  const { layer } = readContents(await db.projects.listEntries(projectId), project.currency);
  const { cause, diff } = changeAttribute(layer.attributes, [...new Set(keys)], name, value);
  if (isEmptyDiff(diff))
    throw new HttpProblem(400, {
      code: 'request-invalid',
      message:
        value === null ? `None of these elements has ${name}.` : `All of these elements have ${name} ${value} already.`,
    });
  return changes.commit(projectId, { base, author, cause, diff });
}
