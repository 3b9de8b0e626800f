import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import type { ProjectDto, ProjectListDto } from '@tally/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { ApiProblem, postJson } from '../../store/client.ts';
import { FileInput } from '../../ui/file-input.tsx';

const DEMO = 'demo';
const NOTHING = 'nothing';
const FILE = 'file';

/** Makes a project: its name, its currency, and whose rules and book it begins with. */
export function NewProject({ projects }: { readonly projects: readonly ProjectListDto[] }) {
  const [name, setName] = useState('');
  const [currency, setCurrency] = useState('EUR');
  const [start, setStart] = useState(DEMO);
  const [file, setFile] = useState<File | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const client = useQueryClient();
  const create = useMutation({
    mutationFn: async () => {
      // Read before anything is made: a file that is none makes no project.
      const template: unknown = start === FILE && file ? parse(await file.text()) : null;
      const isOther = ![DEMO, NOTHING, FILE].includes(start);
      const project = await postJson<ProjectDto>('/projects', {
        name,
        currency: currency.trim().toUpperCase(),
        withTemplate: start === DEMO,
        ...(isOther && { templateOf: start }),
      });
      if (template !== null) await postJson(`/projects/${project.id}/template`, { template });
      return project;
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['projects'] }),
    onSuccess: (project) => navigate(`/projects/${project.id}/sources`),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    create.mutate();
  };
  return (
    <Box component="form" onSubmit={submit} sx={{ display: 'grid', gap: 1.5, alignContent: 'start' }}>
      <Typography variant="h2">New project</Typography>
      <TextField label="Name" value={name} onChange={(e) => setName(e.target.value)} required />
      <TextField
        label="Currency"
        value={currency}
        onChange={(e) => setCurrency(e.target.value)}
        required
        slotProps={{ htmlInput: { maxLength: 3 } }}
      />
      <TextField
        select
        label="Rules and book"
        value={start}
        helperText={start === FILE ? (file?.name ?? 'No file chosen yet.') : ' '}
        onChange={(e) => {
          setStart(e.target.value);
          if (e.target.value === FILE) input.current?.click();
        }}
      >
        <MenuItem value={DEMO}>Those of Heron Wharf</MenuItem>
        <MenuItem value={NOTHING}>None yet</MenuItem>
        <MenuItem value={FILE}>From a template file</MenuItem>
        {projects.map((p) => (
          <MenuItem key={p.id} value={p.id}>
            As in {p.name}
          </MenuItem>
        ))}
      </TextField>
      <FileInput ref={input} label="Template file" accept=".json" onFile={setFile} />
      {create.error && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
          {create.error instanceof ApiProblem
            ? [create.error.problem.detail, create.error.problem.remedy].filter(Boolean).join(' ')
            : create.error.message}
        </Box>
      )}
      <Button
        type="submit"
        variant="contained"
        disabled={create.isPending || name.trim() === '' || (start === FILE && file === null)}
      >
        Make project
      </Button>
    </Box>
  );
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new Error('The file is no template: it is not JSON. Save one from the list of projects.');
  }
}
