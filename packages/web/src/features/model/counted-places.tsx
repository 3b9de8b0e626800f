import { Box } from '@mui/material';
import { useEffect, useReducer } from 'react';
import type { SceneViewer } from '../../viewer/index.ts';
import type { Place } from './use-view-pointer.ts';

/** Places of counted pieces, numbered over the building. */
export function CountedPlaces({ viewer, places }: { readonly viewer: SceneViewer; readonly places: readonly Place[] }) {
  const [, redraw] = useReducer((n: number) => n + 1, 0);
  useEffect(() => viewer.onFrame(redraw), [viewer]);
  return (
    <Box
      role="img"
      aria-label={`${places.length} places`}
      sx={{ position: 'absolute', inset: 0, pointerEvents: 'none', overflow: 'hidden' }}
    >
      {places.map((place, i) => {
        const seen = viewer.seenAt(place);
        return seen ? (
          <Box
            key={i}
            sx={{
              position: 'absolute',
              width: 18,
              height: 18,
              borderRadius: '50%',
              bgcolor: 'tally.unpriced',
              color: 'background.paper',
              border: 1,
              borderColor: 'background.paper',
              fontSize: 11,
              lineHeight: '16px',
              textAlign: 'center',
              fontWeight: 650,
            }}
            style={{ left: seen[0], top: seen[1], transform: 'translate(-50%, -50%)' }}
          >
            {i + 1}
          </Box>
        ) : null;
      })}
    </Box>
  );
}
