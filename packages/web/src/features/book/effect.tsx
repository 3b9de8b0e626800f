import { Box } from '@mui/material';
import { currencyToMinorDigits, type MoveDto } from '@tally/core';
import { useProjectState } from '../../api/project-context.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showEffect } from '../../ui/format.ts';

/** What a change would do to the project's total, while it is not kept yet. */
export function Effect({ move }: { readonly move: MoveDto | undefined }) {
  const { summary, basis } = useProjectState();
  const digits = currencyToMinorDigits(basis.settings.currency);
  if (!move) return <>Calculating the effect</>;
  return (
    <>
      Total{' '}
      <Box component="span" sx={{ fontFamily: FIGURES }}>
        {showEffect(summary.total, move, digits)}
      </Box>
    </>
  );
}
