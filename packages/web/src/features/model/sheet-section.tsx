import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { FIGURES } from '../../ui/fonts.ts';

/** Look of a figure on the sheet. */
export const figure = { fontFamily: FIGURES, textAlign: 'right', fontSize: 12.5, whiteSpace: 'nowrap' } as const;

/** A part of the sheet about an element, under its heading. */
export function Section({
  title,
  hint,
  children,
}: {
  readonly title: string;
  readonly hint?: string;
  readonly children: ReactNode;
}) {
  return (
    <Box component="section" sx={{ borderTop: 1, borderColor: 'divider', px: 1.5, py: 1 }}>
      <Typography variant="h3" title={hint} sx={{ mb: 0.5, color: 'text.secondary', fontWeight: 600 }}>
        {title}
      </Typography>
      {children}
    </Box>
  );
}

/** A fact and what it is. */
export function Pair({
  name,
  hint,
  children,
}: {
  readonly name: string;
  readonly hint?: string;
  readonly children: ReactNode;
}) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '96px 1fr', gap: 1, fontSize: 13, py: 0.25 }}>
      <Box sx={{ color: 'text.secondary' }} title={hint}>
        {name}
      </Box>
      <Box sx={{ overflowWrap: 'anywhere' }}>{children}</Box>
    </Box>
  );
}
