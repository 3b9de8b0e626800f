import { Box, Typography } from '@mui/material';
import type { QuantityMethod } from '@tally/core';
import type { ReactNode } from 'react';
import { FIGURES } from '../../ui/fonts.ts';

/** How a figure was found, in words. */
export const METHOD_WORDS: Record<QuantityMethod, string> = {
  swept: 'from profile and length',
  'swept-openings': 'from profile and length, openings deducted',
  formed: 'by the formula of its shape',
  'swept-clipped': 'of the whole body, cut as in the mesh',
  mesh: 'from the mesh',
  attribute: 'as the element says',
  parts: 'sum of its parts',
  plan: 'from its place on plan',
  count: 'one per element',
  density: 'volume × density',
  file: 'stated in the file',
  hand: 'given here',
  list: 'as the list says',
};

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
