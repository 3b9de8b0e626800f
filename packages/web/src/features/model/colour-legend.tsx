import { Box } from '@mui/material';
import { useSelection } from '../../store/selection.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import type { ElementPattern } from '../../viewer/index.ts';
import type { ModelColours } from './model-colours.ts';

/** The patterns of the model, as they are in the legend, in a tone. */
const IMAGES: Readonly<Record<ElementPattern, ((tone: string) => string) | undefined>> = {
  plain: undefined,
  rising: (tone) => `repeating-linear-gradient(135deg, ${tone} 0 2px, transparent 2px 6px)`,
  falling: (tone) => `repeating-linear-gradient(45deg, ${tone} 0 2px, transparent 2px 6px)`,
  dots: (tone) => `radial-gradient(${tone} 1.5px, transparent 1.5px)`,
};

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
            gridTemplateColumns: '18px 1fr auto',
            gap: 0.75,
            alignItems: 'center',
            px: 1,
            py: '2px',
            cursor: 'pointer',
            '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
          }}
        >
          <Box
            sx={{
              width: 16,
              height: 14,
              bgcolor: entry.colour,
              backgroundImage: (t) => IMAGES[entry.pattern ?? 'plain']?.(t.vars!.palette.divider) ?? 'none',
              backgroundSize: entry.pattern === 'dots' ? '6px 6px' : undefined,
              border: 1,
              borderColor: 'divider',
            }}
          />
          <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{entry.label}</Box>
          <Box sx={{ fontFamily: FIGURES, color: 'text.secondary', whiteSpace: 'nowrap' }}>{entry.note}</Box>
        </Box>
      ))}
      {legend.length === 0 && <Box sx={{ px: 1, color: 'text.secondary' }}>Nothing to colour by it yet.</Box>}
    </Box>
  );
}
