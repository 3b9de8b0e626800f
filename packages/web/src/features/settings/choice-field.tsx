import { MenuItem, TextField } from '@mui/material';
import type { QuantityChoice } from '@tally/core';
import { CHOICE_WORDS } from './choice-words.ts';

/** Picks which figure of a quantity is used. */
export function ChoiceField({
  label,
  value,
  onChoose,
}: {
  readonly label: string;
  readonly value: QuantityChoice;
  readonly onChoose: (choice: QuantityChoice) => void;
}) {
  return (
    <TextField select label={label} value={value} onChange={(e) => onChoose(e.target.value as QuantityChoice)}>
      {Object.entries(CHOICE_WORDS).map(([choice, words]) => (
        <MenuItem key={choice} value={choice}>
          {words}
        </MenuItem>
      ))}
    </TextField>
  );
}
