import { Box, MenuItem, Select } from '@mui/material';

const NONE = '';

/** One level that a table is grouped by, or nothing; its label stands before it. */
export function GroupSelect<F extends string>({
  label,
  fields,
  words,
  value,
  onChange,
}: {
  readonly label: string;
  readonly fields: readonly F[];
  readonly words: (field: F) => { readonly word: string; readonly hint?: string };
  readonly value: F | '';
  readonly onChange: (value: F | '') => void;
}) {
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', whiteSpace: 'nowrap' }}>
      {label}
      <Select
        value={value}
        displayEmpty
        onChange={(e) => onChange(e.target.value as F | '')}
        inputProps={{ 'aria-label': label }}
        sx={{ fontSize: 13, width: 142 }}
      >
        <MenuItem value={NONE}>nothing</MenuItem>
        {fields.map((field) => (
          <MenuItem key={field} value={field} title={words(field).hint}>
            {words(field).word}
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
}
