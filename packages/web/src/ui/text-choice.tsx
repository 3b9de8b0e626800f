import { Autocomplete, TextField } from '@mui/material';
import { useRef, useState } from 'react';

/** What is being typed, and what stood there when it was begun. */
interface Typed {
  readonly text: string;
  readonly from: string;
  /** It was said: what comes next is what was made of it. */
  readonly isSaid: boolean;
}

/**
 * A text that is chosen among known ones or typed. It is said once, when one is chosen or the field is left: a field that is only emptied is
 * still being typed in, and choosing and then leaving it says nothing twice. What is typed stays when somebody else changes it meanwhile; the
 * field says so.
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
  /** Says why it was refused; nothing when it was kept. */
  readonly onSay: (text: string) => Promise<string | null>;
}) {
  const said = useRef<string | null>(null);
  const [typed, setTyped] = useState<Typed | null>(null);
  // What was typed and is there by now is typed no more.
  if (typed && typed.from !== shown && (typed.isSaid || typed.text.trim() === shown)) setTyped(null);
  const type = (text: string) => setTyped((now) => ({ text, from: now?.from ?? shown, isSaid: false }));
  const say = async (text: string) => {
    const trimmed = text.trim();
    if (trimmed === shown) return setTyped(null);
    if (trimmed === said.current) return;
    said.current = trimmed;
    const mark = (isSaid: boolean) => setTyped((now) => now && { ...now, from: isSaid ? shown : now.from, isSaid });
    mark(true);
    const refused = await onSay(trimmed);
    said.current = null;
    if (refused !== null) mark(false);
  };
  const isOthers = typed !== null && typed.from !== shown;
  return (
    <Autocomplete
      freeSolo
      options={options}
      value={shown}
      inputValue={typed?.text ?? shown}
      // The list's own setting back is passed over: it would put another's text in place of what is typed.
      onInputChange={(_, text, reason) => (reason === 'input' || reason === 'clear') && type(text)}
      onChange={(_, text, reason) => {
        if (reason === 'clear') return;
        type(text ?? '');
        void say(text ?? '');
      }}
      onBlur={(e) => void say((e.target as HTMLInputElement).value)}
      onKeyDown={(e) => e.key === 'Escape' && setTyped(null)}
      renderInput={(p) => (
        <TextField
          {...p}
          label={label}
          helperText={isOthers ? `Somebody else made it "${shown}" meanwhile; Escape takes that.` : note}
          placeholder={placeholder}
        />
      )}
    />
  );
}
