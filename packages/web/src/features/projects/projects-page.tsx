import { Box, Button, Checkbox, FormControlLabel, TextField, Typography } from '@mui/material';
import { currencyToMinorDigits, type ProjectDto } from '@tally/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ApiProblem, postJson } from '../../api/client.ts';
import { useProjects } from '../../api/queries.ts';
import { FIGURES } from '../../ui/fonts.ts';
import { showMinor, showTime } from '../../ui/format.ts';
import { Mark } from '../../ui/mark.tsx';

/** All projects, and a new one. */
export function ProjectsPage() {
  const { data: projects, error } = useProjects();
  return (
    <Box
      sx={{
        minHeight: '100%',
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 620px) 340px' },
        gap: 6,
        alignContent: 'start',
        justifyContent: 'center',
        px: 4,
        py: 6,
      }}
    >
      <Box sx={{ gridColumn: '1 / -1', display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <Mark size={32} />
        <Typography variant="h1" sx={{ fontSize: 26 }}>
          Crisp Tally
        </Typography>
      </Box>
      <Box>
        <Typography variant="h2" sx={{ mb: 1 }}>
          Projects
        </Typography>
        {error && <Box sx={{ color: 'error.main' }}>{error.message}</Box>}
        <Box sx={{ bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}>
          {projects?.length === 0 && (
            <Box sx={{ p: 2, color: 'text.secondary' }}>None yet. Make the first one beside.</Box>
          )}
          {projects?.map((p) => (
            <Box
              key={p.id}
              component={Link}
              to={`/projects/${p.id}`}
              sx={{
                display: 'flex',
                alignItems: 'baseline',
                gap: 2,
                px: 2,
                py: 1.25,
                color: 'text.primary',
                textDecoration: 'none',
                borderBottom: 1,
                borderColor: 'divider',
                '&:last-child': { borderBottom: 0 },
                '&:hover': { bgcolor: 'tally.petrolSoft' },
              }}
            >
              <Box sx={{ flex: 1, fontWeight: 600 }}>{p.name}</Box>
              <Box sx={{ color: 'text.secondary', fontSize: 13 }}>made {showTime(p.createdAt)}</Box>
              <Box sx={{ fontFamily: FIGURES, width: 130, textAlign: 'right' }}>
                {p.total === null ? '–' : showMinor(p.total, currencyToMinorDigits(p.currency))}
              </Box>
              <Box sx={{ color: 'text.secondary', fontSize: 13 }}>{p.currency}</Box>
            </Box>
          ))}
        </Box>
      </Box>
      <NewProject />
    </Box>
  );
}

function NewProject() {
  const [name, setName] = useState('');
  const [currency, setCurrency] = useState('EUR');
  const [withTemplate, setWithTemplate] = useState(true);
  const navigate = useNavigate();
  const client = useQueryClient();
  const create = useMutation({
    mutationFn: () =>
      postJson<ProjectDto>('/projects', { name, currency: currency.trim().toUpperCase(), withTemplate }),
    onSuccess: (project) => {
      void client.invalidateQueries({ queryKey: ['projects'] });
      navigate(`/projects/${project.id}/sources`);
    },
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
      <FormControlLabel
        control={<Checkbox checked={withTemplate} onChange={(e) => setWithTemplate(e.target.checked)} />}
        label="With the rules and book of Heron Wharf"
      />
      {create.error && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
          {create.error instanceof ApiProblem ? create.error.problem.detail : create.error.message}
        </Box>
      )}
      <Button type="submit" variant="contained" disabled={create.isPending || name.trim() === ''}>
        Make project
      </Button>
    </Box>
  );
}
