import { Box, Button } from '@mui/material';
import type { ModelElement } from '@tally/core';
import { dropChosenFaces } from '../../store/change-layer.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { showFigure } from '../../ui/format.ts';
import { figure, Section } from './sheet-section.tsx';

/** Faces by surface style and the way they look, and those chosen by hand. */
export function FaceSection({ element, elementKey }: { readonly element: ModelElement; readonly elementKey: number }) {
  const { layer } = useProjectState('layer');
  if (element.faces.length === 0 && !layer.chosenFaces[String(elementKey)]) return null;
  return (
    <Section title="Faces">
      {element.faces.map((f) => (
        <Box
          key={f.style + f.look}
          sx={{ display: 'grid', gridTemplateColumns: '1fr 52px 74px', gap: 1, fontSize: 13, py: 0.25 }}
        >
          <Box sx={{ overflowWrap: 'anywhere' }}>{f.style}</Box>
          <Box sx={{ color: 'text.secondary' }}>{f.look}</Box>
          <Box sx={figure}>{showFigure(f.area)} m²</Box>
        </Box>
      ))}
      <ChosenFaceList elementKey={elementKey} />
    </Section>
  );
}

/** Faces of an element that were chosen here, by name; each can be given up. */
function ChosenFaceList({ elementKey }: { readonly elementKey: number }) {
  const { project, layer } = useProjectState('project', 'layer');
  const change = useCommit(project.id);
  return (
    <>
      {Object.entries(layer.chosenFaces[String(elementKey)] ?? {}).map(([name, faces]) => (
        <Box key={name} sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 13 }}>
          <Box sx={{ flex: 1 }}>{name}</Box>
          <Box sx={{ color: 'text.secondary' }}>
            {faces.length === 1 ? 'one face' : `${faces.length} faces`} chosen here
          </Box>
          <Button color="inherit" onClick={() => change.mutate(dropChosenFaces(layer, elementKey, name))}>
            Give up
          </Button>
        </Box>
      ))}
    </>
  );
}
