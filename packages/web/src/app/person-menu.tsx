import { Box, Button, Divider, ListSubheader, Menu, MenuItem, TextField } from '@mui/material';
import { useColorScheme } from '@mui/material/styles';
import { NUMBER_STYLES } from '@tally/core';
import { useState } from 'react';
import { readAuthorName, saveAuthorName } from '../store/client.ts';
import { FIGURES } from '../ui/fonts.ts';
import { chooseNumberStyle, useNumberStyle } from '../ui/number-style.ts';

/** Whose changes these are, how figures are written, and how the application looks. */
export function PersonMenu({ onKeys }: { readonly onKeys: () => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [name, setName] = useState(readAuthorName());
  const { mode, setMode } = useColorScheme();
  const style = useNumberStyle();
  return (
    <>
      <Button
        color="inherit"
        aria-haspopup="menu"
        aria-label={`Person: ${name}`}
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ color: 'text.secondary', fontWeight: 400 }}
      >
        {name}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <Box sx={{ px: 2, py: 1 }}>
          <TextField
            label="Your name on changes"
            value={name}
            onChange={(e) => {
              setName(e.target.value);
              saveAuthorName(e.target.value);
            }}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') setAnchor(null);
            }}
          />
        </Box>
        <ListSubheader sx={{ lineHeight: '28px', bgcolor: 'transparent' }}>Figures are written</ListSubheader>
        {[null, ...NUMBER_STYLES].map((s) => (
          <MenuItem
            key={s ?? ''}
            role="menuitemradio"
            aria-checked={s === style}
            selected={s === style}
            onClick={() => chooseNumberStyle(s)}
            sx={{ fontFamily: s ? FIGURES : undefined, minHeight: 28 }}
          >
            {s ?? 'As this computer shows them; what is unclear is asked'}
          </MenuItem>
        ))}
        <Divider />
        <MenuItem onClick={() => setMode(mode === 'dark' ? 'light' : 'dark')}>
          {mode === 'dark' ? 'Light scheme' : 'Dark scheme'}
        </MenuItem>
        <MenuItem
          onClick={() => {
            setAnchor(null);
            onKeys();
          }}
        >
          Keys
        </MenuItem>
      </Menu>
    </>
  );
}
