import { Box, Button } from '@mui/material';
import { projectOf, readWorkspaceId } from '@tally/core';
import { Link } from 'react-router';
import { useProjectState } from '../store/project-store.tsx';

/** Says across the frame that one works in an option, and leads back. */
export function OptionStrip() {
  const { project, options } = useProjectState('project', 'options');
  const { option } = readWorkspaceId(project.id);
  const own = option === null ? undefined : options[option];
  const count = own?.differences.length ?? 0;
  const base = projectOf(project.id);
  return (
    <Box
      role="status"
      aria-label="Option"
      sx={{
        gridColumn: '1 / -1',
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: 1.5,
        py: 0.25,
        fontSize: 13,
        color: 'text.primary',
        bgcolor: 'tally.petrolSoft',
        borderBottom: 3,
        borderBottomStyle: 'double',
        borderColor: 'primary.main',
      }}
    >
      <span>
        You work in the option <b>{own?.name ?? 'that is gone'}</b>:{' '}
        {count === 0
          ? 'nothing differs from the plan yet'
          : count === 1
            ? 'one thing differs from the plan'
            : `${count} things differ from the plan`}
      </span>
      <Box sx={{ flex: 1 }} />
      {option !== null && (
        <Button size="small" color="inherit" component={Link} to={`/projects/${project.id}/changes?from=base&to=live`}>
          What it moves
        </Button>
      )}
      <Button
        size="small"
        variant="outlined"
        color="inherit"
        component={Link}
        to={`/projects/${base}/changes`}
        title="Back to the plan (O)"
      >
        Back to the plan
      </Button>
    </Box>
  );
}
