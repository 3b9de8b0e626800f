import { Box, Button, Menu, MenuItem, TextField } from '@mui/material';
import { useColorScheme } from '@mui/material/styles';
import { useState } from 'react';
import { readAuthorName, saveAuthorName } from '../api/client.ts';

/** Whose changes these are, and how the application looks. */
export function PersonMenu({ onKeys }: { readonly onKeys: () => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [name, setName] = useState(readAuthorName());
  const { mode, setMode } = useColorScheme();
  return (
    <>
      <Button
        color="inherit"
        aria-haspopup="menu"
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ color: 'text.secondary', fontWeight: 400 }}
      >
        {name || 'Your name'}
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
