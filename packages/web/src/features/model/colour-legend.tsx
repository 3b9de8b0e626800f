import { Box } from '@mui/material';
import { useSelection } from '../../store/selection.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import type { ModelColours } from './model-colours.ts';

/** What the colours of the model stand for, with their figures; a click selects what has the colour. What has none is drawn by its edges. */
export function ColourLegend({ colours: { legend, title } }: { readonly colours: ModelColours }) {
  const { select } = useSelection();
  if (title === '') return null;
  return (
    <Box
      role="region"
      aria-label="Legend"
      sx={{
        position: 'absolute',
        left: 8,
        top: 8,
        maxHeight: 'calc(100% - 16px)',
        maxWidth: 260,
        overflow: 'auto',
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        py: 0.5,
        fontSize: 12.5,
      }}
    >
      <Box
        title="What is in several groups has the colour of the one with the most money"
        sx={{ px: 1, fontWeight: 650 }}
      >
        {title}
      </Box>
      {legend.map((entry) => (
        <Box
          key={entry.label}
          component="button"
          type="button"
          title={`Select ${entry.label}`}
          onClick={() => select(entry.keys)}
          sx={{
            all: 'unset',
            boxSizing: 'border-box',
            width: '100%',
            display: 'grid',
            gridTemplateColumns: '14px 1fr auto',
            gap: 0.75,
            alignItems: 'center',
            px: 1,
            py: '2px',
            cursor: 'pointer',
            '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
          }}
        >
          <Box sx={{ width: 12, height: 12, bgcolor: entry.colour, border: 1, borderColor: 'divider' }} />
          <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{entry.label}</Box>
          <Box sx={{ fontFamily: FIGURES, color: 'text.secondary', whiteSpace: 'nowrap' }}>{entry.note}</Box>
        </Box>
      ))}
      {legend.length === 0 && <Box sx={{ px: 1, color: 'text.secondary' }}>Nothing to colour by it yet.</Box>}
    </Box>
  );
}
