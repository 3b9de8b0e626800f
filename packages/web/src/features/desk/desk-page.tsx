import { Box, Button, Checkbox, FormControlLabel, MenuItem, Slider, TextField, Typography } from '@mui/material';
import { readWorkspaceId } from '@tally/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { getJson, postJson } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { describeError } from '../../store/use-commit.ts';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { useModelPicture } from '../../ui/model-picture.tsx';

type Parameters = Record<string, number | string | boolean>;
interface Desk {
  readonly issued: number;
  readonly parameters: Parameters;
  readonly revisions: Readonly<Record<string, Parameters>>;
}

const FINISHES = ['Oak boards', 'Vinyl sheet', 'Ceramic tiles', 'Carpet tiles', 'Sealed screed'];
const FIELDS: readonly {
  readonly name: string;
  readonly label: string;
  readonly unit?: string;
  readonly choices?: readonly string[];
  /** Of a figure: how far and in what steps it is moved. */
  readonly slider?: { readonly min: number; readonly max: number; readonly step: number };
}[] = [
  { name: 'bays', label: 'Bays of 4.8 m', slider: { min: 6, max: 12, step: 1 } },
  { name: 'storeyHeight', label: 'Storey height', unit: 'mm', slider: { min: 3000, max: 4500, step: 100 } },
  { name: 'outerWall', label: 'Outer wall', choices: ['timber-clad', 'rendered'] },
  { name: 'partition', label: 'Plain partitions', choices: ['plain', 'acoustic'] },
  { name: 'windowHeight', label: 'Window height', unit: 'mm', slider: { min: 600, max: 1600, step: 50 } },
  { name: 'rafterSpacing', label: 'Rafters at centres', unit: 'mm', slider: { min: 400, max: 1200, step: 50 } },
  { name: 'floorPanel', label: 'Floor panel', unit: 'mm', slider: { min: 100, max: 240, step: 10 } },
  { name: 'changingFloor', label: 'Floor of the changing rooms', choices: FINISHES },
  { name: 'changingWall', label: 'Walls of the changing rooms', choices: ['Paint', 'Ceramic tiles'] },
  { name: 'clubFloor', label: 'Floor of the club room', choices: FINISHES },
];

/** A stand-in for the designers: change the building a little and issue a new revision into the project's drop folder. */
export function DeskPage() {
  const { project } = useProjectState('project');
  const { data: desk, error } = useQuery({
    queryKey: ['desk', project.id],
    queryFn: () => getJson<Desk>(`/projects/${project.id}/desk`),
    meta: { isTold: true },
  });
  const Picture = useModelPicture();
  return (
    <Box
      sx={{ flex: 1, minHeight: 0, display: 'grid', gridTemplateColumns: { xs: '1fr', lg: 'minmax(0, 1fr) 380px' } }}
    >
      <Box sx={{ overflow: 'auto', p: 2 }}>
        {desk ? (
          <DeskForm desk={desk} projectId={project.id} />
        ) : (
          error && <Empty title="The design desk cannot be shown">{describeError(error)}</Empty>
        )}
      </Box>
      {Picture && (
        <Box sx={{ borderLeft: 1, borderColor: 'divider', display: { xs: 'none', lg: 'block' }, minHeight: 0 }}>
          <Picture />
        </Box>
      )}
    </Box>
  );
}

function DeskForm({ desk, projectId }: { readonly desk: Desk; readonly projectId: string }) {
  const [parameters, setParameters] = useState<Parameters>(desk.parameters);
  const issue = useMutation({
    mutationFn: () => postJson<{ fileName: string }>(`/projects/${projectId}/desk`, parameters),
  });
  const isOption = readWorkspaceId(projectId).option !== null;
  // What a slider is let go at is issued at once: the plan, or the option one works in, follows.
  const live = useMutation({
    mutationFn: (moved: Parameters) => postJson<{ fileName: string }>(`/projects/${projectId}/desk?now=1`, moved),
  });
  const set = (name: string, value: Parameters[string]) => setParameters({ ...parameters, [name]: value });
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        issue.mutate();
      }}
      sx={{ display: 'grid', gap: 2, maxWidth: 720 }}
    >
      <Box>
        <Typography variant="h2">Design desk</Typography>
        <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
          Stands in for the designers' own program, which is not part of Crisp Tally. It draws Heron Wharf with the
          figures below and puts the file into the project's drop folder, where it is taken like any other. A slider
          that is let go issues a revision at once{isOption ? ', into the option you work in' : ''}.
        </Box>
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: 13 }}>
        <span>Start from the issue</span>
        {Object.entries(desk.revisions).map(([name, preset]) => (
          <Button key={name} variant="outlined" onClick={() => setParameters(preset)}>
            {name}
          </Button>
        ))}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(210px, 1fr))', gap: 1.5 }}>
        {FIELDS.filter((f) => f.slider).map(({ name, label, unit, slider }) => (
          <Box key={name} sx={{ fontSize: 13 }}>
            <Box sx={{ display: 'flex', justifyContent: 'space-between' }}>
              <span>{label}</span>
              <Box component="span" sx={{ fontFamily: FIGURES }}>
                {parameters[name]} {unit ?? ''}
              </Box>
            </Box>
            <Slider
              size="small"
              aria-label={unit ? `${label}, ${unit}` : label}
              value={Number(parameters[name])}
              {...slider}
              onChange={(_, value) => set(name, value)}
              onChangeCommitted={(_, value) => live.mutate({ ...parameters, [name]: value })}
            />
          </Box>
        ))}
        {FIELDS.filter((f) => !f.slider).map((f) => (
          <TextField
            key={f.name}
            label={f.unit ? `${f.label}, ${f.unit}` : f.label}
            select={f.choices !== undefined}
            type={f.choices ? undefined : 'number'}
            value={parameters[f.name] ?? ''}
            onChange={(e) => set(f.name, f.choices ? e.target.value : Number(e.target.value))}
          >
            {f.choices?.map((c) => (
              <MenuItem key={c} value={c}>
                {c}
              </MenuItem>
            ))}
          </TextField>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 2 }}>
        <FormControlLabel
          control={
            <Checkbox
              checked={Boolean(parameters.hasEndWindows)}
              onChange={(e) => set('hasEndWindows', e.target.checked)}
            />
          }
          label="Windows in the west end"
        />
        <FormControlLabel
          control={
            <Checkbox checked={Boolean(parameters.isRedrawn)} onChange={(e) => set('isRedrawn', e.target.checked)} />
          }
          label="Three partitions drawn anew"
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        <Button type="submit" variant="contained" disabled={issue.isPending}>
          Issue the revision
        </Button>
        {issue.isSuccess && (
          <Box role="status" sx={{ fontSize: 13 }}>
            {issue.data.fileName} lies in the drop folder; the plan follows in a moment.
          </Box>
        )}
        {live.isSuccess && !issue.isSuccess && (
          <Box role="status" sx={{ fontSize: 13 }}>
            {live.data.fileName} is being read; the total follows.
          </Box>
        )}
        {live.error && (
          <Box role="alert" sx={{ fontSize: 13, color: 'error.main' }}>
            {describeError(live.error)}
          </Box>
        )}
        {issue.error && (
          <Box role="alert" sx={{ fontSize: 13, color: 'error.main' }}>
            {describeError(issue.error)}
          </Box>
        )}
      </Box>
    </Box>
  );
}
