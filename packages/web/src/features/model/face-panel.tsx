import { Autocomplete, Box, Button, TextField } from '@mui/material';
import { isSameDimension, nameKey } from '@tally/core';
import { useState } from 'react';
import { keepChosenFaces } from '../../store/change-layer.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useQuantityNames } from '../../store/use-elements.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showSiText } from '../../ui/format.ts';
import type { PickedFace } from './use-face-picking.ts';

/** What the clicked faces come to, and the name under which they are kept as a quantity of their elements. */
export function FacePanel({ faces, onDone }: { readonly faces: readonly PickedFace[]; readonly onDone: () => void }) {
  const { project, layer } = useProjectState('project', 'layer');
  const basis = useBasis('settings');
  const quantities = useQuantityNames();
  const change = useCommit(project.id);
  const [name, setName] = useState('');
  const known = [...new Set(Object.values(layer.chosenFaces).flatMap(Object.keys))].sort();
  const taken = quantities.find((q) => nameKey(q.name) === nameKey(name.trim()));
  const isTaken = taken !== undefined && (!known.includes(name.trim()) || !isSameDimension(taken.dimension, { length: 2 })); // biome-ignore format: one rule
  const elements = new Set(faces.map((f) => f.elementKey)).size;
  const area = faces.reduce((sum, f) => sum + f.areaM2, 0);
  const keep = () =>
    change.mutate(keepChosenFaces(layer, faces, name.trim()), {
      onSuccess: () => {
        setName('');
        onDone();
      },
    });
  return (
    <Box
      component="form"
      aria-label="Chosen faces"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() !== '' && !isTaken && faces.length > 0 && !change.isPending) keep();
      }}
      sx={{
        position: 'absolute',
        left: 8,
        top: 8,
        width: 300,
        p: 1,
        display: 'grid',
        gap: 1,
        fontSize: 13,
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 0.5,
      }}
    >
      <Box role="status">
        {faces.length === 0 ? (
          'Click the faces to count; a second click takes one away.'
        ) : (
          <>
            {faces.length === 1 ? 'One face' : `${faces.length} faces`} of{' '}
            {elements === 1 ? 'one element' : `${elements} elements`},{' '}
            <Box component="span" sx={{ fontFamily: FIGURES }}>
              {showSiText(area, 'm2', basis.settings.units)}
            </Box>
          </>
        )}
      </Box>
      <Autocomplete
        freeSolo
        disableClearable
        options={known}
        inputValue={name}
        onInputChange={(_, text) => setName(text)}
        renderInput={(p) => (
          <TextField
            {...p}
            label="Kept as"
            placeholder="e.g. Render area"
            error={isTaken}
            helperText={isTaken ? `${taken.name} is a quantity already; take another name.` : undefined}
          />
        )}
      />
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end' }}>
        <Button color="inherit" disabled={faces.length === 0} onClick={onDone}>
          Clear
        </Button>
        <Button
          type="submit"
          variant="contained"
          disabled={faces.length === 0 || name.trim() === '' || isTaken || change.isPending}
        >
          Keep
        </Button>
      </Box>
    </Box>
  );
}
