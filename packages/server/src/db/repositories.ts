import { bookRepository } from '../features/books/book-repository.ts';
import { changeRepository } from '../features/changes/change-repository.ts';
import { jobRepository } from '../features/jobs/job-repository.ts';
import { projectRepository } from '../features/projects/project-repository.ts';
import { sourceRepository } from '../features/sources/source-repository.ts';
import type { Database } from './database.ts';

/** All repositories by name; whole operations of these are what the database thread is asked to do. */
export const repositories = {
  projects: projectRepository,
  changes: changeRepository,
  sources: sourceRepository,
  jobs: jobRepository,
  books: bookRepository,
};

type WithoutDatabase<F> = F extends (db: Database, ...args: infer A) => Promise<infer R>
  ? (...args: A) => Promise<R>
  : never;

/** The repositories as the rest of the server sees them: without the connection. */
export type Repositories = {
  readonly [N in keyof typeof repositories]: {
    readonly [M in keyof (typeof repositories)[N]]: WithoutDatabase<(typeof repositories)[N][M]>;
  };
};

/** Repositories bound to an open database, for tests and for the database thread itself. */
export function bindRepositories(db: Database): Repositories {
  const bound = Object.entries(repositories).map(([name, repository]) => [
    name,
    Object.fromEntries(
      Object.entries(repository).map(([method, fn]) => [
        method,
        (...args: unknown[]) => (fn as (db: Database, ...a: unknown[]) => unknown)(db, ...args),
      ]),
    ),
  ]);
  return Object.fromEntries(bound) as Repositories;
}
