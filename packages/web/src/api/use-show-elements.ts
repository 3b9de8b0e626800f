import { useNavigate } from 'react-router';
import { useModels, useProjectState } from './project-context.tsx';
import { useSelection } from './selection.tsx';

/** Selects elements of a revision by GlobalId and frames them in the model; null if the revision is not loaded. */
export function useShowElements(revisionId: string): ((globalIds: readonly string[]) => void) | null {
  const { project } = useProjectState();
  const { models } = useModels();
  const { select, frame } = useSelection();
  const navigate = useNavigate();
  const table = models.find((m) => m.revision.id === revisionId)?.table;
  if (!table) return null;
  return (globalIds) => {
    const wanted = new Set(globalIds);
    select([...table.keys].filter((_, row) => wanted.has(table.identity.pool[table.identity.index[row]!] ?? '')));
    frame();
    navigate(`/projects/${project.id}/model`);
  };
}
