import { Autocomplete, TextField } from '@mui/material';
import { useRef } from 'react';

/**
 * A text that is chosen among known ones or typed. It is said once, when one is chosen or the field is left: a field that is only emptied is
 * still being typed in, and choosing and then leaving it says nothing twice. It is drawn anew where `shown` is another.
 */
export function TextChoice({
  label,
  note,
  placeholder,
  shown,
  options,
  onSay,
}: {
  readonly label: string;
  readonly note?: string | undefined;
  readonly placeholder: string;
  readonly shown: string;
  readonly options: readonly string[];
  /** Settles when it is known whether it was kept. */
  readonly onSay: (text: string) => Promise<unknown>;
}) {
  const said = useRef<string | null>(null);
  const say = async (typed: string | null) => {
    const text = typed?.trim() ?? '';
    if (text === shown || text === said.current) return;
    said.current = text;
    await onSay(text);
    said.current = null;
  };
  return (
    <Autocomplete
      key={shown}
      freeSolo
      options={options}
      defaultValue={shown}
      onChange={(_, text, reason) => reason !== 'clear' && void say(text)}
      onBlur={(e) => void say((e.target as HTMLInputElement).value)}
      renderInput={(p) => <TextField {...p} label={label} helperText={note} placeholder={placeholder} />}
    />
  );
}
