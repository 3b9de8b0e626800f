import AddIcon from '@mui/icons-material/Add';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Autocomplete, Box, Button, IconButton, TextField, Typography } from '@mui/material';
import { type AssemblyParameter, type FormulaNames, type Problem, TEXT_UNIT, UNIT_SYMBOLS } from '@tally/core';
import { useState } from 'react';
import { describeProblem, FormulaText } from '../../ui/formula-field.tsx';

/** Parameters of an assembly: what a rule may set, each with its value while nothing else is said. */
export function ParameterList({
  parameters,
  names,
  problems,
  onChange,
}: {
  readonly parameters: readonly AssemblyParameter[];
  readonly names: FormulaNames;
  readonly problems: readonly (Problem | null)[];
  readonly onChange: (parameters: readonly AssemblyParameter[]) => void;
}) {
  const set = (i: number, part: Partial<AssemblyParameter>) =>
    onChange(parameters.map((p, n) => (n === i ? { ...p, ...part } : p)));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Typography variant="h3">Parameters</Typography>
        <Button
          size="small"
          startIcon={<AddIcon />}
          color="inherit"
          onClick={() => onChange([...parameters, { name: `value${parameters.length + 1}`, unit: 'm', value: '1 m' }])}
        >
          Add a parameter
        </Button>
      </Box>
      {parameters.map((p, i) => {
        const problem = problems[i];
        return (
          <Box
            key={i}
            sx={{
              display: 'grid',
              gridTemplateColumns: '120px 100px minmax(130px, 1fr) minmax(140px, 1fr) minmax(120px, 1fr) 32px',
              gap: 1,
              alignItems: 'start',
            }}
          >
            <TextField label="Parameter" value={p.name} onChange={(e) => set(i, { name: e.target.value })} />
            <Autocomplete
              freeSolo
              disableClearable
              options={['number', TEXT_UNIT, ...UNIT_SYMBOLS]}
              inputValue={p.unit}
              onInputChange={(_, unit) => set(i, { unit })}
              renderInput={(props) => <TextField {...props} label="In" />}
            />
            <FormulaText
              label="Value"
              value={p.value}
              names={names}
              problem={problem ? describeProblem(problem, p.value) : null}
              onChange={(value) => set(i, { value })}
            />
            <ChoicesField choices={p.choices} onChange={(choices) => set(i, { choices })} />
            <TextField
              label="Note"
              value={p.note ?? ''}
              onChange={(e) => set(i, { note: e.target.value || undefined })}
            />
            <IconButton
              aria-label={`Take the parameter ${p.name} out`}
              onClick={() => onChange(parameters.filter((_, n) => n !== i))}
            >
              <DeleteOutlineIcon fontSize="small" />
            </IconButton>
          </Box>
        );
      })}
    </Box>
  );
}

const listChoices = (text: string): string[] =>
  text
    .split(';')
    .map((c) => c.trim())
    .filter((c) => c !== '');

/** What a rule can choose from, written with semicolons between; anything while it is empty. */
function ChoicesField({
  choices,
  onChange,
}: {
  readonly choices: readonly string[] | undefined;
  readonly onChange: (choices: readonly string[] | undefined) => void;
}) {
  const [typed, setTyped] = useState('');
  // What is typed stands as long as it is what is held: the parameter may be another one by now.
  const held = (choices ?? []).join('; ');
  const text = listChoices(typed).join('; ') === held ? typed : held;
  return (
    <TextField
      label="To choose from"
      placeholder="0.4 m; 0.6 m"
      value={text}
      slotProps={{ inputLabel: { shrink: true } }}
      onChange={(e) => {
        setTyped(e.target.value);
        const list = listChoices(e.target.value);
        onChange(list.length > 0 ? list : undefined);
      }}
    />
  );
}
