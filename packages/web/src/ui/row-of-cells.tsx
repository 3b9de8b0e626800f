import { Box, type SxProps, type Theme } from '@mui/material';
import { Children, type ReactNode } from 'react';

/** A row of a table that is a form: each child is a cell of it. */
export function RowOfCells({
  label,
  sx,
  children,
}: {
  readonly label: string;
  readonly sx: SxProps<Theme>;
  readonly children: ReactNode;
}) {
  return (
    <Box role="row" aria-label={label} sx={sx}>
      {Children.map(children, (child) => (
        <Box role="cell" sx={{ minWidth: 0 }}>
          {child}
        </Box>
      ))}
    </Box>
  );
}
