import { Box } from '@mui/material';
import type { CompletenessState } from '@tally/core';

export const STATE_WORDS: Record<CompletenessState, string> = {
  unpriced: 'Unpriced',
  partly: 'Partly priced',
  priced: 'Priced',
  leftOut: 'Left out',
};

/** State of an element as a small sign that differs by shape as well as by colour. */
export function StateMark({ state }: { readonly state: CompletenessState }) {
  return (
    <Box
      component="svg"
      viewBox="0 0 10 10"
      role="img"
      aria-label={STATE_WORDS[state]}
      sx={{
        width: 10,
        height: 10,
        flexShrink: 0,
        color: state === 'unpriced' || state === 'partly' ? 'tally.unpriced' : 'tally.priced',
      }}
    >
      {state === 'unpriced' && <rect x="1" y="1" width="8" height="8" fill="currentColor" />}
      {state === 'partly' && <path d="M1 9 9 1v8z" fill="currentColor" />}
      {state === 'priced' && <circle cx="5" cy="5" r="2" fill="currentColor" />}
      {state === 'leftOut' && (
        <rect x="1.5" y="1.5" width="7" height="7" fill="none" stroke="currentColor" strokeDasharray="2 1.5" />
      )}
    </Box>
  );
}
