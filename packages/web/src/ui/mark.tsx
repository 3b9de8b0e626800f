import { Box } from '@mui/material';

/** The mark: four strokes and the fifth across. */
export function Mark({ size = 22 }: { readonly size?: number }) {
  return (
    <Box
      component="svg"
      viewBox="0 0 24 24"
      aria-hidden
      sx={{
        width: size,
        height: size,
        fill: 'none',
        strokeWidth: 2.2,
        strokeLinecap: 'round',
        color: 'primary.main',
        flexShrink: 0,
      }}
    >
      <path d="M5 4v16M9.7 4v16M14.3 4v16M19 4v16" stroke="currentColor" />
      <Box component="path" d="M2 17 22 7" sx={{ stroke: (t) => t.vars!.palette.tally.unpriced }} />
    </Box>
  );
}
