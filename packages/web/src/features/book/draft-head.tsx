import { Box, Button } from '@mui/material';
import type { Use } from '@tally/core';
import { BackToBook } from './back-to-book.tsx';
import { Effect } from './effect.tsx';
import type { DraftActions } from './use-draft.ts';

/** Head of a named value or a scale: what it would do to the total or where it is used, and the ways to keep or drop the draft. */
export function DraftHead({
  label,
  draft,
  problem,
  uses,
  entry,
  onDiscard,
}: {
  readonly label: string;
  readonly draft: DraftActions;
  /** Why it cannot be kept; null if it can. */
  readonly problem: string | null;
  readonly uses: readonly Use[];
  /** As it is kept; null for a new one. */
  readonly entry: { readonly kind: string; readonly id: string; readonly body: unknown } | null;
  readonly onDiscard: () => void;
}) {
  const isAsked = draft.other.conflicts.length > 0;
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
      <Box
        role="status"
        aria-label={`State of the ${label}`}
        sx={{ flex: 1, fontSize: 13, color: problem ? 'error.main' : 'text.secondary' }}
      >
        {problem ??
          (isAsked ? (
            'Choose one of both first.'
          ) : draft.isChanged ? (
            <Effect move={draft.move} />
          ) : uses.length === 0 ? (
            'Not used yet.'
          ) : (
            `Used in: ${uses.map((u) => u.label).join(', ')}`
          ))}
      </Box>
      {entry && <BackToBook {...entry} />}
      {entry && (
        <Button color="inherit" disabled={uses.length > 0 || draft.isPending} onClick={draft.remove}>
          Remove
        </Button>
      )}
      <Button color="inherit" disabled={!draft.isChanged} onClick={onDiscard}>
        Discard
      </Button>
      <Button
        variant="contained"
        disabled={!draft.isChanged || problem !== null || isAsked || draft.isPending}
        onClick={draft.keep}
      >
        Keep the {label}
      </Button>
    </Box>
  );
}
