import { copyFileSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Allowance, type Entry, guessListProfile } from '@tally/core';
import { REVISIONS } from '@tally/demo';
import { readSheets } from '@tally/files';
import type { FileStore } from '../../importers/file-store.ts';
import type { ProjectService } from '../projects/project-service.ts';
import type { ListService } from '../sources/list-service.ts';
import { issueDesign } from './desk-routes.ts';

/** Id of the demo project. */
export const DEMO = 'heron-wharf';

/** What the demo project is made of. */
export interface DemoParts {
  readonly projects: ProjectService;
  readonly lists: ListService;
  readonly store: FileStore;
  /** Folder of the demo's files. */
  readonly folder: string;
  /** Drop folder of the project. */
  readonly dropFolder: string;
}

/** Makes the demo project: its book and rules, five costs without an object, the fittings of the yard as a list, and its first design. */
export async function loadDemo({ projects, lists, store, folder, dropFolder }: DemoParts): Promise<void> {
  const allowances = (JSON.parse(readFileSync(join(folder, 'allowances.json'), 'utf8')) as Allowance[]).map(
    (body, i): Entry => ({ kind: 'allowance', id: String(-1 - i), body }),
  );
  await projects.create(DEMO, 'Heron Wharf Boathouse', 'EUR', 'Demo', projects.readShipped('template'), allowances);
  issueDesign(dropFolder, 'heron-wharf-R1.ifc', REVISIONS.R1, '2026-03-02T09:00:00');
  const fileName = 'yard-fittings.csv';
  const copy = store.uploadPath();
  copyFileSync(join(folder, fileName), copy);
  const sheets = await readSheets(copy);
  const profile = sheets.ok ? guessListProfile(sheets.value) : null;
  if (!profile) throw new Error(`${fileName} of the demo cannot be read.`);
  const hash = await store.keepOriginal(copy);
  const wanted = { profile: { ...profile, pricesCount: true }, sourceId: null, name: 'yard-fittings', fileName };
  await lists.takeList(DEMO, hash, wanted, 'Demo');
}
