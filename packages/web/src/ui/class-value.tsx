import { Autocomplete, TextField } from '@mui/material';
import { classWord, findClassByWord } from '@tally/core';
import { useState } from 'react';

/** A class that is picked or typed by its word; its name in IFC may be typed too. Wildcards stay as they are typed. */
export function ClassValue({
  value,
  options,
  onChange,
}: {
  readonly value: string;
  /** Classes that may be meant, as IFC names them. */
  readonly options: readonly string[];
  readonly onChange: (ifcClass: string) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Autocomplete
      freeSolo
      disableClearable
      options={[...new Set(options.map(classWord))].sort()}
      inputValue={typed ?? classWord(value)}
      onInputChange={(_, text, reason) => {
        if (reason === 'reset' && text === '') return;
        setTyped(text);
        onChange(findClassByWord(text) ?? text);
      }}
      onBlur={() => setTyped(null)}
      renderInput={(p) => <TextField {...p} placeholder="Value, * for any text" />}
      sx={{ flex: 1, minWidth: 160 }}
    />
  );
}
