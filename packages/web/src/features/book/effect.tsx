import { Box } from '@mui/material';
import { currencyToMinorDigits, type MoveDto } from '@tally/core';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showEffect } from '../../ui/format.ts';

/** What a change would do to the project's total, while it is not kept yet. */
export function Effect({ move }: { readonly move: MoveDto | undefined }) {
  const { summary } = useProjectState('summary');
  const basis = useBasis('settings');
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
