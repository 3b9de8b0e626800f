import { useNavigate } from 'react-router';
import { useProjectState } from './project-store.tsx';
import { useSelection } from './selection.tsx';
import { useElements } from './use-elements.ts';

/** Selects elements of a revision by their identity in it; null if the revision is not loaded. */
export function useSelectElements(revisionId: string): ((identities: readonly string[]) => void) | null {
  const { models } = useElements();
  const { select } = useSelection();
  const table = models.find((m) => m.revision.id === revisionId)?.table;
  if (!table) return null;
  return (identities) => {
    const wanted = new Set(identities);
    select([...table.keys].filter((_, row) => wanted.has(table.identity.pool[table.identity.index[row]!] ?? '')));
  };
}

/** The same, and frames them in the model. */
export function useShowElements(revisionId: string): ((identities: readonly string[]) => void) | null {
  const { project } = useProjectState('project');
  const { frame } = useSelection();
  const navigate = useNavigate();
  const mark = useSelectElements(revisionId);
  if (!mark) return null;
  return (identities) => {
    mark(identities);
    frame();
    navigate(`/projects/${project.id}/model`);
  };
}
