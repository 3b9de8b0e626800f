import { Box, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';

export type Settings = ReturnType<typeof useProjectState>['basis']['settings'];

/** One subject of the settings on a sheet of its own. */
export function Part({
  title,
  note,
  children,
}: {
  readonly title: string;
  readonly note: string;
  readonly children: ReactNode;
}) {
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        p: 2,
        display: 'grid',
        gap: 1,
      }}
    >
      <Typography variant="h2">{title}</Typography>
      <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{note}</Box>
      {children}
    </Box>
  );
}

/** The project's settings, and the way to change them, which says why a change was refused. */
export function useSettings(): [Settings, (to: Settings, cause: string) => Promise<string | null>] {
  const { project } = useProjectState('project');
  const { settings } = useBasis('settings');
  const change = useCommit(project.id);
  const save = (to: Settings, cause: string) =>
    refusalOf(
      change.mutateAsync({ cause, diff: { updated: [{ kind: 'settings', id: 'project', from: settings, to }] } }),
    );
  return [settings, save];
}
