import { Box, type SxProps, type Theme } from '@mui/material';
import { Children, type CSSProperties, type ReactNode, type Ref } from 'react';

/** A row of a table that is a form: each child is a cell of it. */
export function RowOfCells({
  ref,
  label,
  style,
  sx,
  children,
}: {
  readonly ref?: Ref<HTMLDivElement>;
  readonly label: string;
  readonly style?: CSSProperties;
  readonly sx: SxProps<Theme>;
  readonly children: ReactNode;
}) {
  return (
    <Box ref={ref} role="row" aria-label={label} style={style} sx={sx}>
      {Children.map(children, (child) => (
        <Box role="cell" sx={{ minWidth: 0 }}>
          {child}
        </Box>
      ))}
    </Box>
  );
}
