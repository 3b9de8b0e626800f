import { Box, Button, LinearProgress } from '@mui/material';
import { projectOf } from '@tally/core';
import { type ReactNode, useCallback, useEffect, useState } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { SearchDialog } from '../features/search/search-dialog.tsx';
import { Tape, useNarrowTape } from '../features/tape/tape.tsx';
import { ApiProblem } from '../store/client.ts';
import { ProjectProvider } from '../store/project-store.tsx';
import { SelectionProvider } from '../store/selection.tsx';
import { useProject } from '../store/slices.ts';
import { useUndo } from '../store/use-commit.ts';
import { Empty } from '../ui/empty.tsx';
import { loadLater } from '../ui/load-later.tsx';
import { ComparedPictureProvider, PictureProvider } from '../ui/model-picture.tsx';
import { isPageKey, isTypedInto } from '../ui/page-key.ts';
import { PartBoundary } from '../ui/part-boundary.tsx';
import { KeysDialog } from './keys-dialog.tsx';
import { PlaceBar } from './place-bar.tsx';
import { ALL_PLACES } from './places.ts';
import { useLiveProject } from './use-live-project.ts';
import { WorkspaceStrip } from './workspace-strip.tsx';

const ComparedModels = loadLater(
  'The model',
  () => import('../features/model/compared-models.tsx').then((m) => m.default),
  <LinearProgress />,
);
const ModelPicture = loadLater(
  'The model',
  () => import('../features/model/model-picture.tsx').then((m) => m.default),
  <LinearProgress />,
);

/** Frame of every project page: navigation above, the page, the tape at the right. */
export function ProjectLayout() {
  const { projectId } = useParams() as { projectId: string };
  return (
    <ProjectFeed key={projectId} projectId={projectId}>
      <SelectionProvider>
        <PictureProvider value={ModelPicture}>
          <ComparedPictureProvider value={ComparedModels}>
            <Frame projectId={projectId} />
          </ComparedPictureProvider>
        </PictureProvider>
      </SelectionProvider>
    </ProjectFeed>
  );
}

/** Reads the project and keeps it as the server has it, for all that is inside; that is drawn again by what it asks for only. */
function ProjectFeed({ projectId, children }: { readonly projectId: string; readonly children: ReactNode }) {
  const { data: state, error } = useProject(projectId);
  useLiveProject(projectId);
  // A reading that fails later takes nothing off the screen: what is typed there stays, and the tape says so.
  if (error && !state) {
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
  return <ProjectProvider state={state}>{children}</ProjectProvider>;
}

function Frame({ projectId }: { readonly projectId: string }) {
  const [dialog, setDialog] = useState<'search' | 'keys' | null>(null);
  const [, setNarrow] = useNarrowTape();
  const find = useCallback(() => setDialog('search'), []);
  const showKeys = useCallback(() => setDialog('keys'), []);
  const { mutate: takeBack } = useUndo(projectId);
  const navigate = useNavigate();
  // Another page is another try.
  const place = useLocation().pathname.split('/')[3];
  const isApart = projectOf(projectId) !== projectId;
  useEffect(() => {
    const samePlace = (workspace: string) =>
      window.location.pathname.replace(/^\/projects\/[^/]+/, `/projects/${workspace}`);
    const onKey = (e: KeyboardEvent) => {
      // What a table or a tree has taken (a letter typed on a cell) is no key of the page.
      if (e.defaultPrevented) return;
      const isPlain = isPageKey(e);
      const isCommand = e.ctrlKey || e.metaKey;
      if (isCommand && e.key.toLowerCase() === 'k') {
        e.preventDefault();
        setDialog('search');
      } else if (e.key === '?' && isPlain) setDialog('keys');
      else if (e.key === 'o' && isPlain && isApart) navigate(samePlace(projectOf(projectId)));
      else if (e.key === 't' && isPlain) setNarrow((now) => !now);
      else if (isCommand && e.key.toLowerCase() === 'z' && !isTypedInto(e)) {
        e.preventDefault();
        takeBack(e.shiftKey ? 'redo' : 'undo');
      } else if (e.altKey && /^[1-9]$/.test(e.key)) {
        e.preventDefault();
        const page = ALL_PLACES[Number(e.key) - 1];
        if (page) navigate(`/projects/${projectId}/${page[0]}`);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [navigate, projectId, isApart, takeBack, setNarrow]);
  return (
    <Box
      sx={{
        height: '100%',
        display: 'grid',
        gridTemplateRows: isApart ? '44px auto minmax(0, 1fr)' : '44px minmax(0, 1fr)',
        gridTemplateColumns: 'minmax(0, 1fr) auto',
      }}
    >
      <PlaceBar onFind={find} onKeys={showKeys} />
      {isApart && <WorkspaceStrip />}
      <Box component="main" sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, minWidth: 0 }}>
        <PartBoundary key={place} what="This page">
          <Outlet />
        </PartBoundary>
      </Box>
      <Tape />
      {dialog === 'search' && <SearchDialog onClose={() => setDialog(null)} pages={ALL_PLACES} />}
      {dialog === 'keys' && <KeysDialog onClose={() => setDialog(null)} />}
    </Box>
  );
}
