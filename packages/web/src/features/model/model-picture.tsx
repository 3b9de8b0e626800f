import { Box } from '@mui/material';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useProjectState } from '../../store/project-store.tsx';
import { useStates } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { useElements } from '../../store/use-elements.ts';
import type { PictureProps } from '../../ui/model-picture.tsx';
import { listBoxes } from './bound-rows.ts';
import { ModelView } from './model-view.tsx';

const NOTHING: ReadonlySet<number> = new Set();

/** The building in small: what is selected on the page is framed and marked in it, and what is clicked in it is selected there. */
export default function ModelPicture({ isByState = false }: PictureProps) {
  const { project } = useProjectState('project');
  const { data: states } = useStates(project.id, isByState);
  const { models, find } = useElements();
  const { keys, frame } = useSelection();
  const placed = useMemo(() => listBoxes([...keys].flatMap((key) => find(key) ?? [])).length, [keys, find]);
  const marked = placed === 0 ? 'Nothing of it has a shape' : placed === 1 ? 'One element' : `${placed} elements`;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
      <Box sx={{ flex: 1, position: 'relative', minHeight: 0 }}>
        <ModelView
          models={models}
          states={isByState ? states : undefined}
          isByState={isByState}
          hidden={NOTHING}
          fitRequest={0}
          planLevelM={null}
          cut={null}
          use="select"
          isSmall
        />
      </Box>
      <Box sx={{ px: 1.5, py: 0.75, fontSize: 13, borderTop: 1, borderColor: 'divider', display: 'flex', gap: 1 }}>
        <Box sx={{ flex: 1, color: 'text.secondary' }}>{keys.size === 0 ? 'The whole model' : marked}</Box>
        <Box component={Link} to={`/projects/${project.id}/model`} onClick={frame} sx={{ color: 'primary.main' }}>
          Open the model
        </Box>
      </Box>
    </Box>
  );
}
