import { MenuItem, type SxProps, TextField } from '@mui/material';
import type { DecimalSign } from '@tally/core';

const WORDS: Readonly<Record<DecimalSign, string>> = { point: 'Point, 1,234.50', comma: 'Comma, 1.234,50' };

/** The sign before the decimals of a sheet's figures: as they tell it, or as it is said here. */
export function DecimalSignField({
  value,
  found,
  disabled = false,
  sx,
  onChange,
}: {
  readonly value: DecimalSign | undefined;
  /** What holds while nothing is said, in words. */
  readonly found: string;
  readonly disabled?: boolean;
  readonly sx: SxProps;
  readonly onChange: (sign: DecimalSign | undefined) => void;
}) {
  return (
    <TextField
      select
      label="Sign before decimals"
      value={value ?? ''}
      disabled={disabled}
      onChange={(e) => onChange(e.target.value === '' ? undefined : (e.target.value as DecimalSign))}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      sx={sx}
    >
      <MenuItem value="">{found}</MenuItem>
      {(['point', 'comma'] as const).map((sign) => (
        <MenuItem key={sign} value={sign}>
          {WORDS[sign]}
        </MenuItem>
      ))}
    </TextField>
  );
}
