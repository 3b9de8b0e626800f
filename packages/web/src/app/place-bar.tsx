import SettingsOutlinedIcon from '@mui/icons-material/SettingsOutlined';
import { Box, Button, IconButton, Tooltip, Typography } from '@mui/material';
import { memo } from 'react';
import { Link, NavLink } from 'react-router';
import { useProjectState } from '../store/project-store.tsx';
import { useOpenFindings } from '../store/slices.ts';
import { FIGURES } from '../ui/fonts.ts';
import { showMinor } from '../ui/format.ts';
import { Mark } from '../ui/mark.tsx';
import { PersonMenu } from './person-menu.tsx';
import { PLACES } from './places.ts';

/** The bar above every page: the project, the places in the order of the work, and beside them what is needed everywhere. */
export const PlaceBar = memo(function PlaceBar({
  onFind,
  onKeys,
}: {
  readonly onFind: () => void;
  readonly onKeys: () => void;
}) {
  const { project, money } = useProjectState('project', 'money');
  const { name, id } = project;
  const { count: findings, stake } = useOpenFindings(id);
  const worth = stake > 0 ? showMinor(stake, money.minorDigits) : '';
  return (
    <Box
      component="header"
      sx={{
        gridColumn: '1 / -1',
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        px: 1.5,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
      }}
    >
      <Box component={Link} to="/" aria-label="All projects" sx={{ display: 'flex' }}>
        <Mark />
      </Box>
      <Typography noWrap title={name} sx={{ fontWeight: 650, minWidth: 60, maxWidth: 190, mr: 0.5, flexShrink: 1 }}>
        {name}
      </Typography>
      <Box component="nav" aria-label="Places" sx={{ display: 'flex', alignSelf: 'stretch', ...PLACE_LOOK }}>
        {PLACES.map(([path, word]) => (
          <NavLink key={path} to={path}>
            {word}
          </NavLink>
        ))}
      </Box>
      <Box sx={{ flex: 1 }} />
      <Box component="nav" aria-label="Beside" sx={{ display: 'flex', alignSelf: 'stretch', ...PLACE_LOOK }}>
        <NavLink to="findings">
          Findings
          {findings > 0 && (
            <Box
              component="span"
              title={`${findings} findings${worth ? `, ${worth} ${money.currency} at stake` : ''}`}
              sx={{
                ml: 0.75,
                px: 0.75,
                borderRadius: 1,
                fontSize: 11.5,
                color: 'text.primary',
                bgcolor: 'tally.unpricedSoft',
              }}
            >
              {findings}
              {worth && (
                <Box component="span" sx={{ display: { xs: 'none', lg: 'inline' }, ml: 0.75, fontFamily: FIGURES }}>
                  · {worth}
                </Box>
              )}
            </Box>
          )}
        </NavLink>
      </Box>
      <Tooltip title="Find an element, an item, a rule or a page (Ctrl/⌘ K)">
        <Button
          color="inherit"
          aria-keyshortcuts="Control+K"
          onClick={onFind}
          sx={{ color: 'text.secondary', fontWeight: 400, minWidth: 0, px: 1 }}
        >
          Find
          <Box
            component="kbd"
            sx={{
              ml: 1,
              fontSize: 11,
              border: 1,
              borderColor: 'divider',
              borderRadius: 0.5,
              px: 0.5,
              display: { xs: 'none', lg: 'inline' },
            }}
          >
            Ctrl K
          </Box>
        </Button>
      </Tooltip>
      <Tooltip title="Settings">
        <IconButton
          component={NavLink}
          to="settings"
          aria-label="Settings"
          sx={{ '&.active': { color: 'primary.main', bgcolor: 'tally.petrolSoft' } }}
        >
          <SettingsOutlinedIcon sx={{ fontSize: 18 }} />
        </IconButton>
      </Tooltip>
      <PersonMenu onKeys={onKeys} />
    </Box>
  );
});

const PLACE_LOOK = {
  '& a': {
    display: 'flex',
    alignItems: 'center',
    px: 1,
    color: 'text.secondary',
    textDecoration: 'none',
    fontSize: 13.5,
    whiteSpace: 'nowrap',
    borderBottom: '2px solid transparent',
    '&:hover': { color: 'text.primary' },
    '&.active': { color: 'text.primary', fontWeight: 650, borderColor: 'primary.main' },
    '&:focus-visible': { outline: 2, outlineColor: 'tally.selection', outlineOffset: -2 },
  },
} as const;
