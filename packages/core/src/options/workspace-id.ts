/** What stands between a project and an option in the id of a workspace. */
const MARK = '~';

/** What one works in: a project, or an option of it. */
export interface Workspace {
  readonly projectId: string;
  /** Null for the project itself. */
  readonly option: string | null;
}

/** The id by which an option is opened as if it were a project. @example 'heron-wharf~o1' */
export const workspaceId = ({ projectId, option }: Workspace): string =>
  option === null ? projectId : `${projectId}${MARK}${option}`;

/** A workspace by its id; that of a project is the project. */
export function readWorkspaceId(id: string): Workspace {
  const at = id.indexOf(MARK);
  return at < 0 ? { projectId: id, option: null } : { projectId: id.slice(0, at), option: id.slice(at + 1) };
}

/** The project of a workspace. */
export const projectOf = (id: string): string => readWorkspaceId(id).projectId;
