import { Box, Typography } from '@mui/material';
import { currencyToMinorDigits, type ProjectListDto } from '@tally/core';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { ALL_PROJECTS, listenToEvents } from '../../store/event-stream.ts';
import { useProjects } from '../../store/queries.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor, showTime } from '../../ui/format.ts';
import { Mark } from '../../ui/mark.tsx';
import { NewProject } from './new-project.tsx';
import { ProjectMenu } from './project-menu.tsx';

/** All projects as they stand, and a new one. */
export function ProjectsPage() {
  const client = useQueryClient();
  const { data, error } = useProjects();
  const [isOpen, setOpen] = useState(false);
  useEffect(
    () =>
      listenToEvents([ALL_PROJECTS], (event) => {
        if (event.kind === 'change' || event.kind === 'projects' || event.kind === 'readAgain' || event.kind === 'here')
          void client.invalidateQueries({ queryKey: ['projects'] });
      }),
    [client],
  );
  const inUse = data?.filter((p) => p.putAwayAt === null) ?? [];
  const away = data?.filter((p) => p.putAwayAt !== null) ?? [];
  return (
    <Box
      sx={{
        minHeight: '100%',
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 760px) 320px' },
        gap: 5,
        alignContent: 'start',
        justifyContent: 'center',
        px: 4,
        py: 6,
      }}
    >
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <Mark size={32} />
        <Typography variant="h1" sx={{ fontSize: 26 }}>
          Crisp Tally
        </Typography>
      </Box>
      <Box>
        <Typography variant="h2" sx={{ mb: 1 }}>
          Projects
        </Typography>
        {error && <Box sx={{ color: 'error.main' }}>{error.message}</Box>}
        <Box
          component="ul"
          aria-label="Projects"
          sx={{ m: 0, p: 0, bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
        >
          {data && inUse.length === 0 && (
            <Box component="li" sx={{ p: 2, color: 'text.secondary', listStyle: 'none' }}>
              None yet. Make the first one beside.
            </Box>
          )}
          {inUse.map((p) => (
            <ProjectRow key={p.id} project={p} />
          ))}
        </Box>
        {away.length > 0 && (
          <Box sx={{ mt: 2 }}>
            <Box
              component="button"
              type="button"
              aria-expanded={isOpen}
              onClick={() => setOpen(!isOpen)}
              sx={{
                all: 'unset',
                cursor: 'pointer',
                fontSize: 13,
                color: 'text.secondary',
                '&:focus-visible': { outline: 2 },
              }}
            >
              {isOpen ? '▾' : '▸'} Put away {away.length}
            </Box>
            {isOpen && (
              <Box
                component="ul"
                aria-label="Projects that were put away"
                sx={{ m: 0, mt: 1, p: 0, border: 1, borderColor: 'divider', borderRadius: 1 }}
              >
                {away.map((p) => (
                  <ProjectRow key={p.id} project={p} />
                ))}
              </Box>
            )}
          </Box>
        )}
      </Box>
      <NewProject projects={inUse} />
    </Box>
  );
}

/** A project: its name and last change, its total and what that lacks. */
function ProjectRow({ project: p }: { readonly project: ProjectListDto }) {
  const { lastChange, shortfall } = p;
  return (
    <Box
      component="li"
      sx={{
        display: 'flex',
        alignItems: 'center',
        pr: 1,
        listStyle: 'none',
        borderBottom: 1,
        borderColor: 'divider',
        '&:last-child': { borderBottom: 0 },
        '&:hover': { bgcolor: 'tally.petrolSoft' },
      }}
    >
      <Box
        component={Link}
        to={`/projects/${p.id}`}
        sx={{
          flex: 1,
          minWidth: 0,
          display: 'grid',
          gridTemplateColumns: 'minmax(0, 1fr) 150px 36px',
          columnGap: 1.5,
          alignItems: 'baseline',
          px: 2,
          py: 1,
          color: 'text.primary',
          textDecoration: 'none',
        }}
      >
        <Box sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{p.name}</Box>
        <Box sx={{ fontFamily: FIGURES, textAlign: 'right' }}>
          {p.total === null ? '–' : showMinor(p.total, currencyToMinorDigits(p.currency))}
        </Box>
        <Box sx={{ color: 'text.secondary', fontSize: 13 }}>{p.currency}</Box>
        <Box
          sx={{
            color: 'text.secondary',
            fontSize: 13,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
          }}
        >
          {lastChange
            ? `${showTime(lastChange.at)}, ${lastChange.author}: ${lastChange.cause}`
            : `made ${showTime(p.createdAt)}`}
        </Box>
        <Box sx={{ gridColumn: '2 / -1', textAlign: 'right', fontSize: 13 }}>
          {shortfall && shortfall.open > 0 ? (
            <Box component="span" sx={{ bgcolor: 'tally.unpricedSoft', px: 0.5 }}>
              so far, {shortfall.open} of {shortfall.of} open
            </Box>
          ) : (
            ''
          )}
        </Box>
      </Box>
      <ProjectMenu project={p} />
    </Box>
  );
}
