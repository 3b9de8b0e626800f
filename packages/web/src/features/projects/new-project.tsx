import { zodResolver } from '@hookform/resolvers/zod';
import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import type { ProjectDto, ProjectListDto } from '@tally/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { ApiProblem, postJson } from '../../store/client.ts';
import { FileInput } from '../../ui/file-input.tsx';
import { FormText } from '../../ui/form-text.tsx';

const STARTER = 'starter';
const DEMO = 'demo';
const NOTHING = 'nothing';
const FILE = 'file';

const formSchema = z.object({
  name: z.string().trim().min(1, 'Give it a name.').max(120, 'A name has at most 120 signs.'),
  currency: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z]{3}$/, 'Three letters, such as EUR.'),
  start: z.string(),
});
type ProjectForm = z.infer<typeof formSchema>;

/** Makes a project: its name, its currency, and whose rules and book it begins with. */
export function NewProject({ projects }: { readonly projects: readonly ProjectListDto[] }) {
  const { control, handleSubmit, watch, formState } = useForm<ProjectForm>({
    defaultValues: { name: '', currency: 'EUR', start: STARTER },
    resolver: zodResolver(formSchema),
    mode: 'onChange',
  });
  const start = watch('start');
  const [file, setFile] = useState<File | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const client = useQueryClient();
  const create = useMutation({
    mutationFn: async (form: ProjectForm) => {
      // Read before anything is made: a file that is none makes no project.
      const template: unknown = form.start === FILE && file ? parse(await file.text()) : null;
      const isOther = ![STARTER, DEMO, NOTHING, FILE].includes(form.start);
      return postJson<ProjectDto>('/projects', {
        name: form.name,
        currency: form.currency,
        withTemplate: form.start === DEMO,
        withStarter: form.start === STARTER,
        ...(isOther && { templateOf: form.start }),
        ...(template !== null && { template }),
      });
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['projects'] }),
    onSuccess: (project) => navigate(`/projects/${project.id}/sources`),
  });
  return (
    <Box
      component="form"
      noValidate
      onSubmit={handleSubmit((form) => create.mutate(form))}
      sx={{ display: 'grid', gap: 1.5, alignContent: 'start' }}
    >
      <Typography variant="h2">New project</Typography>
      <FormText control={control} name="name" label="Name" required />
      <FormText
        control={control}
        name="currency"
        label="Currency"
        required
        slotProps={{ htmlInput: { maxLength: 3 } }}
      />
      <Controller
        control={control}
        name="start"
        render={({ field }) => (
          <TextField
            select
            label="Rules and book"
            value={field.value}
            helperText={
              field.value === FILE
                ? (file?.name ?? 'No file chosen yet.')
                : field.value === STARTER
                  ? 'A first price in a minute; every line says that it is rough.'
                  : ' '
            }
            onChange={(e) => {
              field.onChange(e);
              if (e.target.value === FILE) input.current?.click();
            }}
          >
            <MenuItem value={STARTER}>Rough ones for any building</MenuItem>
            <MenuItem value={DEMO}>Those of Heron Wharf</MenuItem>
            <MenuItem value={NOTHING}>None yet</MenuItem>
            <MenuItem value={FILE}>From a template file</MenuItem>
            {projects.map((p) => (
              <MenuItem key={p.id} value={p.id}>
                As in {p.name}
              </MenuItem>
            ))}
          </TextField>
        )}
      />
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
        disabled={create.isPending || !formState.isValid || (start === FILE && file === null)}
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
