import { ListSubheader, MenuItem, Select } from '@mui/material';
import type { StateChoice } from './name-states.ts';

/** Chooses a state of the project. */
export function StatePicker({
  label,
  states,
  value,
  onChange,
}: {
  readonly label: string;
  readonly states: readonly StateChoice[];
  readonly value: string | null;
  readonly onChange: (ref: string) => void;
}) {
  const groups = [...new Set(states.map((s) => s.group))];
  const isKnown = states.some((s) => s.ref === value);
  return (
    <Select
      size="small"
      value={isKnown ? value : ''}
      displayEmpty
      onChange={(e) => onChange(e.target.value as string)}
      inputProps={{ 'aria-label': label }}
      renderValue={(ref) => states.find((s) => s.ref === ref)?.word ?? nameOther(value)}
      MenuProps={{ slotProps: { paper: { sx: { maxHeight: 420, maxWidth: 480 } } } }}
      sx={{ fontSize: 13, width: 220 }}
    >
      {groups.flatMap((group) => [
        <ListSubheader key={group} sx={{ lineHeight: '28px', fontSize: 11.5 }}>
          {group}
        </ListSubheader>,
        ...states
          .filter((s) => s.group === group)
          .map((s) => (
            <MenuItem key={s.ref} value={s.ref} sx={{ fontSize: 13 }}>
              <span style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>{s.word}</span>
            </MenuItem>
          )),
      ])}
    </Select>
  );
}

/** What stands for a state that is not in the list. @example 'seq:0' before the first change */
function nameOther(ref: string | null): string {
  if (ref === null) return 'Choose';
  const seq = /^seq:(\d+)$/.exec(ref)?.[1];
  return seq === '0' ? 'Nothing yet' : seq === undefined ? 'A state that is gone' : `After change ${seq}`;
}
