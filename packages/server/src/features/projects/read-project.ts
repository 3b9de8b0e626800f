import type { Entry } from '@tally/core';
import type { Repositories } from '../../db/repositories.ts';
import type { BookShelf } from '../books/book-shelf.ts';
import type { ProjectRow } from './project-repository.ts';
import { type ProjectContents, readContents } from './read-basis.ts';
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

/** Reads a project that was found already. */
export async function readProjectRow(db: Projects, shelf: BookShelf, project: ProjectRow): Promise<ReadProject> {
  const own = await db.projects.listEntries(project.id);
  return { project, own, contents: readContents(await shelf.complete(own), project.currency) };
}
