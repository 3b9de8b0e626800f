import { Box, Button } from '@mui/material';
import { type Condition, describeCondition, sayInWords } from '@tally/core';
import { FIGURES } from '../../ui/fonts.ts';

/** A line of the settings about what has a name and a scope: what it says, how many it catches, and what can be done with it. */
export function ScopeRow({
  name,
  scope,
  note = '',
  count,
  keepsWhy,
  onChange,
  onRemove,
}: {
  readonly name: string;
  readonly scope: Condition;
  /** Said after the scope. */
  readonly note?: string;
  readonly count: number;
  /** Why it cannot be removed; undefined where it can. */
  readonly keepsWhy?: string | undefined;
  readonly onChange: () => void;
  readonly onRemove: () => void;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, fontSize: 13 }}>
      <Box sx={{ fontWeight: 600, minWidth: 120 }}>{name}</Box>
      <Box sx={{ flex: 1, color: 'text.secondary' }}>
        {sayInWords(describeCondition(scope))}
        {note}
      </Box>
      <Box sx={{ fontFamily: FIGURES }}>{count}</Box>
      <Button onClick={onChange}>Change</Button>
      <Button color="inherit" disabled={keepsWhy !== undefined} title={keepsWhy} onClick={onRemove}>
        Remove
      </Button>
    </Box>
  );
}
