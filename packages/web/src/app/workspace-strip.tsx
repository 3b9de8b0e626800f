import { Box, Button } from '@mui/material';
import { projectOf, readWorkspaceId } from '@tally/core';
import { Link } from 'react-router';
import { useProjectState } from '../store/project-store.tsx';
import { useChanges } from '../store/queries.ts';
import { showTime } from '../ui/format.ts';

/** Says across the frame that one works in an option, or looks at the plan as it was, and leads back. */
export function WorkspaceStrip() {
  const { project } = useProjectState('project');
  const { option, past } = readWorkspaceId(project.id);
  const base = projectOf(project.id);
  return (
    <Box
      role="status"
      aria-label={option === null ? 'As it was' : 'Option'}
      sx={{
        gridColumn: '1 / -1',
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: 1.5,
        py: 0.25,
        fontSize: 13,
        color: 'text.primary',
        bgcolor: option === null ? 'tally.unpricedSoft' : 'tally.petrolSoft',
        borderBottom: 3,
        borderBottomStyle: 'double',
        borderColor: option === null ? 'tally.unpriced' : 'primary.main',
      }}
    >
      {option === null ? <PastWords seq={past ?? 0} /> : <OptionWords option={option} />}
      <Box sx={{ flex: 1 }} />
      <Button
        size="small"
        color="inherit"
        component={Link}
        to={
          option === null
            ? `/projects/${base}/changes?from=seq:${past}&to=live`
            : `/projects/${project.id}/changes?from=base&to=live`
        }
      >
        {option === null ? 'What moved since' : 'What it moves'}
      </Button>
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

function OptionWords({ option }: { readonly option: string }) {
  const { options } = useProjectState('options');
  const own = options[option];
  const count = own?.differences.length ?? 0;
  const differs = count === 0 ? 'nothing differs from the plan yet' : count === 1 ? 'one thing differs from the plan' : `${count} things differ from the plan`; // biome-ignore format: one choice
  return (
    <span>
      You work in the option <b>{own?.name ?? 'that is gone'}</b>: {differs}
    </span>
  );
}

function PastWords({ seq }: { readonly seq: number }) {
  const { project } = useProjectState('project');
  const { data: changes } = useChanges(project.id, 1);
  const [last] = changes ?? [];
  return (
    <span>
      You look at the plan <b>as it was</b>
      {last ? ` after “${last.cause}”, ${last.author}, ${showTime(last.at)}` : seq === 0 ? ' before anything' : ''}:
      nothing can be changed here
    </span>
  );
}
