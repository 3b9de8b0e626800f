import { IconButton, Tooltip } from '@mui/material';
import type { ReactNode } from 'react';

/** A small button that is an icon: its word is its name and its hint. */
export function IconAct({
  word,
  hint = word,
  isOff = false,
  isOn,
  padding = 0.5,
  onClick,
  children,
}: {
  readonly word: string;
  /** What is shown when one points at it; the word if not given. */
  readonly hint?: string;
  readonly isOff?: boolean;
  /** Of one that is switched: whether it is on. */
  readonly isOn?: boolean;
  readonly padding?: number;
  readonly onClick: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Tooltip title={hint}>
      <span>
        <IconButton
          aria-label={word}
          aria-pressed={isOn}
          disabled={isOff}
          onClick={onClick}
          sx={{ p: padding, bgcolor: isOn ? 'tally.selectionSoft' : undefined }}
        >
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
