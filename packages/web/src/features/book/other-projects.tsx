import { Box, Checkbox, Link } from '@mui/material';
import { currencyToMinorDigits, type ProjectEffectDto } from '@tally/core';
import { Link as RouterLink } from 'react-router';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor, showMove } from '../../ui/format.ts';

/** What a change of prices does to the totals of the other projects; those that are ticked take it over too. */
export function OtherProjects({
  effects,
  chosen,
  onChoose,
}: {
  /** Undefined while it is being calculated. */
  readonly effects: readonly ProjectEffectDto[] | undefined;
  /** Ids of projects. */
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (chosen: ReadonlySet<string>) => void;
}) {
  if (!effects) return <Box sx={{ fontSize: 13, color: 'text.secondary' }}>Looking at the other projects</Box>;
  if (effects.length === 0)
    return <Box sx={{ fontSize: 13, color: 'text.secondary' }}>It touches no other project.</Box>;
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    onChoose(next);
  };
  return (
    <Box>
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        In other projects; those that are ticked take it over too.
      </Box>
      <Box
        component="ul"
        aria-label="Other projects"
        sx={{ listStyle: 'none', m: 0, p: 0, fontSize: 13, maxHeight: 132, overflow: 'auto' }}
      >
        {effects.map(({ projectId, name, currency, prices, move, problem }) => {
          const digits = currencyToMinorDigits(currency);
          return (
            <Box
              component="li"
              key={projectId}
              sx={{
                display: 'grid',
                gridTemplateColumns: '32px minmax(0, 1fr) 110px 130px 120px 46px',
                alignItems: 'center',
                gap: 1,
                borderBottom: 1,
                borderColor: 'divider',
                '& > .figure': { fontFamily: FIGURES, textAlign: 'right' },
              }}
            >
              <Checkbox
                size="small"
                checked={chosen.has(projectId)}
                disabled={move === null}
                onChange={() => toggle(projectId)}
                slotProps={{ input: { 'aria-label': `Take over in ${name} too` } }}
                sx={{ p: 0.25 }}
              />
              <Link component={RouterLink} to={`/projects/${projectId}/plan`}>
                {name}
              </Link>
              <Box sx={{ color: 'text.secondary' }}>{prices === 1 ? 'one price' : `${prices} prices`}</Box>
              {move ? (
                <>
                  <Box className="figure">{showMinor(move.after, digits)}</Box>
                  <Box className="figure">{showMove(move.move, digits)}</Box>
                  <Box sx={{ color: 'text.secondary' }}>{currency}</Box>
                </>
              ) : (
                <Box sx={{ gridColumn: 'span 3', color: 'error.main' }}>{problem}</Box>
              )}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
