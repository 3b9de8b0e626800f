import { type Entry, type ProjectContents, readContents } from '@tally/core';
import type { Repositories } from '../../db/repositories.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ProjectRow } from './project-repository.ts';
import { requireProject } from './require-project.ts';

/** A project with its own entries, and all of it read with its book. */
export interface ReadProject {
  readonly project: ProjectRow;
  readonly own: readonly Entry[];
  readonly contents: ProjectContents;
}

type Projects = Pick<Repositories, 'projects'>;

/** Reads the project of an id. Errors: 404 if there is none. */
export async function readProject(db: Projects, shelf: BookShelf, id: string): Promise<ReadProject> {
  return readProjectRow(db, shelf, await requireProject(db, id));
}

const read = new WeakMap<readonly Entry[], { readonly currency: string; readonly contents: ProjectContents }>();

/** Reads a project that was found already; entries that are held as they were are read once. */
export async function readProjectRow(db: Projects, shelf: BookShelf, project: ProjectRow): Promise<ReadProject> {
  const own = await db.projects.listEntries(project.id);
  const { currency } = project;
  const known = read.get(own);
  if (known?.currency === currency) return { project, own, contents: known.contents };
  const contents = readContents(await shelf.complete(own), currency);
  read.set(own, { currency, contents });
  return { project, own, contents };
}
