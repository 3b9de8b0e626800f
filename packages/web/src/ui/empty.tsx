import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';

/** A place with nothing in it yet: says so and offers the next step. */
export function Empty({ title, children }: { readonly title: string; readonly children?: ReactNode }) {
  return (
    <Box
      sx={{ m: 'auto', p: 4, maxWidth: 460, textAlign: 'center', display: 'grid', gap: 1.5, justifyItems: 'center' }}
    >
      <Typography variant="h2">{title}</Typography>
      <Box sx={{ color: 'text.secondary', display: 'grid', gap: 1.5, justifyItems: 'center' }}>{children}</Box>
    </Box>
  );
}
