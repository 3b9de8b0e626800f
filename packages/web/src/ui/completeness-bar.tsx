import { Box } from '@mui/material';
import { COMPLETENESS_STATES, type CompletenessState } from '@tally/core';
import { showFigure } from './format.ts';
import { STATE_WORDS, StateMark } from './state-mark.tsx';

/** How much of the project is priced: a bar and the counts, told apart by pattern as well as colour. */
export function CompletenessBar({
  counts,
  onChoose,
}: {
  readonly counts: Readonly<Record<CompletenessState, number>>;
  readonly onChoose?: (state: CompletenessState) => void;
}) {
  const all = COMPLETENESS_STATES.reduce((n, s) => n + counts[s], 0);
  if (all === 0) return null;
  const order: readonly CompletenessState[] = ['priced', 'leftOut', 'partly', 'unpriced'];
  return (
    <Box sx={{ display: 'grid', gap: 0.5, minWidth: 0 }}>
      <Box
        sx={{ display: 'flex', height: 6, borderRadius: 0.5, overflow: 'hidden', border: 1, borderColor: 'divider' }}
      >
        {order.map(
          (s) =>
            counts[s] > 0 && (
              <Box
                key={s}
                sx={{
                  flex: counts[s],
                  minWidth: 3,
                  bgcolor: s === 'unpriced' ? 'tally.unpriced' : s === 'priced' ? 'tally.priced' : 'transparent',
                  backgroundImage:
                    s === 'partly'
                      ? (t) =>
                          `repeating-linear-gradient(45deg, ${t.vars!.palette.tally.unpriced} 0 3px, transparent 3px 6px)`
                      : undefined,
                }}
              />
            ),
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 1.5, fontSize: 12, color: 'text.secondary', overflow: 'hidden' }}>
        {order.map(
          (s) =>
            counts[s] > 0 && (
              <Box
                key={s}
                component={onChoose ? 'button' : 'span'}
                {...(onChoose ? { type: 'button', onClick: () => onChoose(s) } : {})}
                sx={{
                  all: 'unset',
                  display: 'flex',
                  alignItems: 'center',
                  gap: 0.5,
                  whiteSpace: 'nowrap',
                  ...(onChoose
                    ? {
                        cursor: 'pointer',
                        textDecoration: 'underline',
                        textDecorationColor: 'transparent',
                        '&:hover': { textDecorationColor: 'inherit' },
                        '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
                      }
                    : {}),
                }}
              >
                <StateMark state={s} /> {STATE_WORDS[s]} {showFigure(counts[s], 0)}
              </Box>
            ),
        )}
      </Box>
    </Box>
  );
}
