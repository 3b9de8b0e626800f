import ArrowBackIcon from '@mui/icons-material/ArrowBack';
import ArrowForwardIcon from '@mui/icons-material/ArrowForward';
import ViewColumnIcon from '@mui/icons-material/ViewColumnOutlined';
import { Box, Button, Checkbox, FormControlLabel, IconButton, Popover } from '@mui/material';
import { useState } from 'react';
import { IconAct } from './icon-act.tsx';
import type { ColumnChoice } from './use-column-layout.ts';

/** Chooses which columns of a table are seen, and in which order. */
export function ColumnButton({
  label,
  choices,
  isAsMade,
  onShow,
  onMove,
  onReset,
}: {
  /** Name of the table. */
  readonly label: string;
  readonly choices: readonly ColumnChoice[];
  readonly isAsMade: boolean;
  readonly onShow: (key: string, isShown: boolean) => void;
  readonly onMove: (key: string, by: -1 | 1) => void;
  readonly onReset: () => void;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const shown = choices.filter((c) => c.isShown).length;
  return (
    <>
      <IconButton
        aria-label={`Columns of ${label}`}
        aria-haspopup="dialog"
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ p: 0.25, borderRadius: 0.5, bgcolor: isAsMade ? 'background.default' : 'tally.selectionSoft' }}
      >
        <ViewColumnIcon sx={{ fontSize: 16 }} />
      </IconButton>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { 'aria-label': `Columns of ${label}`, sx: { border: 1, borderColor: 'divider', p: 1.5, width: 280 } } }} // biome-ignore format: one sheet
      >
        {choices.map(({ key, heading, isShown }, i) => (
          <Box key={key} sx={{ display: 'flex', alignItems: 'center' }}>
            <FormControlLabel
              label={heading || key}
              slotProps={{ typography: { sx: { fontSize: 13 } } }}
              control={
                <Checkbox
                  size="small"
                  checked={isShown}
                  disabled={isShown && shown === 1}
                  onChange={(e) => onShow(key, e.target.checked)}
                />
              }
              sx={{ flex: 1, minWidth: 0 }}
            />
            <IconAct word={`${heading || key} to the left`} isOff={i === 0} onClick={() => onMove(key, -1)}>
              <ArrowBackIcon sx={{ fontSize: 16 }} />
            </IconAct>
            <IconAct
              word={`${heading || key} to the right`}
              isOff={i === choices.length - 1}
              onClick={() => onMove(key, 1)}
            >
              <ArrowForwardIcon sx={{ fontSize: 16 }} />
            </IconAct>
          </Box>
        ))}
        <Button color="inherit" disabled={isAsMade} onClick={onReset} sx={{ mt: 1 }}>
          As they were made
        </Button>
      </Popover>
    </>
  );
}
