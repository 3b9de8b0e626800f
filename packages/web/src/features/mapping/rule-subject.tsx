import { Box, Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import { ALSO_FOR, type AlsoFor } from '@tally/core';
import { ABOUT_WORDS, ALSO_WORDS } from './part-words.ts';
import type { RuleForm } from './rule-form.ts';

/** What a rule decides about: elements or parts of them, and whom it speaks for beside those it catches. */
export function RuleSubject({
  about,
  also,
  onAbout,
  onAlso,
}: {
  readonly about: RuleForm['about'];
  readonly also: readonly AlsoFor[];
  readonly onAbout: (about: RuleForm['about']) => void;
  readonly onAlso: (also: AlsoFor[]) => void;
}) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center', fontSize: 13 }}>
      <TextField
        select
        label="It decides about"
        value={about}
        onChange={(e) => onAbout(e.target.value as RuleForm['about'])}
        // Nothing chosen is a choice here: the elements themselves.
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        sx={{ width: 260 }}
      >
        {(Object.keys(ABOUT_WORDS) as RuleForm['about'][]).map((one) => (
          <MenuItem key={one} value={one}>
            {ABOUT_WORDS[one]}
          </MenuItem>
        ))}
      </TextField>
      {about === '' && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 0.5 }}>
          Also
          {ALSO_FOR.map((one) => (
            <FormControlLabel
              key={one}
              label={ALSO_WORDS[one]}
              disableTypography
              sx={{ mx: 0 }}
              control={
                <Checkbox
                  size="small"
                  checked={also.includes(one)}
                  onChange={(_, isOn) => onAlso(isOn ? [...also, one] : also.filter((a) => a !== one))}
                />
              }
            />
          ))}
        </Box>
      )}
    </Box>
  );
}
