import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';

/** A part of the sheet about an element, under its heading. */
export function Section({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <Box component="section" sx={{ borderTop: 1, borderColor: 'divider', px: 1.5, py: 1 }}>
      <Typography variant="h3" sx={{ mb: 0.5, color: 'text.secondary', fontWeight: 600 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}
