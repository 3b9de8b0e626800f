import ContentCopyIcon from '@mui/icons-material/ContentCopy';
import { Box, IconButton, Link } from '@mui/material';
import type { DropFolderDto } from '@tally/core';
import { useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { Link as RouterLink } from 'react-router';
import { getJson } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { projectKey } from '../../store/slices.ts';
import { copyText } from '../../ui/copy-text.ts';
import { FIGURES } from '../../ui/fonts.ts';

/** The folder whose files come by themselves: where it is, and what in it cannot be taken. */
export function DropFolder() {
  const { project } = useProjectState('project');
  const { enqueueSnackbar } = useSnackbar();
  const { data } = useQuery({
    queryKey: [...projectKey(project.id), 'drop-folder'],
    queryFn: () => getJson<DropFolderDto>(`/projects/${project.id}/drop-folder`),
    refetchInterval: 10_000,
  });
  if (!data) return null;
  const copy = () =>
    copyText(data.path).then(
      () => enqueueSnackbar('The path is copied.'),
      () => enqueueSnackbar('The path could not be copied; mark it and copy it.', { variant: 'error' }),
    );
  return (
    <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
      Files that are put into{' '}
      <Box component="span" data-testid="drop-folder" sx={{ fontFamily: FIGURES, fontSize: 12, userSelect: 'all' }}>
        {data.path}
      </Box>
      <IconButton aria-label="Copy the path of the drop folder" onClick={() => void copy()} sx={{ p: 0.25, mx: 0.25 }}>
        <ContentCopyIcon sx={{ fontSize: 14 }} />
      </IconButton>{' '}
      come by themselves.{' '}
      <Link component={RouterLink} to={`/projects/${project.id}/design-desk`} sx={{ font: 'inherit' }}>
        Design desk
      </Link>{' '}
      stands in for the designers’ program: it puts revisions there.
      {data.troubles.map(({ name, reason }) => (
        <Box key={name} role="alert" sx={{ color: 'error.main' }}>
          {name}: {reason}
        </Box>
      ))}
      {data.unknownFolders.length > 0 && (
        <Box>Folders beside it that belong to no project in use: {data.unknownFolders.join(', ')}.</Box>
      )}
    </Box>
  );
}
