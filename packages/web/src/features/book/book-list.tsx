import AddIcon from '@mui/icons-material/Add';
import { Box, Button } from '@mui/material';
import { useEffect, useRef } from 'react';

export interface BookEntry {
  readonly id: string;
  readonly title: string;
  readonly note: string;
  /** It cannot be used as it is. */
  readonly isFaulty?: boolean;
  /** Of this project, beside or in place of the shared book's. */
  readonly isOwn?: boolean;
}

/** The list at the left of a part of the book, one of its entries chosen. */
export function BookList({
  label,
  entries,
  chosen,
  onChoose,
  addLabel,
  onAdd,
}: {
  readonly label: string;
  readonly entries: readonly BookEntry[];
  readonly chosen: string | null;
  readonly onChoose: (id: string) => void;
  readonly addLabel: string;
  readonly onAdd: () => void;
}) {
  const current = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (chosen !== null) current.current?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <Box
      sx={{
        minHeight: 0,
        display: 'flex',
        flexDirection: 'column',
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
      }}
    >
      <Box component="ul" aria-label={label} sx={{ listStyle: 'none', m: 0, p: 0, overflow: 'auto', flex: 1 }}>
        {entries.map((e) => (
          <Box component="li" key={e.id}>
            <Box
              component="button"
              ref={e.id === chosen ? current : undefined}
              type="button"
              aria-current={e.id === chosen}
              onClick={() => onChoose(e.id)}
              sx={{
                all: 'unset',
                boxSizing: 'border-box',
                display: 'block',
                width: '100%',
                px: 1.5,
                py: 0.75,
                cursor: 'pointer',
                borderBottom: 1,
                borderColor: 'divider',
                bgcolor: e.id === chosen ? 'tally.selectionSoft' : undefined,
                '&:hover': { bgcolor: 'tally.petrolSoft' },
                '&:focus-visible': { outline: 2, outlineColor: 'tally.selection', outlineOffset: -2 },
              }}
            >
              <Box
                title={e.isOwn ? 'Of this project, beside or in place of the shared book' : undefined}
                sx={{ fontSize: 13, fontWeight: 600 }}
              >
                {e.isOwn ? `${e.title} •` : e.title}
              </Box>
              <Box sx={{ fontSize: 12, color: e.isFaulty ? 'error.main' : 'text.secondary' }}>{e.note}</Box>
            </Box>
          </Box>
        ))}
      </Box>
      <Box sx={{ borderTop: 1, borderColor: 'divider', p: 0.5 }}>
        <Button startIcon={<AddIcon />} onClick={onAdd} fullWidth>
          {addLabel}
        </Button>
      </Box>
    </Box>
  );
}

/** A part of the book: its list at the left, the chosen entry beside it. */
export const PANE_SX = {
  flex: 1,
  minHeight: 0,
  display: 'grid',
  gridTemplateColumns: '230px minmax(0, 1fr)',
  gap: 1.5,
} as const;

export const SHEET_SX = {
  overflow: 'auto',
  bgcolor: 'background.paper',
  border: 1,
  borderColor: 'divider',
  borderRadius: 1,
  p: 2,
  pt: 1,
  display: 'grid',
  gap: 1.5,
  alignContent: 'start',
} as const;
