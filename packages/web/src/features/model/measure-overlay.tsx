import { Box } from '@mui/material';
import { useEffect, useReducer } from 'react';
import { useBasis } from '../../store/project-store.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showSiText } from '../../ui/format.ts';
import type { SceneViewer } from '../../viewer/index.ts';
import type { Place } from './use-view-pointer.ts';

/** The line between two marked places with its length, level and upward parts. */
export function MeasureOverlay({
  viewer,
  places,
}: {
  readonly viewer: SceneViewer;
  readonly places: readonly Place[];
}) {
  const basis = useBasis('settings');
  const [, redraw] = useReducer((n: number) => n + 1, 0);
  useEffect(() => viewer.onFrame(redraw), [viewer]);
  const seen = places.map((p) => viewer.seenAt(p));
  const [a, b] = places;
  const show = (metres: number) => showSiText(metres, 'm', basis.settings.units);
  const level = a && b ? Math.hypot(b[0] - a[0], b[1] - a[1]) : 0;
  return (
    <>
      <Box
        component="svg"
        sx={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }}
      >
        {seen[0] && seen[1] && (
          <Box
            component="line"
            x1={seen[0][0]}
            y1={seen[0][1]}
            x2={seen[1][0]}
            y2={seen[1][1]}
            sx={{ stroke: (t) => t.vars!.palette.text.primary, strokeWidth: 2, strokeDasharray: '6 3' }}
          />
        )}
        {seen.map((at, i) =>
          at ? (
            <Box
              component="circle"
              key={i}
              cx={at[0]}
              cy={at[1]}
              r={4}
              sx={{ fill: (t) => t.vars!.palette.text.primary }}
            />
          ) : null,
        )}
      </Box>
      <Box
        role="status"
        aria-label="Distance"
        sx={{
          position: 'absolute',
          left: 8,
          top: 8,
          px: 1,
          py: 0.5,
          fontSize: 13,
          bgcolor: 'background.paper',
          border: 1,
          borderColor: 'divider',
          borderRadius: 0.5,
        }}
      >
        {a && b ? (
          <Box component="span" sx={{ fontFamily: FIGURES }}>
            {show(Math.hypot(level, b[2] - a[2]))}, level {show(level)}, up {show(b[2] - a[2])}
          </Box>
        ) : (
          `Click the ${a ? 'second' : 'first'} place.`
        )}
      </Box>
    </>
  );
}
