import ArrowBackIcon from '@mui/icons-material/ArrowBack';
import ArrowForwardIcon from '@mui/icons-material/ArrowForward';
import ViewColumnIcon from '@mui/icons-material/ViewColumnOutlined';
import { Box, Button, Checkbox, IconButton, InputBase, NativeSelect, Popover } from '@mui/material';
import { useState } from 'react';
import { IconAct } from './icon-act.tsx';
import type { ColumnChoice } from './use-column-layout.ts';

/** Chooses which columns of a table are seen, in which order, what they are called, and with how many decimals. */
export function ColumnButton({
  label,
  choices,
  isAsMade,
  onShow,
  onMove,
  onRename,
  onRound,
  onReset,
}: {
  /** Name of the table. */
  readonly label: string;
  readonly choices: readonly ColumnChoice[];
  readonly isAsMade: boolean;
  readonly onShow: (key: string, isShown: boolean) => void;
  readonly onMove: (key: string, by: -1 | 1) => void;
  readonly onRename: (key: string, name: string) => void;
  readonly onRound: (key: string, digits: number | null) => void;
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
        slotProps={{ paper: { 'aria-label': `Columns of ${label}`, sx: { border: 1, borderColor: 'divider', p: 1.5, width: 320 } } }} // biome-ignore format: one sheet
      >
        {choices.map(({ key, heading, name, digits, isShown }, i) => (
          <Box key={key} sx={{ display: 'flex', alignItems: 'center' }}>
            <Checkbox
              size="small"
              checked={isShown}
              disabled={isShown && shown === 1}
              onChange={(e) => onShow(key, e.target.checked)}
              slotProps={{ input: { 'aria-label': heading || key } }}
            />
            <InputBase
              key={name ?? heading}
              defaultValue={name ?? (heading || key)}
              onBlur={(e) => onRename(key, e.target.value === heading ? '' : e.target.value)}
              onKeyDown={(e) => e.key === 'Enter' && (e.target as HTMLInputElement).blur()}
              inputProps={{ 'aria-label': `Heading of ${heading || key}`, maxLength: 60 }}
              sx={{ flex: 1, minWidth: 0, fontSize: 13 }}
            />
            {digits !== undefined && (
              <NativeSelect
                value={digits ?? ''}
                onChange={(e) => onRound(key, e.target.value === '' ? null : Number(e.target.value))}
                inputProps={{ 'aria-label': `Decimals of ${heading || key}` }}
                disableUnderline
                sx={{ fontSize: 12, color: 'text.secondary', width: 62 }}
              >
                <option value="">as is</option>
                {[0, 1, 2, 3, 4].map((n) => (
                  <option key={n} value={n}>
                    {n === 0 ? '0' : `0.${'0'.repeat(n)}`}
                  </option>
                ))}
              </NativeSelect>
            )}
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
