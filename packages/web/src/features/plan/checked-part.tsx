import { Box, Button } from '@mui/material';
import { OWN_SECTIONS } from '@tally/core';

import { useNavigate } from 'react-router';
import { listFallen, unmark } from '../../store/change-plan.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useChecked } from '../../store/queries.ts';
import { useCommit } from '../../store/use-commit.ts';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure, showMinor } from '../../ui/format.ts';

const right = { fontFamily: FIGURES, textAlign: 'right', whiteSpace: 'nowrap' } as const;

/** Lines that nobody has checked yet that are told. */
const MOST_TOLD = 40;

/** How much of the money was looked at: what fell away since, and what nobody looked at, the most money first. */
export function CheckedPart() {
  const { project, money } = useProjectState('project', 'money');
  const basis = useBasis('checked', 'sections');
  const { data, error } = useChecked(project.id);
  const change = useCommit(project.id);
  const navigate = useNavigate();
  if (error && !data) return <Empty title="What was checked cannot be shown">{error.message}</Empty>;
  if (!data) return null;
  const fallen = listFallen(data.marks);
  const open = data.unchecked.reduce((sum, l) => sum + l.amount, 0);
  const share = data.total > 0 ? Math.max(0, 1 - open / data.total) : 0;
  const sectionOf = (id: string | null) =>
    [...basis.sections, ...OWN_SECTIONS].find((s) => s.id === id)?.name ?? id ?? '';
  const show = (amount: number) => showMinor(Math.round(amount / 10_000), money.minorDigits);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '1fr 1fr',
        alignItems: 'start',
        gap: 1.5,
        minWidth: 860,
        fontSize: 13,
      }}
    >
      <Box
        role="region"
        aria-label="Fell away"
        sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
      >
        <Head
          text={`Checked ${showFigure(share * 100, 1)} % of the money`}
          note={
            fallen.length > 0
              ? `${fallen.length} fell away: what was checked has moved`
              : 'nothing that was checked has moved'
          }
        />
        {fallen.map((h) => (
          <Box
            key={h.id}
            sx={{
              display: 'grid',
              gridTemplateColumns: '1fr auto auto auto',
              gap: 1,
              px: 1,
              py: 0.5,
              borderTop: 1,
              borderColor: 'divider',
              bgcolor: 'tally.unpricedSoft',
            }}
          >
            <Box>
              {'element' in h.mark.on
                ? 'An element'
                : [...h.mark.on.path.map((p) => p.is), h.mark.on.item].filter(Boolean).join(' › ')}
              <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
                {h.mark.by} {h.mark.at}
              </Box>
            </Box>
            <Box sx={right} title="As it was checked">
              {showMinor(h.mark.amount, money.minorDigits)}
            </Box>
            <Box sx={right} title="By now">
              {h.signature === '' ? 'gone' : show(h.amount)}
            </Box>
            <Button size="small" color="inherit" onClick={() => change.mutate(unmark(basis.checked, [h.mark.on]))}>
              Take off
            </Button>
          </Box>
        ))}
      </Box>
      <Box
        role="region"
        aria-label="Not checked"
        sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
      >
        <Head text="Not checked, the most money first" note={show(open)} />
        {data.unchecked.slice(0, MOST_TOLD).map((l) => (
          <Box
            key={`${l.section}|${l.item}`}
            component="button"
            type="button"
            onClick={() => navigate(`/projects/${project.id}/plan?view=lines&by=section`)}
            sx={{
              all: 'unset',
              boxSizing: 'border-box',
              width: '100%',
              cursor: 'pointer',
              display: 'grid',
              gridTemplateColumns: '1fr auto',
              gap: 1,
              px: 1,
              py: 0.5,
              borderTop: 1,
              borderColor: 'divider',
              borderStyle: 'solid',
              borderWidth: '1px 0 0',
              '&:focus-visible': { outline: 2, outlineColor: 'tally.selection' },
            }}
          >
            <Box sx={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              <Box component="span" sx={{ color: 'text.secondary', mr: 1 }}>
                {l.item}
              </Box>
              {l.description}
              <Box component="span" sx={{ color: 'text.secondary', ml: 1, fontSize: 12 }}>
                {sectionOf(l.section)}
              </Box>
            </Box>
            <Box sx={right}>{show(l.amount)}</Box>
          </Box>
        ))}
        {data.unchecked.length > MOST_TOLD && (
          <Box sx={{ px: 1, py: 0.5, color: 'text.secondary' }}>and {data.unchecked.length - MOST_TOLD} more</Box>
        )}
      </Box>
    </Box>
  );
}

function Head({ text, note }: { readonly text: string; readonly note: string }) {
  return (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, px: 1, py: 0.75, fontWeight: 650 }}>
      {text}
      <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary' }}>
        {note}
      </Box>
    </Box>
  );
}
