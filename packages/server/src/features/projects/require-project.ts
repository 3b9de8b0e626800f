import type { Repositories } from '../../db/repositories.ts';
import { notFound } from '../../http/http-problem.ts';
import type { ProjectRow } from './project-repository.ts';

/** Id of the project below whose address a request is. */
export const projectIdOf = ({ params }: { readonly params: object }): string =>
  String((params as Record<string, string>).projectId);

/** The project of an id. Errors: 404 if there is none. */
export async function requireProject(db: Pick<Repositories, 'projects'>, id: string): Promise<ProjectRow> {
  const project = await db.projects.find(id);
  if (!project) throw notFound('project');
  return project;
}
