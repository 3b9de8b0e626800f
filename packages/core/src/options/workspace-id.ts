/** What stands between a project and an option, or a past change, in the id of a workspace. */
const [OPTION, PAST] = ['~', '@'];

/** What one works in: a project, an option of it; or what one looks at: the project as it was after a change. */
export interface Workspace {
  readonly projectId: string;
  /** Null for the project itself. */
  readonly option: string | null;
  /** Sequence number of the last change; null for the project as it is. */
  readonly past: number | null;
}

/** The id by which an option, or a past state, is opened as if it were a project. @example 'heron-wharf~o1', 'heron-wharf@12' */
export const workspaceId = ({
  projectId,
  option = null,
  past = null,
}: Pick<Workspace, 'projectId'> & Partial<Workspace>): string =>
  `${projectId}${option === null ? '' : OPTION + option}${past === null ? '' : PAST + past}`;

/** A workspace by its id; that of a project is the project. */
export function readWorkspaceId(id: string): Workspace {
  const past = /^(.*)@(\d{1,9})$/.exec(id);
  if (past) return { projectId: past[1]!, option: null, past: Number(past[2]) };
  const at = id.indexOf(OPTION);
  return at < 0
    ? { projectId: id, option: null, past: null }
    : { projectId: id.slice(0, at), option: id.slice(at + 1), past: null };
}

/** The project of a workspace. */
export const projectOf = (id: string): string => readWorkspaceId(id).projectId;
