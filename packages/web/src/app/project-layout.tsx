import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { Link, NavLink, Outlet, useNavigate, useParams } from 'react-router';
import { ApiProblem } from '../api/client.ts';
import { ProjectProvider } from '../api/project-context.tsx';
import { SelectionProvider } from '../api/selection.tsx';
import { useOpenFindings, useProject } from '../api/slices.ts';
import { useUndo } from '../api/use-change.ts';
import { SearchDialog } from '../features/search/search-dialog.tsx';
import { Tape } from '../features/tape/tape.tsx';
import { Empty } from '../ui/empty.tsx';
import { Mark } from '../ui/mark.tsx';
import { KeysDialog } from './keys-dialog.tsx';
import { PersonMenu } from './person-menu.tsx';
import { useLiveProject } from './use-live-project.ts';

const PAGES = [
  ['model', 'Model'],
  ['takeoff', 'Takeoff'],
  ['plan', 'Plan'],
  ['pricing', 'Pricing'],
  ['book', 'Book'],
  ['changes', 'Changes'],
  ['findings', 'Findings'],
  ['sources', 'Sources'],
  ['settings', 'Settings'],
  ['design-desk', 'Design desk'],
] as const;

/** Frame of every project page: navigation above, the page, the tape at the right. */
export function ProjectLayout() {
  const { projectId } = useParams() as { projectId: string };
  const { data: state, error } = useProject(projectId);
  const findings = useOpenFindings(projectId);
  useLiveProject(projectId);
  if (error) {
    const text = error instanceof ApiProblem ? `${error.problem.detail} ${error.problem.remedy ?? ''}` : error.message;
    return (
      <Box sx={{ display: 'flex', height: '100%' }}>
        <Empty title="The project cannot be opened">
          <span>{text}</span>
          <Button component={Link} to="/">
            All projects
          </Button>
        </Empty>
      </Box>
    );
  }
  if (!state) return <LinearProgress />;
  return (
    <ProjectProvider value={state}>
      <SelectionProvider>
        <Frame projectId={projectId} name={state.project.name} findings={findings} />
      </SelectionProvider>
    </ProjectProvider>
  );
}

function Frame({
  projectId,
  name,
  findings,
}: {
  readonly projectId: string;
  readonly name: string;
  readonly findings: number;
}) {
  const [dialog, setDialog] = useState<'search' | 'keys' | null>(null);
  const undo = useUndo(projectId);
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const isTyping = (e.target as HTMLElement).closest('input,textarea,[contenteditable]') !== null;
      const isCommand = e.ctrlKey || e.metaKey;
      if (isCommand && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        setDialog('search');
      } else if (e.key === '?' && !isTyping) setDialog('keys');
      else if (isCommand && e.key.toLowerCase() === 'z' && !isTyping) {
        e.preventDefault();
        undo.mutate(e.shiftKey ? 'redo' : 'undo');
      } else if (e.altKey && /^[1-9]$/.test(e.key)) {
        e.preventDefault();
        const page = PAGES[Number(e.key) - 1];
        if (page) navigate(`/projects/${projectId}/${page[0]}`);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [navigate, projectId, undo]);
  return (
    <Box
      sx={{
        height: '100%',
        display: 'grid',
        gridTemplateRows: '44px minmax(0, 1fr)',
        gridTemplateColumns: 'minmax(0, 1fr) 208px',
      }}
    >
      <Box
        component="header"
        sx={{
          gridColumn: '1 / -1',
          display: 'flex',
          alignItems: 'center',
          gap: 1,
          px: 1.5,
          borderBottom: 1,
          borderColor: 'divider',
          bgcolor: 'background.paper',
        }}
      >
        <Box component={Link} to="/" aria-label="All projects" sx={{ display: 'flex' }}>
          <Mark />
        </Box>
        <Typography noWrap sx={{ fontWeight: 650, maxWidth: 190, mr: 0.5 }}>
          {name}
        </Typography>
        <Box
          component="nav"
          aria-label="Pages"
          sx={{
            display: 'flex',
            alignSelf: 'stretch',
            '& a': {
              display: 'flex',
              alignItems: 'center',
              px: 1,
              color: 'text.secondary',
              textDecoration: 'none',
              fontSize: 13.5,
              borderBottom: '2px solid transparent',
              '&:hover': { color: 'text.primary' },
              '&.active': { color: 'text.primary', fontWeight: 650, borderColor: 'primary.main' },
              '&:focus-visible': { outline: 2, outlineColor: 'tally.selection', outlineOffset: -2 },
            },
          }}
        >
          {PAGES.map(([path, label]) => (
            <NavLink key={path} to={path}>
              {label}
              {path === 'findings' && findings > 0 && (
                <Box
                  component="span"
                  title={`${findings} findings`}
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
                </Box>
              )}
            </NavLink>
          ))}
        </Box>
        <Box sx={{ flex: 1 }} />
        <Button
          color="inherit"
          onClick={() => setDialog('search')}
          sx={{ color: 'text.secondary', fontWeight: 400, minWidth: 0 }}
        >
          Find{' '}
          <Box
            component="kbd"
            sx={{ ml: 1, fontSize: 11, border: 1, borderColor: 'divider', borderRadius: 0.5, px: 0.5 }}
          >
            Ctrl K
          </Box>
        </Button>
        <PersonMenu onKeys={() => setDialog('keys')} />
      </Box>
      <Box component="main" sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, minWidth: 0 }}>
        <Outlet />
      </Box>
      <Tape />
      {dialog === 'search' && <SearchDialog onClose={() => setDialog(null)} pages={PAGES} />}
      {dialog === 'keys' && <KeysDialog onClose={() => setDialog(null)} />}
    </Box>
  );
}
